import type { WhoTerm } from '../predicates/who'
import type { Rung } from '../price/ladder'
import type { Store } from '../store/store'
import type { CatalogueIndex } from './catalogue-index'
import type { CompiledList } from './compiled-list'

/** The price of every variant for one buyer, by the numbers of the catalogue index. */
export interface PriceColumn {
  /** In smallest units; NaN where there is no price. */
  readonly prices: Float64Array
  /** Which of `lists` decided: −1 for the base price (or none). */
  readonly sources: Int16Array
  /** Ids of the price lists that `sources` points to. */
  readonly lists: readonly string[]
}

/** A list on a buyer's ladder. */
export interface LadderList {
  readonly compiled: CompiledList
  readonly rung: Rung
  readonly audience: WhoTerm
}

/** A buyer's lists, top to bottom; lists of one step share rung and rank, and the more specific line decides. */
export type Ladder = readonly (readonly LadderList[])[]

/** A store compiled for questions. Treat as opaque: ask through `ask`, `findPrice` and `priceColumn`. */
export interface PreparedStore {
  readonly store: Store
  readonly digits: number
  readonly index: CatalogueIndex
  /** Base price of each variant in smallest units, by number; NaN where there is none. */
  readonly base: Float64Array
  readonly lists: ReadonlyMap<string, CompiledList>
  /** Made when first asked for. */
  readonly ladders: Map<string, Ladder>
  readonly columns: Map<string, PriceColumn>
}
