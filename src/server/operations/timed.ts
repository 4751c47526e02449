import 'server-only'

import { headers } from 'next/headers'
import { DatabaseGoneError, saysGone } from '../database/presence'
import { PATH_HEADER, REQUEST_ID_HEADER, SIDE_HEADER } from '../doors/outer-door'
import { log } from './log'
import { type Ended, noteRequest, type RequestKind } from './measures'

/** Does what a request asks for, measures it, and tells of it. */
export async function timed<Result>(kind: RequestKind, act: () => Promise<Result> | Result): Promise<Result> {
  const began = performance.now()
  let ended: Ended = 'answered'
  try {
    return await act()
  } catch (error) {
    ended = isLeading(error) ? 'led' : 'failed'
    if (!isOfDatabase(error)) throw error
    // That it is gone is told once, and not of every request.
    if (saysGone(error)) throw new DatabaseGoneError()
    log.error({ err: error }, 'the database did not do what was asked')
    // The framework prints what it is thrown, and that has the values of the statement in it.
    throw new Error('The database did not do what was asked.')
  } finally {
    await note(kind, ended, (performance.now() - began) / 1_000)
  }
}

async function note(kind: RequestKind, ended: Ended, seconds: number): Promise<void> {
  const given = await headers()
  noteRequest(kind, given.get(SIDE_HEADER) ?? 'merchant', ended, seconds)
  const [path] = (given.get(PATH_HEADER) ?? '').split('?')
  const told = {
    request: given.get(REQUEST_ID_HEADER),
    kind,
    path,
    ended,
    seconds: Number(seconds.toFixed(4)),
  }
  if (ended === 'failed') log.error(told, 'a request failed')
  else log.info(told, 'a request')
}

function isOfDatabase(error: unknown): error is Error {
  return error instanceof Error && 'query' in error && 'params' in error
}

/** The framework leads elsewhere, and says that nothing is there, by throwing. */
function isLeading(error: unknown): boolean {
  const digest = error instanceof Error && 'digest' in error ? String(error.digest) : ''
  return digest.startsWith('NEXT_')
}
