import { add, decimal, type Decimal, HUNDRED, multiply, subtract } from '../../decimal/decimal'
import { divide } from '../../decimal/fraction'
import { roundToDigits } from '../../decimal/rounding'
import { PERCENT_DIGITS } from './parse-breaks'
import type { Breaks, PriceMethod } from './price-method'

const ONE = decimal(1)

/**
 * A rule whose every price is a percentage higher (lower where it is negative). Fixed prices are rounded half up to the
 * currency's digits, percentages to six digits. An amount off or on something else cannot be raised without knowing the
 * price, so such a method stays as it is.
 *
 * Holds   every other method gives the old price times (1 + percent ÷ 100), up to that rounding.
 */
export function raiseBreaks(breaks: Breaks, percent: Decimal, digits: number): Breaks {
  const factor = add(ONE, share(percent))
  return {
    ...breaks,
    breaks: breaks.breaks.map((each) => ({ ...each, method: raise(each.method, factor, digits) })),
  }
}

function raise(method: PriceMethod, factor: Decimal, digits: number): PriceMethod {
  switch (method.kind) {
    case 'fixed':
      return {
        ...method,
        amount: roundToDigits(divide(multiply(method.amount, factor), ONE), digits, 'half-up'),
      }
    case 'amount':
      return method
    case 'percent':
    case 'markup':
      // (1 + p) × factor − 1
      return {
        ...method,
        percent: inPercent(subtract(multiply(add(ONE, share(method.percent)), factor), ONE)),
      }
    case 'margin': {
      // cost ÷ (1 − m) × factor = cost ÷ (1 − m′), so 1 − m′ = (1 − m) ÷ factor
      const rest = roundToDigits(
        divide(multiply(subtract(ONE, share(method.percent)), HUNDRED), factor),
        PERCENT_DIGITS,
        'half-up',
      )
      return { ...method, percent: subtract(HUNDRED, rest) }
    }
  }
}

function share(percent: Decimal): Decimal {
  return roundToDigits(divide(percent, HUNDRED), PERCENT_DIGITS + 2, 'half-up')
}

function inPercent(share_: Decimal): Decimal {
  return roundToDigits(divide(multiply(share_, HUNDRED), ONE), PERCENT_DIGITS, 'half-up')
}
