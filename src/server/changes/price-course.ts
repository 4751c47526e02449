import 'server-only'

import type { BuyerContext } from '@/core/engine/context/buyer-context'
import type { PreparedStore } from '@/core/engine/context/prepared-store'
import { type PricePeriod, pricePeriods } from '@/core/engine/price/price-periods'
import { and, asc, eq, gt, inArray, lte, or } from 'drizzle-orm'
import * as schema from '../database/schema'
import type { Steppe } from '../engine/steppe'
import { liveView } from '../views/view'
import { preparedAsOf } from './history'

/** Why a price began: somebody changed the store, or a date in it came. */
export type CourseCause =
  | { readonly kind: 'change'; readonly changeSet: number; readonly note: string; readonly author: string }
  /** Names of lists or adjustments that started or ended. */
  | { readonly kind: 'date'; readonly started: readonly string[]; readonly ended: readonly string[] }
  | { readonly kind: 'beginning' }

/** What was paid from an instant on, and why. */
export interface CourseStep extends Omit<PricePeriod, 'holding'> {
  /** Name of the list it came from; empty for the base price. */
  readonly source: string
  readonly cause: CourseCause
}

interface Asked {
  readonly from: BuyerContext
  readonly variant: string
  /** In thousandths. */
  readonly quantity: number
}

/** Changes of these kinds can move a price; of products and variants only those of the item. */
const MOVING = [
  'price-line',
  'price-list',
  'contract',
  'adjustment',
  'account',
  'group',
  'settings',
  'currency',
  'exchange-rate',
  'region',
  'category',
  'price-family',
  'tax-rate',
] as const
/** A price whose store changed more often is told as far as the latest of these. */
const MOST_CHANGES = 60

/**
 * What one buyer paid for one item over a time, computed anew from the store as it was: every step of it, with why it began.
 */
export async function priceCourse(
  steppe: Steppe,
  asked: Asked,
  { start, end }: { readonly start: number; readonly end: number },
): Promise<{ readonly steps: readonly CourseStep[]; readonly isWhole: boolean }> {
  const product = liveView(steppe).prepared.store.variant.get(asked.variant)?.product ?? ''
  const sets = await movingSets(steppe, asked.variant, product, { start, end })
  const shown = sets.slice(-MOST_CHANGES)
  const begin = shown.length < sets.length ? (shown[0]?.at.getTime() ?? start) : start
  const steps: CourseStep[] = []
  const edges = [
    { since: begin, cause: { kind: 'beginning' } as CourseCause },
    ...shown
      .filter(({ at }) => at.getTime() > begin)
      .map(({ id, at, note, author }) => ({
        since: at.getTime(),
        cause: { kind: 'change', changeSet: id, note, author } as CourseCause,
      })),
  ]
  for (const [place, edge] of edges.entries()) {
    const until = edges[place + 1]?.since ?? end
    const prepared = await preparedAsOf(steppe, new Date(edge.since))
    for (const step of stepsWithin(prepared, asked, edge.since, until, edge.cause)) {
      const last = steps.at(-1)
      if (last && last.price === step.price && last.currency === step.currency) continue
      steps.push(step)
    }
  }
  return { steps, isWhole: shown.length === sets.length }
}

/** When the store was made (epoch milliseconds). */
export async function beganAt({ database }: Steppe): Promise<number> {
  const first = await database.query.changeSets.findFirst({ orderBy: asc(schema.changeSets.id) })
  return first?.at.getTime() ?? 0
}

async function movingSets(
  { database, lastChangeSet }: Steppe,
  variant: string,
  product: string,
  { start, end }: { readonly start: number; readonly end: number },
) {
  const { changeSets: sets, changes } = schema
  return database
    .selectDistinct({ id: sets.id, at: sets.at, note: sets.note, author: sets.author })
    .from(changes)
    .innerJoin(sets, eq(sets.id, changes.changeSet))
    .where(
      and(
        gt(sets.at, new Date(start)),
        lte(sets.at, new Date(end)),
        lte(sets.id, lastChangeSet),
        or(
          inArray(changes.kind, [...MOVING]),
          and(eq(changes.kind, 'variant'), eq(changes.record, variant)),
          and(eq(changes.kind, 'product'), eq(changes.record, product)),
        ),
      ),
    )
    .orderBy(asc(sets.id))
}

/** The prices of one state of the store, with why each began. */
function stepsWithin(
  prepared: PreparedStore,
  asked: Asked,
  since: number,
  until: number,
  cause: CourseCause,
): readonly CourseStep[] {
  const periods = pricePeriods(prepared, asked, { since, until })
  return periods.map(({ holding, list, beaten, ...period }, place) => ({
    ...period,
    list,
    beaten,
    source: (list !== null && holding.get(list)) || '',
    cause: place === 0 ? cause : dateCause((periods[place - 1] as PricePeriod).holding, holding),
  }))
}

function dateCause(before: ReadonlyMap<string, string>, now: ReadonlyMap<string, string>): CourseCause {
  return {
    kind: 'date',
    started: [...now].filter(([id]) => !before.has(id)).map(([, name]) => name),
    ended: [...before].filter(([id]) => !now.has(id)).map(([, name]) => name),
  }
}
