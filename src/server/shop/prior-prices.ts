import 'server-only'

import type { Decimal } from '@/core/decimal/decimal'
import type { BuyerContext } from '@/core/engine/context/buyer-context'
import type { PreparedStore } from '@/core/engine/context/prepared-store'
import { withChanges } from '@/core/engine/prepare'
import { type PublicPrices, publicPrices } from '@/core/engine/promoted/public-prices'
import { sharedMemory } from '@/core/maps/shared-memory'
import { PAST_LOOKED_AT, type PastPrice, reducedFrom } from '@/core/price/prior-price'
import { getSettings, reverseChanges } from '@/core/store/store'
import { and, asc, desc, eq, gt, lte } from 'drizzle-orm'
import { netChanges } from '../changes/net-changes'
import { changes, changeSets } from '../database/schema'
import { Slices } from '../doors/slices'
import type { Steppe } from '../engine/steppe'
import { toChange } from '../records/undo-unfinished'
import { liveView } from '../views/view'

const MINUTE = 60_000
/** Places, channels and currencies whose prices are kept. */
const MOST_KEPT = 16

/** What the public paid over a time. */
interface PublicCourse {
  /** The change set it is known up to, and the instant (epoch milliseconds). */
  readonly changeSet: number
  readonly at: number
  /** What they pay now. */
  readonly latest: Segment
  /** Of variants, by id, that did not cost the same all the time: every price in the order of time. */
  readonly steps: ReadonlyMap<string, readonly PastPrice[]>
  /** Lowest prices before a reduction, as of a minute. */
  readonly prior: Map<number, ReadonlyMap<string, Decimal>>
}

/** Prices that held from an instant on. */
interface Segment {
  readonly since: number
  readonly prepared: PreparedStore
  readonly prices: PublicPrices
}

const COURSES = sharedMemory(
  'public-courses',
  () => new WeakMap<Steppe, Map<string, Promise<PublicCourse>>>(),
)

/** Of every variant that the public pays less for now than before: the lowest price before, by id. */
export async function priorPrices(steppe: Steppe, from: BuyerContext): Promise<ReadonlyMap<string, Decimal>> {
  const course = await courseOf(steppe, from)
  const minute = Math.floor(from.at / MINUTE)
  let known = course.prior.get(minute)
  if (!known) {
    const found = new Map<string, Decimal>()
    for (const [variant, steps] of course.steps) {
      const prior = reducedFrom(steps, from.at)
      if (prior !== null) found.set(variant, prior)
    }
    course.prior.clear()
    course.prior.set(minute, (known = found))
  }
  return known
}

/** Only where the shop strikes it through, since it has to be looked for in the history. */
export async function priorPricesStruck(
  steppe: Steppe,
  from: BuyerContext,
): Promise<ReadonlyMap<string, Decimal> | null> {
  const { store } = liveView(steppe).prepared
  return getSettings(store).comparedWith === 'prior' ? priorPrices(steppe, from) : null
}

/** Kept, and carried on when the store changes or something in it starts or ends: what is past stays as it was. */
async function courseOf(steppe: Steppe, from: BuyerContext): Promise<PublicCourse> {
  const kept = COURSES.get(steppe) ?? new Map<string, Promise<PublicCourse>>()
  COURSES.set(steppe, kept)
  const key = JSON.stringify([from.channel, from.deliverTo, from.currency])
  const before = await kept.get(key)?.catch(() => null)
  const isUpToDate =
    before &&
    before.changeSet === steppe.lastChangeSet &&
    from.at >= before.at &&
    from.at < before.latest.prices.until
  if (isUpToDate) return before
  const course = findCourse(steppe, from, before && from.at >= before.at ? before : null)
  kept.delete(key)
  kept.set(key, course)
  for (const oldest of [...kept.keys()].slice(0, -MOST_KEPT)) kept.delete(oldest)
  course.catch(() => kept.delete(key))
  return course
}

/** Goes back from the present, state by state, as far as what is known. */
async function findCourse(
  steppe: Steppe,
  from: BuyerContext,
  before: PublicCourse | null,
): Promise<PublicCourse> {
  const { lastChangeSet } = steppe
  const start = before?.at ?? from.at - PAST_LOOKED_AT
  const steps = new Map<string, PastPrice[]>()
  let latest: Segment | null = null
  let later: Segment | null = null
  for await (const segment of segmentsBack(steppe, from, { start, after: before?.changeSet ?? 0 })) {
    latest ??= segment
    if (later) addSteps(steps, segment, later)
    later = segment
  }
  if (!latest || !later) throw new RangeError('nobody can stand in the shop')
  if (before) addSteps(steps, before.latest, later)
  return {
    changeSet: lastChangeSet,
    at: from.at,
    latest,
    steps: before ? joined(before, steps, from.at - PAST_LOOKED_AT) : withFirst(steps, later),
    prior: new Map(),
  }
}

