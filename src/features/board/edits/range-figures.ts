import { compare, type Decimal, decimal, sum } from '@/core/decimal/decimal'
import { divide } from '@/core/decimal/fraction'
import { roundToDigits } from '@/core/decimal/rounding'
import { marginPercent } from '@/core/price/margin'

/** A price of a chosen range, with its cost where one is known. */
export interface RangePrice {
  readonly amount: Decimal
  readonly cost: Decimal | null
  readonly currency: string
}

/** What can be said of the prices of a range. */
export interface RangeFigures {
  readonly count: number
  readonly least: Decimal
  readonly most: Decimal
  /** `null` where the range mixes currencies, which cannot be added up. */
  readonly mean: Decimal | null
  /** Of the prices whose cost is known; percent. */
  readonly meanMargin: Decimal | null
}

/** Errors  `null` for a range without any price. */
export function rangeFigures(prices: readonly RangePrice[], digits: number): RangeFigures | null {
  const amounts = prices.map(({ amount }) => amount).sort(compare)
  const [least, most] = [amounts[0], amounts.at(-1)]
  if (least === undefined || most === undefined) return null
  const margins = prices.flatMap(({ amount, cost }) => {
    const margin = cost === null ? null : marginPercent(amount, cost)
    return margin === null ? [] : [margin]
  })
  const isOneCurrency = prices.every(({ currency }) => currency === prices[0]?.currency)
  return {
    count: amounts.length,
    least,
    most,
    mean: isOneCurrency ? meanOf(amounts, digits) : null,
    meanMargin: margins.length > 0 ? meanOf(margins, 1) : null,
  }
}

function meanOf(values: readonly Decimal[], digits: number): Decimal {
  return roundToDigits(divide(sum(values), decimal(values.length)), digits, 'half-up')
}
