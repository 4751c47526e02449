import 'server-only'

import type { JudgedRate } from '@/core/currency/published-rates'
import { judgedRates, type RateService } from '@/core/finding/published'
import { getSettings, type Store } from '@/core/store/store'
import { desc, eq, sql } from 'drizzle-orm'
import { randomUUID } from 'node:crypto'
import { commit } from '../changes/commit'
import type { CommitOutcome } from '../changes/commit-outcome'
import type { ChangeRequest } from '../changes/weigh'
import { requireRoom } from '../database/disk-room'
import { ratePublications, rateService } from '../database/door-schema'
import type { Steppe } from '../engine/steppe'
import { log } from '../operations/log'
import { liveView, type Target } from '../views/view'
import { fetchRates, ratesAddress } from './fetch-rates'
import { type RatesFault, readReferenceRates } from './read-reference-rates'

/** The job that asks the service, and when: the rates of a working day are there by four in the afternoon in Frankfurt. */
export const REFERENCE_RATES = 'rates'
export const RATES_ARE_THERE = '10 16 * * 1-5'
export const RATES_ZONE = 'Europe/Berlin'
/** Whoever changes rates that come by themselves. */
const AUTHOR = 'Published rates'
const ONLY_ROW = 1

/** What is known of the service, and how it was found last. */
export interface KnownService extends RateService {
  readonly triedAt: Date | null
  /** Empty when all was well. */
  readonly problem: string
}

export async function knownService({ database }: Pick<Steppe, 'database'>): Promise<KnownService> {
  const [last] = await database.select().from(ratePublications).orderBy(desc(ratePublications.day)).limit(1)
  const [found] = await database.select().from(rateService)
  return {
    published: last ? { day: last.day, per: last.per, rates: new Map(Object.entries(last.rates)) } : null,
    declined: new Set(last?.declined),
    triedAt: found?.triedAt ?? null,
    problem: found?.problem ?? '',
  }
}

/** What came of asking the service. */
export interface Refreshed {
  /** Empty when all was well. */
  readonly problem: string
  /** Currencies whose rate was taken over by itself. */
  readonly taken: readonly string[]
}

/**
 * Asks the service, keeps what it publishes, and takes over the rates of those currencies that follow it, where nothing speaks against
 * one. What leaps, is missing or late waits for a person.
 */
export async function refreshRates(steppe: Steppe, now: Date): Promise<Refreshed> {
  const address = ratesAddress()
  if (address === null) return { problem: 'no service is named', taken: [] }
  requireRoom(steppe)
  const fetched = await fetchRates(address, now.getTime())
  const read = fetched.ok ? readReferenceRates(fetched.text, now.getTime()) : null
  const problem = !fetched.ok ? fetched.problem : read?.ok === false ? faultWords(read.fault) : ''
  const { database } = steppe
  const row = { id: ONLY_ROW, triedAt: now, problem }
  await database.insert(rateService).values(row).onConflictDoUpdate({ target: rateService.id, set: row })
  if (!read?.ok) {
    log.warn({ problem }, 'the published rates could not be read')
    steppe.sync()
    return { problem, taken: [] }
  }
  const rows = read.days.map(({ day, per, rates }) => ({
    ...{ day, per, rates: Object.fromEntries(rates), declined: [], readAt: now },
  }))
  await database
    .insert(ratePublications)
    .values(rows)
    // What is published anew is the better figure; what somebody said of it stays.
    .onConflictDoUpdate({
      target: ratePublications.day,
      set: { rates: sql`excluded.rates`, readAt: sql`excluded.read_at` },
    })
  steppe.sync()
  return { problem: '', taken: await takeOver(steppe, now) }
}

async function takeOver(steppe: Steppe, now: Date): Promise<readonly string[]> {
  const { published } = await knownService(steppe)
  if (!steppe.prepared || !published) return []
  const view = liveView(steppe)
  const moved = judgedRates(view.prepared.store, published, now.getTime()).filter(
    ({ follows, verdict }) => follows && verdict === 'moves',
  )
  if (moved.length === 0) return []
  const taken = moved.map(({ currency }) => currency)
  const outcome = await commit(
    view,
    moved.flatMap((each) => requestOf(view.prepared.store, each, now)),
    { author: AUTHOR, note: `Reference rates of ${published.day}: ${taken.join(', ')}`, at: now },
  )
  if (!outcome.ok) log.error({ code: outcome.code }, 'published rates could not be taken over')
  return outcome.ok ? taken : []
}

/** Uses a published rate from now on, and follows the service for that currency. */
export async function takePublished(
  target: Target & { readonly prepared: NonNullable<Target['prepared']> },
  currency: string,
  { author, at }: { readonly author: string; readonly at: Date },
): Promise<CommitOutcome | { readonly ok: false; readonly code: 'not-published' }> {
  const { published } = await knownService(target.steppe)
  const found = published
    ? judgedRates(target.prepared.store, published, at.getTime()).find((each) => each.currency === currency)
    : undefined
  const requests = found ? requestOf(target.prepared.store, found, at) : []
  if (!published || requests.length === 0) return { ok: false, code: 'not-published' }
  return commit(target, requests, {
    ...{ author, at, note: `Reference rate of ${published.day}: ${found?.rate ?? ''} ${currency}` },
  })
}

function requestOf(store: Store, { currency, rate }: JudgedRate, at: Date): readonly ChangeRequest[] {
  if (rate === null) return []
  const { currency: per } = getSettings(store)
  const after = { id: randomUUID(), currency, per, rate, from: at.toISOString(), source: 'feed' as const }
  return [{ kind: 'exchange-rate', id: after.id, seen: null, after }]
}

/** Says no to the published rate of a currency: it is not asked again before the next is published. */
export async function declinePublished(steppe: Steppe, currency: string): Promise<void> {
  const { published, declined } = await knownService(steppe)
  if (!published) return
  await steppe.database
    .update(ratePublications)
    .set({ declined: [...new Set([...declined, currency])].sort() })
    .where(eq(ratePublications.day, published.day))
  steppe.sync()
}

function faultWords(fault: RatesFault): string {
  switch (fault.code) {
    case 'no-xml':
      return 'what it sends is no file of rates'
    case 'no-rates':
      return 'what it sends holds no rates'
    case 'bad-day':
      return `“${fault.value}” is no day`
    case 'bad-currency':
      return `“${fault.value}” is no currency`
    case 'bad-rate':
      return `“${fault.value}” is no rate`
    case 'twice':
      return `it tells ${fault.value} twice`
    case 'in-future':
      return `it tells the rates of ${fault.value}, which is yet to come`
  }
}
