import { add, compare, decimal } from '../../decimal/decimal'
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
  bought: readonly PricedLine[],
  digits: number,
): PricedLine | null {
  const record = prepared.store.variant.get(variant)
  if (!record || !prepared.index.numberOf.has(variant)) return null
  const wanted = { variant, quantity: decimal(count), extras: [] }
  const [line] = priceLines(prepared, pricingContext, [wanted], digits)
  if (!line || line.total === null || !line.access.see || !line.access.buy) return null
  const needed = bought
    .filter((each) => each.wanted.variant === variant)
    .reduce((sum, each) => add(sum, each.wanted.quantity), wanted.quantity)
  return record.stock !== null && compare(record.stock, needed) < 0 ? null : line
}
