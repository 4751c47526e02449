import type { ListLayout } from './list-layout'

/**
 * Which lists name an item, turned around: asking every list of a ladder in turn whether it does would make a question
 * as dear as the ladder is long. Lists laid out anew since are not in it; they are asked.
 */
export interface ListsByItem {
  readonly ordinals: ReadonlyMap<ListLayout, number>
  /** Those of item k stand at `starts[k]` up to `starts[k + 1]`: the ordinal of the list, and where in it. */
  readonly starts: Int32Array
  readonly lists: Int32Array
  readonly places: Int32Array
}

/** Where a list names an item is not known and must be looked for. */
export const UNSEARCHED = -2

/** Where on a ladder an item can first find a price. */
export interface LadderIndex {
  readonly naming: ListsByItem
  /** The step each list stands on, by ordinal; −1 for lists that are not on the ladder. */
  readonly stepOf: Int16Array
  /** Steps with lists the index does not know, rising. */
  readonly unsure: readonly number[]
  /** The first step whose plan speaks of a signature; `UNKNOWN` until asked. */
  readonly planSteps: Int16Array
  /** Whether an item may have a floor at all. */
  readonly hasFloors: boolean
  /** Tells it from others where prices are remembered. */
  readonly ordinal: number
  /** Where the list of the step found last names the item: −1 where it does not, or `UNSEARCHED`. */
  place: number
}
