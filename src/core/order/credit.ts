import { type Decimal, subtract, sum, ZERO } from '../decimal/decimal'
import { divide, multiplyFractions, toFraction } from '../decimal/fraction'
import { roundToDigits } from '../decimal/rounding'
import type { OrderAmount, OrderLine } from './order'

/**
 * What is owed no more for a line when, beside `before` of it that was taken off already, `after` of it is taken off in all: that
 * share of what was paid for it, promotions and each tax included.
 *
 * Units   in the currency of the order; quantities of the line.
 * Holds   whatever the parts, together they come to the line to the last unit, and net + tax = gross in each.
 */
export function creditOf(line: OrderLine, before: Decimal, after: Decimal, digits: number): OrderAmount {
  const part = (amount: Decimal) =>
    subtract(shareOf(amount, after, line.quantity, digits), shareOf(amount, before, line.quantity, digits))
  const net = part(line.net)
  const tax = line.taxes.length === 0 ? part(line.tax) : sum(line.taxes.map(({ amount }) => part(amount)))
  return { net, tax, gross: sum([net, tax]) }
}

/** The same of one tax of a line: from how much of it on until how much. */
export function creditOfTax(
  amount: Decimal,
  { quantity }: OrderLine,
  [from, to]: readonly [Decimal, Decimal],
  digits: number,
): Decimal {
  return subtract(shareOf(amount, to, quantity, digits), shareOf(amount, from, quantity, digits))
}

/** Rounded from the whole each time, so that nothing is lost between the parts. */
function shareOf(amount: Decimal, quantity: Decimal, of: Decimal, digits: number): Decimal {
  if (quantity === ZERO) return ZERO
  if (quantity === of) return amount
  return roundToDigits(multiplyFractions(toFraction(amount), divide(quantity, of)), digits, 'half-up')
}
