import { emptyListPrice, findInList, type Quantities } from './find-in-list'
import { currencyViewInto } from '../context/currency-view'
import type { PreparedStore } from '../context/prepared-store'
import type { PricingContext } from '../context/pricing-context'

/** What a single list gives for every item, whoever it is for, by the numbers of the catalogue index. */
export interface ListPrices {
  /** In smallest units of the list's currency; NaN where the list has no price. */
  readonly prices: Float64Array
  /**
   * Which of the list's lines gives it, in the order of `lines`: −1 where none does. The default line
   * counts as one behind the last.
   */
  readonly lineOf: Int32Array
  /** Ids of the list's lines in the order they are asked. */
  readonly lines: readonly string[]
}

/**
 * A pricing context says when and under which adjustments; quantities how many of each.
 *
 * Errors  `null` when there is no such list.
 */
export function listPrices(
  prepared: PreparedStore,
  pricingContext: PricingContext,
  listId: string,
  quantities: Quantities,
): ListPrices | null {
  const compiled = prepared.lists.get(listId)
  if (!compiled) return null
  const count = prepared.index.items.length
  const prices = new Float64Array(count).fill(Number.NaN)
  const lineOf = new Int32Array(count).fill(-1)
  const currencyView = currencyViewInto(prepared, pricingContext.currencyView, compiled.list.currency)
  const found = emptyListPrice()
  for (let number = 0; number < count; number += 1) {
    if (!findInList(prepared, currencyView, compiled, number, quantities, found)) continue
    prices[number] = found.units
    lineOf[number] = found.line
  }
  return { prices, lineOf, lines: compiled.lines.map(({ id }) => id) }
}