/** What was paid for, newest first, back to an instant. */
async function* segmentsBack(
  steppe: Steppe,
  from: BuyerContext,
  { start, after }: { readonly start: number; readonly after: number },
): AsyncGenerator<Segment> {
  const { database, lastChangeSet } = steppe
  const slices = new Slices()
  const sets = await database
    .select({ id: changeSets.id, at: changeSets.at })
    .from(changeSets)
    .where(
      and(
        // What is known already is known up to a change set; what is not, since an instant.
        after > 0 ? gt(changeSets.id, after) : gt(changeSets.at, new Date(start)),
        gt(changeSets.id, 1),
        lte(changeSets.id, lastChangeSet),
      ),
    )
    .orderBy(desc(changeSets.id))
  let { prepared } = liveView(steppe)
  let until = from.at
  for (const { id, at } of sets) {
    const since = Math.min(at.getTime(), until)
    yield* segmentsOf(prepared, from, since, until)
    await slices.rest()
    const rows = await database
      .select()
      .from(changes)
      .where(eq(changes.changeSet, id))
      .orderBy(asc(changes.position))
    prepared = withChanges(prepared, netChanges(prepared.store, reverseChanges(rows.map(toChange))))
    until = since
  }
  yield* segmentsOf(prepared, from, Math.min(start, until), until)
}

/** The prices of one state of the store, newest first. */
function segmentsOf(
  prepared: PreparedStore,
  from: BuyerContext,
  since: number,
  until: number,
): readonly Segment[] {
  const found: Segment[] = []
  for (let at = since; at <= until;) {
    const prices = publicPrices(prepared, from, at)
    if (!prices) break
    found.unshift({ since: at, prepared, prices })
    if (prices.until >= until) break
    at = Math.max(at + 1, prices.until)
  }
  return found
}

/** Puts the later price of every variant that cost something else before in front of what is known of it. */
function addSteps(steps: Map<string, PastPrice[]>, earlier: Segment, later: Segment): void {
  const [before, after] = [earlier.prepared.index, later.prepared.index]
  const isSameIndex = before === after
  const [then, now] = [earlier.prices.units, later.prices.units]
  for (let number = 0; number < after.variantCount; number += 1) {
    const id = after.items[number] as string
    const place = isSameIndex ? number : before.numberOf.get(id)
    if (then && now && place !== undefined && isSame(then[place] as number, now[number] as number)) continue
    const price = later.prices.priceOf(number)
    const was = place === undefined ? null : earlier.prices.priceOf(place)
    if (price === was) continue
    const known = steps.get(id)
    if (known) known.unshift({ since: later.since, price })
    else steps.set(id, [{ since: later.since, price }])
  }
}

function isSame(left: number, right: number): boolean {
  return left === right || (left !== left && right !== right)
}

/** With the price each had at the beginning. */
function withFirst(
  steps: Map<string, PastPrice[]>,
  first: Segment,
): ReadonlyMap<string, readonly PastPrice[]> {
  for (const [id, known] of steps) known.unshift({ since: first.since, price: priceIn(first, id) })
  return steps
}

function priceIn({ prepared, prices }: Segment, id: string): Decimal | null {
  const number = prepared.index.numberOf.get(id)
  return number === undefined ? null : prices.priceOf(number)
}

/** What was known, with what came since. */
function joined(
  { steps: known, latest, at }: PublicCourse,
  more: ReadonlyMap<string, readonly PastPrice[]>,
  start: number,
): ReadonlyMap<string, readonly PastPrice[]> {
  const all = new Map(known)
  for (const [id, later] of more) {
    const before = all.get(id) ?? [
      { since: Math.min(at - PAST_LOOKED_AT, latest.since), price: priceIn(latest, id) },
    ]
    const together = [...before, ...later]
    // The last price before the days that count still held at their beginning.
    const first = together.findLastIndex(({ since }) => since <= start)
    all.set(id, together.slice(Math.max(0, first)))
  }
  return all
}
