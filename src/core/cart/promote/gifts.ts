import { findAvailable, type StockLevels, wantedOf } from '../../catalogue/stock'
import { compare, decimal } from '../../decimal/decimal'
import type { PreparedStore } from '../../engine/context/prepared-store'
import type { PricingContext } from '../../engine/context/pricing-context'
import { priceLines, type PricedLine } from '../price-lines'
import type { Gift } from './planned'

/**
 * A gift as a line of the cart, at what it would cost. It obeys access and stock, what is bought of it included, and no
 * limits of quantity.
 *
 * Errors  `null` for what is hidden from the buyer, has no price, or is not there.
 */
export function priceGift(
  prepared: PreparedStore,
  pricingContext: PricingContext,
  { variant, count }: Gift,
  { bought, stock }: { readonly bought: readonly PricedLine[]; readonly stock: StockLevels },
  digits: number,
): PricedLine | null {
  if (!prepared.index.numberOf.has(variant)) return null
  const wanted = { variant, quantity: decimal(count), extras: [] }
  const [line] = priceLines(prepared, pricingContext, [wanted], digits)
  if (!line || line.total === null || !line.access.see || !line.access.buy) return null
  const available = findAvailable(stock, variant)
  const needed = wantedOf([wanted, ...bought.map((each) => each.wanted)], variant)
  return available !== null && compare(available, needed) < 0 ? null : line
}
