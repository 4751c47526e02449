import 'server-only'

import type { Decimal } from '@/core/decimal/decimal'
import { amountAt, shownAmounts } from '@/core/engine/amounts/amounts'
import { shownInBasis, storeBasis } from '@/core/engine/amounts/basis'
import { currencyViewInto } from '@/core/engine/context/currency-view'
import { listPrices } from '@/core/engine/price/list-prices'
import type { PreparedStore } from '@/core/engine/context/prepared-store'
import { fromUnits, toPrice } from '@/core/engine/lists/price-step'
import type { PricingContext } from '@/core/engine/context/pricing-context'
import { isBelowCost, marginPercent } from '@/core/price/margin'
import { Slices } from '@/server/doors/slices'

/** A variant that a line of a list gives the price of. */
export interface LineMember {
  /** In the catalogue index. */
  readonly number: number
  /** In the list's currency and basis. */
  readonly price: Decimal
  readonly base: Decimal | null
  /** In percent; `null` without a cost. */
  readonly margin: Decimal | null
  readonly isBelowCost: boolean
}

/**
 * What each line of a list prices, by the line's place in the list; the default line stands behind the last.
 *
 * Units   `quantity` in thousandths, of each variant by itself.
 */
export async function listMembers(
  prepared: PreparedStore,
  pricingContext: PricingContext,
  listId: string,
  quantity: number,
): Promise<ReadonlyMap<number, readonly LineMember[]>> {
  const found = listPrices(prepared, pricingContext, listId, { own: quantity, counted: null })
  const compiled = prepared.lists.get(listId)
  const members = new Map<number, LineMember[]>()
  if (!found || !compiled) return members
  const { digits } = compiled
  const currencyView = currencyViewInto(prepared, pricingContext.currencyView, compiled.list.currency)
  const basis = compiled.basis ?? storeBasis(prepared)
  const amountOf = (field: 'basePrice' | 'cost', number: number) =>
    toPrice(amountAt(shownAmounts(prepared, field, currencyView), number), digits)
  const slices = new Slices()
  for (const [number, line] of found.lineOf.entries()) {
    if (line < 0 || number >= prepared.index.variantCount) continue
    if (slices.isDue()) await slices.rest()
    const units = found.prices[number] as number
    const compared = shownInBasis(prepared, currencyView, number, { units, basis }, storeBasis(prepared))
    const cost = amountOf('cost', number)
    const member: LineMember = {
      number,
      price: fromUnits(units, digits),
      base: amountOf('basePrice', number),
      margin: cost === null || compared === null ? null : marginPercent(compared, cost),
      isBelowCost: cost !== null && compared !== null && isBelowCost(compared, cost),
    }
    const own = members.get(line)
    if (own) own.push(member)
    else members.set(line, [member])
  }
  return members
}
