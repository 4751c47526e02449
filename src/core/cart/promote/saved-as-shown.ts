import { type Decimal, multiply, subtract, sum, ZERO } from '../../decimal/decimal'
import { divide } from '../../decimal/fraction'
import { roundToDigits } from '../../decimal/rounding'
import type { Cart } from '../cart'

/**
 * What a promotion saves on goods as a buyer is shown amounts: its part of what each line costs less.
 *
 * Units   the cart's currency, with or without tax as `shows` says; each line's part is rounded half up, so that several
 *         promotions on one line may add up to a smallest unit more or less.
 */
export function savedAsShown({ lines, digits }: Cart, promotion: string, shows: 'net' | 'gross'): Decimal {
  return sum(
    lines.map(({ discounts, beforeAmount, amount }) => {
      const own = sum(discounts.filter((each) => each.promotion === promotion).map(({ saving }) => saving))
      const all = sum(discounts.map(({ saving }) => saving))
      if (own === ZERO || !beforeAmount || !amount) return ZERO
      const less = subtract(beforeAmount[shows], amount[shows])
      return roundToDigits(divide(multiply(less, own), all), digits, 'half-up')
    }),
  )
}
