'use client'

import { compare, type Decimal, decimal, HUNDRED, multiply, subtract, toFixed } from '@/core/decimal/decimal'
import { divide } from '@/core/decimal/fraction'
import { roundToDigits } from '@/core/decimal/rounding'
import { formatAmount } from '@/ui/format/amount'
import { isQuantity } from '@/ui/frame/vantage-url'
import type { ShopMoney, ShopVariant } from '../frame/shop-view'

interface QuantityPricesProps {
  readonly variant: ShopVariant
  readonly money: ShopMoney
  /** As it is typed. */
  readonly quantity: string
  readonly onChoose: (quantity: string) => void
}

/** From which quantity on each piece costs less; the row of the quantity typed is marked. */
export function QuantityPrices({
  variant: { breaks, price },
  money,
  quantity,
  onChoose,
}: QuantityPricesProps) {
  const now = isQuantity(quantity.trim()) ? decimal(quantity.trim()) : decimal(1)
  const reached = breaks.filter(({ from }) => compare(from, now) <= 0).at(-1) ?? breaks[0]
  const hasPublic = price.was !== null
  return (
    <table className="w-full" data-testid="break-table">
      <caption className="pb-1 text-left text-lg font-semibold">Quantity prices</caption>
      <thead>
        <tr className="border-b border-base-content text-left text-soft">
          <th className="py-1 pl-3 font-normal">Quantity</th>
          <th className="py-1 text-right font-normal">Unit price</th>
          {hasPublic && <th className="py-1 pr-3 text-right font-normal">Below public price</th>}
        </tr>
      </thead>
      <tbody>
        {breaks.map(({ from, unit }, at) => {
          const isReached = from === reached?.from
          return (
            <tr
              key={from}
              className={`border-b border-base-300 ${isReached ? 'border-l-3 border-l-primary bg-primary/10 font-semibold' : ''}`}
            >
              <th scope="row" className="py-2 pl-3 text-left font-[inherit]">
                <button
                  type="button"
                  className={isReached ? '' : 'underline decoration-accent/50 underline-offset-4'}
                  onClick={() => onChoose(from)}
                >
                  {bracketText(from, breaks[at + 1]?.from)}
                </button>
              </th>
              <td className="py-2 text-right tabular-nums">{formatAmount(unit, money.digits)}</td>
              {hasPublic && (
                <td className="py-2 pr-3 text-right font-normal text-soft tabular-nums">
                  {belowText(unit, price.was as Decimal)}
                </td>
              )}
            </tr>
          )
        })}
      </tbody>
    </table>
  )
}

/** `1 to 9`, `10 to 49`, `50 and more`. */
function bracketText(from: string, next: string | undefined): string {
  if (next === undefined) return `${from} and more`
  const isWhole = /^\d+$/.test(from) && /^\d+$/.test(next)
  if (!isWhole) return `${from} to below ${next}`
  return Number(next) - 1 === Number(from) ? from : `${from} to ${Number(next) - 1}`
}

function belowText(unit: Decimal, was: Decimal): string {
  if (compare(was, unit) <= 0) return '–'
  const percent = roundToDigits(divide(multiply(subtract(was, unit), HUNDRED), was), 1, 'half-up')
  return `${toFixed(percent, 1)} %`
}
