import 'server-only'

import { createHash } from 'node:crypto'
import { readFileSync, readlinkSync, realpathSync, rmSync, writeFileSync } from 'node:fs'
import { createServer, type Server } from 'node:net'
import { join } from 'node:path'
import { Worker } from 'node:worker_threads'
import { CannotOpenError } from './cannot-open'

/** Another process has the directory: two of them would lose each other's commits. */
export class DirectoryInUseError extends CannotOpenError {
  constructor(
    readonly directory: string,
    readonly processId: string | null,
  ) {
    super(
      `The data in ${directory} is in use by another Steppe` +
        (processId ? ` (process ${processId}).` : '.') +
        ' Stop it first, or start with another --data directory.',
    )
  }
}

export interface DirectoryLock {
  release(): Promise<void>
}

/** A lock silent for so long (milliseconds) belongs to a process that ended without a word. */
const SILENCE = 15_000
const HEARTBEAT = 3_000

const KEEPER = join(process.cwd(), 'src/server/database/lock-keeper.mjs')

/**
 * Takes a directory for this process alone, until it ends.
 *
 * Two locks, each for what the other cannot see. An abstract Unix socket: the kernel frees it whatever way the process
 * ends, but processes in another network namespace (another container on the same volume) do not see it. A lock with a
 * heartbeat in the directory itself: everybody sees it, but after a sudden end it takes some seconds to go stale; one
 * that was left by a process of this very namespace is known to be dead at once, since its socket is free.
 *
 * `lost` is called when the lock was taken away, as after the machine slept: nothing may be written any more.
 *
 * Errors  rejects with `DirectoryInUseError` when another process has it.
 */
export async function lockDirectory(directory: string, lost: (why: string) => void): Promise<DirectoryLock> {
  const real = realpathSync(directory)
  const ownerFile = join(real, 'process')
  const owner = readOwner(ownerFile)
  const socket = await takeSocket(directory, real, owner)
  const here = namespace()
  if (owner && owner.namespace === here) rmSync(join(real, 'lock'), { recursive: true, force: true })
  try {
    const keeper = await startKeeper(directory, real, owner, lost)
    writeFileSync(ownerFile, JSON.stringify({ process: String(process.pid), namespace: here }))
    return {
      release: async () => {
        await stopKeeper(keeper)
        socket.close()
      },
    }
  } catch (error) {
    socket.close()
    throw error
  }
}

async function takeSocket(directory: string, real: string, owner: Owner | null): Promise<Server> {
  const server = createServer()
  await new Promise<void>((resolve, reject) => {
    server.once('error', (error: NodeJS.ErrnoException) =>
      reject(
        error.code === 'EADDRINUSE' ? new DirectoryInUseError(directory, owner?.process ?? null) : error,
      ),
    )
    server.listen(`\0steppe-${createHash('sha1').update(real).digest('hex')}`, resolve)
  })
  server.unref()
  return server
}

type Said = { readonly kind: 'locked' | 'in-use' | 'failed' | 'lost' | 'released'; readonly message?: string }

function startKeeper(
  directory: string,
  real: string,
  owner: Owner | null,
  lost: (why: string) => void,
): Promise<Worker> {
  const keeper = new Worker(KEEPER, {
    workerData: { directory: real, stale: SILENCE, update: HEARTBEAT },
    execArgv: [],
  })
  keeper.unref()
  return new Promise((resolve, reject) => {
    keeper.once('error', reject)
    keeper.on('message', ({ kind, message }: Said) => {
      if (kind === 'locked') resolve(keeper)
      else if (kind === 'in-use') reject(new DirectoryInUseError(directory, owner?.process ?? null))
      else if (kind === 'failed') reject(new Error(message))
      else if (kind === 'lost') lost(message ?? '')
    })
  })
}

function stopKeeper(keeper: Worker): Promise<void> {
  return new Promise((resolve) => {
    keeper.ref()
    keeper.once('exit', () => resolve())
    keeper.postMessage('release')
  })
}

interface Owner {
  readonly process: string
  readonly namespace: string
}

function readOwner(file: string): Owner | null {
  try {
    const read = JSON.parse(readFileSync(file, 'utf8')) as Partial<Owner> | number
    return typeof read === 'object' ? { process: read.process ?? '', namespace: read.namespace ?? '' } : null
  } catch {
    return null
  }
}

/** What tells this boot of this machine and its network namespace from others; empty where nothing does. */
function namespace(): string {
  try {
    const boot = readFileSync('/proc/sys/kernel/random/boot_id', 'utf8').trim()
    return `${boot}/${readlinkSync('/proc/self/ns/net')}`
  } catch {
    return ''
  }
}
