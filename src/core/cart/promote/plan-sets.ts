import { decimal } from '../../decimal/decimal'
import { addFractions, type Fraction, multiplyFractions, ZERO_FRACTION } from '../../decimal/fraction'
import { QUANTITY_UNITS as UNIT } from '../../engine/lists/compiled-line'
import type { What } from '../../predicates/what'
import type { Promotion } from '../../promotions/promotion'
import type { Basket } from './basket'
import { formSets } from './form-sets'
import type { Goods } from './goods'
import type { WhyNot } from './outcome'
import {
  not,
  openOf,
  placesNotTaken,
  planned,
  type Planned,
  portion,
  segmentAt,
  type ValueOf,
  whyNothingOpen,
} from './planned'

/** As many sets as may be used and save something. */
export function planSets(
  promotion: Promotion,
  value: ValueOf<'set'>,
  basket: Basket,
  goods: Goods,
  usesLeft: number,
): Planned {
  const sets = formSets(promotion, value, basket, goods, usesLeft)
  if (sets.length === 0) return not(whyNoSet(promotion, value, basket, goods))
  const counts = new Map<number, { units: number; saving: Fraction }>()
  for (const { times, units, amount, saving } of sets) {
    for (const { segment, count, each } of units) {
      const part = multiplyFractions(each, { numerator: BigInt(count * times), denominator: 1n })
      const own = amount.numerator === 0n ? ZERO_FRACTION : portion(saving, part, amount)
      const known = counts.get(segment)
      counts.set(segment, {
        units: (known?.units ?? 0) + count * times,
        saving: known ? addFractions(known.saving, own) : own,
      })
    }
  }
  const takes = [...counts].map(([segment, { units }]) => ({ segment, quantity: units * UNIT }))
  const savings = [...counts.values()].map(({ saving }) => saving)
  return planned(takes, savings, { sets, uses: sets.reduce((sum, { times }) => sum + times, 0) })
}

function whyNoSet(promotion: Promotion, value: ValueOf<'set'>, basket: Basket, goods: Goods): WhyNot {
  const open = openOf(promotion, basket, goods)
  if (open.length === 0) return whyNothingOpen(promotion, basket, goods)
  const missing = missingUnits(value, open, basket, goods)
  if (missing === 0) return { code: 'saves-nothing' }
  const inCart = placesNotTaken(promotion, basket, goods)
  return missingUnits(value, inCart, basket, goods) === 0
    ? whyNothingOpen(promotion, basket, goods)
    : { code: 'too-few', missing: decimal(missing) }
}

/** How many units a set lacks: for each part, and for all of them where parts want the same. */
function missingUnits(
  { parts }: ValueOf<'set'>,
  places: readonly number[],
  basket: Basket,
  goods: Goods,
): number {
  const unitsIn = (scope: What | null) => {
    const held = scope ? goods.holds(scope) : null
    return places
      .map((at) => segmentAt(basket, at))
      .filter(({ line }) => held?.[line] ?? true)
      .reduce((sum, { quantity }) => sum + Math.floor(quantity / UNIT), 0)
  }
  const byPart = parts.reduce((sum, { count, scope }) => sum + Math.max(0, count - unitsIn(scope)), 0)
  const wanted = parts.reduce((sum, { count }) => sum + count, 0)
  return Math.max(byPart, wanted - unitsIn(null))
}
