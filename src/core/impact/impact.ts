import type { Steps } from '../steps/steps'
import type { Change } from '../store/store'
import { buyerClasses, type Comparison } from './buyer-classes'
import { classImpact, type ClassImpact } from './class-impact'
import { type Reach, reachOfChanges } from './reach'

const EVERYTHING: Reach = {
  isEverything: true,
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
  const classes = yield* buyerClasses(comparison, reach.mindsTaxes)
  const impacts: ClassImpact[] = []
  for (const [at, of] of classes.entries()) {
    onClass(at, classes.length)
    yield
    impacts.push(yield* classImpact(comparison, reach, of))
  }
  return impacts
}
