import { compare, decimal, type Decimal, subtract } from '../../decimal/decimal'
import {
  compareFractions,
  type Fraction,
  leastFraction,
  multiplyFractions,
  percentOfFraction,
  subtractFractions,
  sumFractions,
  toFraction,
  ZERO_FRACTION,
} from '../../decimal/fraction'
import { roundToDigits } from '../../decimal/rounding'
import { QUANTITY_UNITS as UNIT, quantityUnits } from '../../engine/lists/compiled-line'
import { amountOf, roundUnit, takenOff } from '../../promotions/item-saving'
import type { Saving } from '../../promotions/promotion'
import { type Segment, shareOf, type Take } from './basket'
import type { Goods } from './goods'
import { planFreeGoods } from './plan-free-goods'
import { planSets } from './plan-sets'
import {
  not,
  openOf,
  planned,
  type Planned,
  portion,
  segmentAt,
  tooFew,
  type Turn,
  type ValueOf,
  whyNothingOpen,
} from './planned'

/** What a promotion on goods would take and save, as the basket stands; or what keeps it from saving anything. */
export function planGoods(turn: Turn): Planned {
  const { value } = turn.promotion
  switch (value.kind) {
    case 'item-price':
      return planItemPrice(turn, value.saving)
    case 'by-quantity':
      return planByQuantity(turn, value)
    case 'set':
      return planSets(turn, value)
    case 'free-goods':
      return planFreeGoods(turn, value)
    case 'order':
      return planOrder(turn, value)
    case 'delivery':
    case 'payment':
      throw new RangeError(`${turn.promotion.code} is not on goods`)
  }
}

/** The price of a unit is rounded by itself, as it stands in listings. */
function planItemPrice(turn: Turn, saving: Saving): Planned {
  const { promotion, basket, goods } = turn
  const open = openOf(turn)
  if (open.length === 0) return not(whyNothingOpen(turn))
  const off = offEach(saving, goods)
  if (!off) return not({ code: 'no-rate' })
  const takes = open.map((at) => ({ segment: at, quantity: segmentAt(basket, at).quantity }))
  const savings = takes.map(({ segment: at, quantity }) => {
    const segment = segmentAt(basket, at)
    const each = shareOf(segment, UNIT)
    const price = roundUnit(subtractFractions(each, off(segment, UNIT)), promotion, goods.priceDigits)
    const less = subtractFractions(each, toFraction(price))
    if (less.numerator <= 0n) return ZERO_FRACTION
    return multiplyFractions(less, { numerator: BigInt(quantity), denominator: BigInt(UNIT) })
  })
  return planned(takes, savings)
}

function planEach({ basket, goods }: Turn, saving: Saving, open: readonly number[]): Planned {
  const off = offEach(saving, goods)
  if (!off) return not({ code: 'no-rate' })
  const takes = open.map((at) => ({ segment: at, quantity: segmentAt(basket, at).quantity }))
  return planned(
    takes,
    takes.map(({ segment, quantity }) => off(segmentAt(basket, segment), quantity)),
  )
}

/** What is taken off some units of a segment. Errors  `null` without a rate. */
function offEach(saving: Saving, goods: Goods): ((segment: Segment, quantity: number) => Fraction) | null {
  const each = saving.kind === 'percent' ? ZERO_FRACTION : goods.money(amountOf(saving))
  if (!each) return null
  return (segment, quantity) =>
    takenOff(
      saving,
      shareOf(segment, quantity),
      multiplyFractions(each, { numerator: BigInt(quantity), denominator: BigInt(UNIT) }),
    )
}

function planByQuantity(turn: Turn, { from, applies, saving }: ValueOf<'by-quantity'>): Planned {
  const { basket, goods } = turn
  const open = openOf(turn)
  if (open.length === 0) return not(whyNothingOpen(turn))
  const wanted = quantityUnits(from)
  const has = open.reduce((sum, at) => sum + segmentAt(basket, at).quantity, 0)
  if (has < wanted) return tooFew(turn, wanted, has)
  if (applies === 'all') return planEach(turn, saving, open)
  const off = offEach(saving, goods)
  if (!off) return not({ code: 'no-rate' })
  let full = wanted
  const takes: Take[] = []
  const savings: Fraction[] = []
  for (const at of open) {
    const segment = segmentAt(basket, at)
    const unmoved = Math.min(full, segment.quantity)
    full -= unmoved
    takes.push({ segment: at, quantity: segment.quantity })
    savings.push(unmoved === segment.quantity ? ZERO_FRACTION : off(segment, segment.quantity - unmoved))
  }
  return planned(takes, savings, { sets: [] })
}

function planOrder(turn: Turn, { brackets }: ValueOf<'order'>): Planned {
  const { basket, goods } = turn
  const open = openOf(turn)
  if (open.length === 0) return not(whyNothingOpen(turn))
  const takes = open.map((at) => ({ segment: at, quantity: segmentAt(basket, at).quantity }))
  const lefts = open.map((at) => segmentAt(basket, at).left)
  const whole = sumFractions(lefts)
  const least = brackets.map(({ from }) => (from ? goods.money(from) : ZERO_FRACTION))
  const at = least.findLastIndex((from) => from !== null && compareFractions(whole, from) >= 0)
  const bracket = brackets[at]
  if (!bracket) {
    const first = least.find((from) => from !== null)
    if (!first) return not({ code: 'no-rate' })
    return not({ code: 'too-little', missing: missingOf(first, whole, goods.digits) })
  }
  if (whole.numerator <= 0n) return not({ code: 'saves-nothing' })
  const { saving } = bracket
  const off =
    saving.kind === 'percent' ? percentOfFraction(whole, saving.percent) : goods.money(saving.amount)
  if (!off) return not({ code: 'no-rate' })
  const total = leastFraction(off, whole)
  return planned(
    takes,
    lefts.map((left) => portion(total, left, whole)),
  )
}

function missingOf(wanted: Fraction, has: Fraction, digits: number): Decimal {
  const missing = subtract(roundToDigits(wanted, digits, 'up'), roundToDigits(has, digits, 'down'))
  return compare(missing, decimal(0)) > 0 ? missing : decimal(0)
}
