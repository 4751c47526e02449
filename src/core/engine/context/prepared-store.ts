import type { CompiledSchedule } from '../../predicates/when'
import type { Adjustment } from '../../price/adjustment'
import type { Contract } from '../../price/contract'
import type { CompiledRule } from '../../rules/rule'
import type { Store } from '../../store/store'
import type { CatalogueIndex } from '../items/catalogue-index'
import type { CompiledList } from '../lists/compiled-list'
import type { ListsByItem } from '../lists/ladder-index'
import type { Amounts } from './prepared-amounts'
import type { PriceMemory } from './price-memory'
import type { PricingContext } from './pricing-context'
import type { CompiledTerms } from './terms'

/** The price of every item for one buyer, by the numbers of the catalogue index. */
export interface PriceColumn {
  /** In smallest units; NaN where there is no price. */
  readonly prices: Float64Array
  /** By number, 1 where the price contains its tax; `null` where all have the store's basis. */
  readonly bases: Uint8Array | null
  /** Which of `lists` decided: −1 for the base price (or none). */
  readonly sources: Int16Array
  /** Ids of the price lists that `sources` points to. */
  readonly lists: readonly string[]
}

/** A store compiled for questions. Treat as opaque: ask through `ask`, `findPrice` and `priceColumn`. */
export interface PreparedStore {
  readonly store: Store
  readonly index: CatalogueIndex
  readonly lists: ReadonlyMap<string, CompiledList>
  /** Whether any list has another basis than the store, so that amounts with and without tax meet. */
  readonly mixesBases: boolean
  readonly contracts: ReadonlyMap<string, { readonly contract: Contract; readonly period: CompiledSchedule }>
  readonly adjustments: readonly CompiledRule<Adjustment>[]
  readonly terms: CompiledTerms
  /** Made when first asked for: by buyer context, for some instants each. Shared with the store before an edit of lines. */
  readonly pricingContexts: Map<string, PricingContext[]>
  /** What prices start from, by reference and currency view. */
  readonly amounts: Map<string, Amounts>
  /** Whether any item sets a reference amount in a currency, by field and currency. */
  readonly setAmounts: Map<string, boolean>
  /** Made when a price is first looked up, and kept while items keep their numbers. */
  readonly naming: { current: ListsByItem | null }
  /** Made when a price is first looked up. */
  readonly memory: { current: PriceMemory | null }
  /** Where somebody is shown less than there is, all of it: what prices are made of. See `narrowed`. */
  readonly whole?: PreparedStore
  /** Whether no cost is shown. */
  readonly hidesCosts?: boolean
}
