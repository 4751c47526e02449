'use client'

import { compare, type Decimal } from '@/core/decimal/decimal'
import { formatAmount } from '@/ui/format/amount'
import type { ShopMoney, ShopProduct, ShopVariant } from '../frame/shop-view'

interface OptionChooserProps {
  readonly product: ShopProduct
  readonly chosen: ShopVariant
  readonly money: ShopMoney
  readonly onChoose: (sku: string) => void
}

/** One row an option, each value with what it costs. */
export function OptionChooser({ product: { axes, variants }, chosen, money, onChoose }: OptionChooserProps) {
  return (
    <div className="grid gap-3 pt-4">
      {axes
        .filter((axis) => valuesOf(variants, axis).length > 1)
        .map((axis) => (
          <fieldset key={axis} className="grid items-start gap-x-3 gap-y-1 sm:grid-cols-[4.25rem_1fr]">
            <legend className="float-left pt-2.5 text-soft max-sm:float-none max-sm:pt-0">{axis}</legend>
            <div className="grid grid-cols-[repeat(auto-fill,minmax(10.5rem,1fr))] gap-2.5">
              {valuesOf(variants, axis).map((value) => {
                const offered = variants.filter(({ options }) => options[axis] === value)
                const best = closest(offered, chosen, axes, axis)
                const isChosen = chosen.options[axis] === value
                const matching = offered.filter((each) => agrees(each, chosen, axes, axis))
                const prices = (matching.length > 0 ? matching : offered).flatMap(({ price }) =>
                  price.own === null ? [] : [price.own],
                )
                return (
                  <label
                    key={value}
                    className={`flex cursor-pointer items-baseline justify-between gap-3 rounded-field border px-3.5 py-2.5 has-focus-visible:outline-2 has-focus-visible:outline-secondary ${isChosen ? 'border-2 border-base-content bg-lifted' : 'border-base-300 hover:bg-base-200'}`}
                  >
                    <input
                      type="radio"
                      className="sr-only"
                      name={`option ${axis}`}
                      value={value}
                      checked={isChosen}
                      onChange={() => best && onChoose(best.sku)}
                    />
                    <span className="font-semibold">{value}</span>
                    <span className="text-soft tabular-nums">{priceText(prices, money)}</span>
                  </label>
                )
              })}
            </div>
          </fieldset>
        ))}
    </div>
  )
}

function valuesOf(variants: readonly ShopVariant[], axis: string): readonly string[] {
  return [...new Set(variants.map(({ options }) => options[axis] ?? ''))]
}

/** Whether a variant has the other options as they are chosen. */
function agrees(
  variant: ShopVariant,
  chosen: ShopVariant,
  axes: readonly string[],
  besides: string,
): boolean {
  return axes.every((axis) => axis === besides || variant.options[axis] === chosen.options[axis])
}

/** The variant that keeps most of what is chosen. */
function closest(
  offered: readonly ShopVariant[],
  chosen: ShopVariant,
  axes: readonly string[],
  besides: string,
): ShopVariant | undefined {
  const kept = (variant: ShopVariant) =>
    axes.filter((axis) => axis !== besides && variant.options[axis] === chosen.options[axis]).length
  return [...offered].sort((left, right) => kept(right) - kept(left))[0]
}

function priceText(prices: readonly Decimal[], { digits }: ShopMoney): string {
  const [lowest, ...others] = [...prices].sort(compare)
  if (lowest === undefined) return ''
  return others.some((each) => each !== lowest)
    ? `from ${formatAmount(lowest, digits)}`
    : formatAmount(lowest, digits)
}
