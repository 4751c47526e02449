import 'server-only'

import { RATE_MOODS, simulatedRates } from '@/demo/reference-rates'
import { LARGEST_RATES } from './read-reference-rates'

/** The stand-in that ships with Steppe, asked without a network. */
const SIMULATED = 'simulated'
const PATIENCE = 10_000

export type Fetched =
  { readonly ok: true; readonly text: string } | { readonly ok: false; readonly problem: string }

/**
 * Where rates are published: a file of reference rates by http or https, or `simulated`. Nothing where nobody said so: invented rates
 * are for the demo alone.
 */
export function ratesAddress(): string | null {
  return process.env['STEPPE_RATES'] || (process.env['STEPPE_DEMO'] ? SIMULATED : null)
}

/** Whether the rates are made up. */
export function isSimulated(): boolean {
  return ratesAddress() === SIMULATED
}

/** The file as it is published just now. */
export async function fetchRates(address: string, now: number): Promise<Fetched> {
  if (address === SIMULATED) {
    const mood = RATE_MOODS.find((each) => each === process.env['STEPPE_SIMULATED_RATES']) ?? 'well'
    return { ok: true, text: simulatedRates(now, 1, mood) }
  }
  try {
    const answer = await fetch(address, { redirect: 'error', signal: AbortSignal.timeout(PATIENCE) })
    if (!answer.ok) return { ok: false, problem: `it answers ${answer.status}` }
    return await readBounded(answer)
  } catch (error) {
    return {
      ok: false,
      problem:
        error instanceof Error && error.name === 'TimeoutError'
          ? 'it does not answer in time'
          : 'it does not answer',
    }
  }
}

async function readBounded(answer: Response): Promise<Fetched> {
  const parts: Uint8Array[] = []
  let size = 0
  for await (const part of answer.body ?? []) {
    size += part.length
    if (size > LARGEST_RATES) return { ok: false, problem: 'it sends far more than rates' }
    parts.push(part)
  }
  return { ok: true, text: Buffer.concat(parts).toString('utf8') }
}
