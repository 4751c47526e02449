import type { PreparedStore } from '../engine/context/prepared-store'
import type { PricingContext } from '../engine/context/pricing-context'
import type { Steps } from '../steps/steps'
import { type BuyerClass, type Comparison, standsAt } from './buyer-classes'
import { compareCells, compareColumns, type MovedPrice } from './compare-prices'
import { compareTerms, type MovedRights } from './compare-terms'
import type { ItemPairs } from './item-pairs'
import { listsBehind, type Reach, standsAlike } from './reach'
import { GuestsBeside, Standing } from './standing'

/** Everything that is another thing for a class of buyers after than before. */
export interface ClassImpact {
  readonly of: BuyerClass
  /** `null` where nobody stands on that side. */
  readonly currency: { readonly before: string | null; readonly after: string | null }
  readonly digits: number
  readonly prices: readonly MovedPrice[]
  /** Prices that stay, of items that cost something else: what is left of them is another thing. */
  readonly costs: readonly MovedPrice[]
  readonly rights: readonly MovedRights[]
  /** Ids of variants whose limits, and whose taxes, are others. */
  readonly limits: readonly string[]
  readonly taxes: readonly string[]
}

/** Of fewer than this share of all items single prices are looked up quicker than whole columns are computed. */
const FEW_CELLS = 1 / 50
const LEAST_CELLS = 50

/**
 * What changes for one class. Only what the changes can reach is looked at; everything else is the same. `pairsOf` brings items
 * together by their ids, or all of them for `null`.
 */
export function* classImpact(
  comparison: Comparison,
  reach: Reach,
  of: BuyerClass,
  pairsOf: (variants: ReadonlySet<string> | null) => Steps<ItemPairs>,
): Steps<ClassImpact> {
  const [then, now] = [standsAt(comparison, 'before', of), standsAt(comparison, 'after', of)]
  const isNarrow =
    !reach.isEverything &&
    then !== null &&
    now !== null &&
    (reach.leavesStandings || standsAlike([comparison.before, then], [comparison.after, now]))
  const variants = isNarrow ? reachedBy(comparison.after, now, reach) : null
  if (variants?.size === 0) return untouched(of, then, now)
  const pairs = yield* pairsOf(variants)
  const before = then && new Standing(comparison.before, then)
  const after = now && new Standing(comparison.after, now)
  const terms = { rights: [] as MovedRights[], limits: [] as string[], taxes: [] as string[] }
  const found = { prices: [] as MovedPrice[], costs: [] as MovedPrice[] }
  const seen = yield* compareTerms(pairs, before, after, terms)
  if (before && after) {
    const sides = { pairs, before, after, guests: new GuestsBeside(comparison, of) }
    const few = Math.max(LEAST_CELLS, FEW_CELLS * comparison.after.index.variantCount)
    yield* seen.length < few ? compareCells(sides, seen, found) : compareColumns(sides, seen, found)
  }
  return { ...untouched(of, then, now), ...terms, ...found }
}

/** The impact on a class for which nothing is another thing. */
export function untouched(
  of: BuyerClass,
  then: PricingContext | null,
  now: PricingContext | null,
): ClassImpact {
  return {
    of,
    currency: { before: then?.currency ?? null, after: now?.currency ?? null },
    digits: (now ?? then)?.digits ?? 2,
    prices: [],
    costs: [],
    rights: [],
    limits: [],
    taxes: [],
  }
}

function reachedBy(after: PreparedStore, now: PricingContext, reach: Reach): ReadonlySet<string> {
  if (reach.byList.size === 0) return reach.variants
  const found = new Set(reach.variants)
  const behind = listsBehind(after, now)
  const [only, ...others] = [...reach.byList].filter(([list]) => behind.has(list))
  // The very same set for everybody it is all for, so that its items are looked up once.
  if (only && others.length === 0 && reach.variants.size === 0) return only[1]
  for (const [, variants] of only ? [only, ...others] : []) for (const id of variants) found.add(id)
  return found
}
