import { sharedMemory } from '../maps/shared-memory'
import type { PreparedStore } from '../engine/context/prepared-store'
import type { PricingContext } from '../engine/context/pricing-context'
import type { Steps } from '../steps/steps'
import type { Change } from '../store/store'
import { type BuyerClass, buyerClasses, type Comparison, standsAt } from './buyer-classes'
import { classImpact, type ClassImpact, untouched } from './class-impact'
import { type ItemPairs, pairAll, pairSome } from './item-pairs'
import { listsBehind, type Reach, reachOfChanges } from './reach'

const EVERYTHING: Reach = {
  isEverything: true,
  leavesStandings: false,
  mindsTaxes: true,
  variants: new Set(),
  byList: new Map(),
}

/** Called with how many classes of how many are done. */
type OnClass = (done: number, of: number) => void

/**
 * What changes for whom between two stores: for every class of buyers the prices, rights, limits and taxes that are others.
 * `changes` lead from one store to the other; `null` compares everything, as between two instants.
 *
 * Holds  equal to comparing everything for every buyer.
 */
export function* findImpact(
  comparison: Comparison,
  changes: readonly Change[] | null,
  onClass: OnClass = () => undefined,
): Steps<readonly ClassImpact[]> {
  const reach = changes ? yield* reachOfChanges(comparison.before, comparison.after, changes) : EVERYTHING
  const standing = reach.leavesStandings ? yield* standingClasses(comparison, reach.mindsTaxes) : null
  const classes = standing?.map(({ of }) => of) ?? (yield* buyerClasses(comparison, reach.mindsTaxes))
  const pairs = new Map<ReadonlySet<string> | null, ItemPairs>()
  const pairsOf = function* (variants: ReadonlySet<string> | null): Steps<ItemPairs> {
    const known = pairs.get(variants)
    if (known) return known
    const found = yield* variants ? pairSome(comparison, variants) : pairAll(comparison)
    pairs.set(variants, found)
    return found
  }
  const impacts: ClassImpact[] = []
  for (const [at, of] of classes.entries()) {
    const known = standing?.[at]
    if (known && !isReached(known, reach)) {
      impacts.push(untouched(of, known.context, known.context))
      continue
    }
    onClass(at, classes.length)
    yield
    impacts.push(yield* classImpact(comparison, reach, of, pairsOf))
  }
  return impacts
}

/** A class, what holds for it, and every list its prices come from: what changes of items and lines leave as it is. */
interface StandingClass {
  readonly of: BuyerClass
  readonly context: PricingContext | null
  readonly lists: ReadonlySet<string>
}

function isReached({ lists }: StandingClass, { variants, byList }: Reach): boolean {
  if (variants.size > 0) return true
  for (const list of byList.keys()) if (lists.has(list)) return true
  return false
}

const MOST_INSTANTS = 4
const KNOWN = sharedMemory(
  'standing-classes',
  () => new WeakMap<PreparedStore, Map<string, readonly StandingClass[]>>(),
)

/** The classes of the store before, which are those of the store after too; kept as long as it. */
function* standingClasses(comparison: Comparison, mindsTaxes: boolean): Steps<readonly StandingClass[]> {
  const { before, at, channel } = comparison
  const known = KNOWN.get(before) ?? new Map<string, readonly StandingClass[]>()
  KNOWN.set(before, known)
  const key = `${at}/${channel ?? ''}/${mindsTaxes}`
  const kept = known.get(key)
  if (kept) return kept
  const alone = { ...comparison, after: before }
  const classes = (yield* buyerClasses(alone, mindsTaxes)).map((of): StandingClass => {
    const context = standsAt(alone, 'before', of)
    return { of, context, lists: context ? listsBehind(before, context) : new Set() }
  })
  for (const oldest of [...known.keys()].slice(0, 1 - MOST_INSTANTS)) known.delete(oldest)
  known.set(key, classes)
  return classes
}
