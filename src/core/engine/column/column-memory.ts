import { sharedMemory } from '../../maps/shared-memory'
import type { PreparedStore, PriceColumn } from '../context/prepared-store'
import type { PricingContext } from '../context/pricing-context'
import type { CompiledList } from '../lists/compiled-list'

/** What columns of one prepared store are made of, and those that were asked for lately. */
interface ColumnMemory {
  /** By pricing context and quantity. */
  readonly columns: Map<string, { readonly pricingContext: PricingContext; readonly column: PriceColumn }>
  /** Prices of the items a list names, by currency view and quantity. */
  readonly flatPrices: Map<CompiledList, Map<string, Float64Array>>
}

const MEMORIES = sharedMemory('columns', () => new WeakMap<PreparedStore, ColumnMemory>())

export function columnMemory(prepared: PreparedStore): ColumnMemory {
  let memory = MEMORIES.get(prepared)
  if (!memory) MEMORIES.set(prepared, (memory = { columns: new Map(), flatPrices: new Map() }))
  return memory
}

/** What is known of lists that are the same in a store made from another one, where no item has changed. */
export function keepFlatPrices(before: PreparedStore, after: PreparedStore): void {
  const kept = new Set(after.lists.values())
  const { flatPrices } = columnMemory(after)
  for (const [compiled, prices] of columnMemory(before).flatPrices)
    if (kept.has(compiled)) flatPrices.set(compiled, prices)
}
