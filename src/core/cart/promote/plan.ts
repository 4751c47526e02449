import { compare, decimal, type Decimal, subtract } from '../../decimal/decimal'
import {
  addFractions,
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
import { roundPrice, roundToDigits } from '../../decimal/rounding'
import type { What } from '../../predicates/what'
import type { Promotion, PromotionValue, Saving } from '../../promotions/promotion'
import { QUANTITY_UNITS as UNIT, quantityUnits } from '../../engine/lists/compiled-line'
import { fromUnits } from '../../engine/lists/price-step'
import { type Basket, closedBy, compareUnits, isOpen, type Segment, shareOf, type Take } from './basket'
import { type FormedSet, formSets } from './form-sets'
import type { Goods } from './goods'
import type { WhyNot } from './outcome'

/** Quantities have at most so many digits. */
const QUANTITY_DIGITS = 3

/** More of a variant for nothing. */
export interface Gift {
  readonly variant: string
  /** Whole units. */
  readonly count: number
}

/** What a promotion would do to a basket, exactly. */
export interface Plan {
  readonly takes: readonly Take[]
  /** One for each take. */
  readonly savings: readonly Fraction[]
  readonly uses: number
  readonly sets: readonly FormedSet[]
  readonly gifts: readonly Gift[]
}

type Planned = { readonly ok: true; readonly plan: Plan } | { readonly ok: false; readonly because: WhyNot }

type ValueOf<Kind extends PromotionValue['kind']> = Extract<PromotionValue, { readonly kind: Kind }>

/** What a promotion on goods would take and save, as the basket stands; or what keeps it from saving anything. */
export function planGoods(promotion: Promotion, basket: Basket, goods: Goods, usesLeft: number): Planned {
  const { value } = promotion
  switch (value.kind) {
    case 'item-price':
      return planItemPrice(promotion, value.saving, basket, goods)
    case 'by-quantity':
      return planByQuantity(promotion, value, basket, goods)
    case 'set':
      return planSets(promotion, value, basket, goods, usesLeft)
    case 'free-goods':
      return planFreeGoods(promotion, value, basket, goods, usesLeft)
    case 'order':
      return planOrder(promotion, value, basket, goods)
    case 'delivery':
    case 'payment':
      throw new RangeError(`${promotion.code} is not on goods`)
  }
}

/** Places in the basket a promotion may take units of, the dearest units first. */
function openOf(promotion: Promotion, basket: Basket, goods: Goods): readonly number[] {
  const takes = goods.of(promotion)
  return [...basket.keys()]
    .filter((at) => takes[segmentAt(basket, at).line] && isOpen(segmentAt(basket, at), promotion))
    .sort((one, other) => {
      const [mine, theirs] = [segmentAt(basket, one), segmentAt(basket, other)]
      return compareUnits(theirs, mine) || goods.compareLines(mine.line, theirs.line)
    })
}

function segmentAt(basket: Basket, at: number): Segment {
  return basket[at] as Segment
}

/** Why nothing is open to a promotion. */
function whyNothingOpen(promotion: Promotion, basket: Basket, goods: Goods): WhyNot {
  const held = goods.holds(promotion.scope)
  const used = basket.find(({ line, takenBy }) => held[line] && closedBy(takenBy, promotion))
  const by = used && closedBy(used.takenBy, promotion)
  if (by) return { code: 'used', by: by.id }
  const contract = goods.lines.map((_, line) => held[line] && goods.protectedBy(line)).find(Boolean)
  return contract ? { code: 'protected', contract } : { code: 'not-for-cart' }
}

function not(because: WhyNot): Planned {
  return { ok: false, because }
}

/** The price of a unit is rounded by itself, as it stands in listings. */
function planItemPrice(promotion: Promotion, saving: Saving, basket: Basket, goods: Goods): Planned {
  const open = openOf(promotion, basket, goods)
  if (open.length === 0) return not(whyNothingOpen(promotion, basket, goods))
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

function roundUnit(price: Fraction, { rounding }: Promotion, digits: number): Decimal {
  return rounding ? roundPrice(price, rounding) : roundToDigits(price, digits, 'half-up')
}

function planEach(
  promotion: Promotion,
  saving: Saving,
  open: readonly number[],
  basket: Basket,
  goods: Goods,
): Planned {
  if (open.length === 0) return not(whyNothingOpen(promotion, basket, goods))
  const off = offEach(saving, goods)
  if (!off) return not({ code: 'no-rate' })
  const takes = open.map((at) => ({ segment: at, quantity: segmentAt(basket, at).quantity }))
  return planned(
    takes,
    takes.map(({ segment, quantity }) => off(segmentAt(basket, segment), quantity)),
  )
}

function planned(takes: readonly Take[], savings: readonly Fraction[], more: Partial<Plan> = {}): Planned {
  if (!savings.some(({ numerator }) => numerator > 0n) && !more.gifts?.length)
    return not({ code: 'saves-nothing' })
  // A fixed price each may be above what some units cost: these are left alone.
  const kept = takes.flatMap((take, at) => {
    const saving = savings[at] as Fraction
    return saving.numerator > 0n || more.gifts || more.sets ? [{ take, saving }] : []
  })
  return {
    ok: true,
    plan: {
      takes: kept.map(({ take }) => take),
      savings: kept.map(({ saving }) => saving),
      uses: 1,
      sets: [],
      gifts: [],
      ...more,
    },
  }
}

/** What is taken off some units of a segment. Errors  `null` without a rate. */
function offEach(saving: Saving, goods: Goods): ((segment: Segment, quantity: number) => Fraction) | null {
  if (saving.kind === 'percent')
    return (segment, quantity) => percentOfFraction(shareOf(segment, quantity), saving.percent)
  const amount = goods.money(saving.kind === 'amount' ? saving.amount : saving.price)
  if (!amount) return null
  return (segment, quantity) => {
    const whole = shareOf(segment, quantity)
    const all = multiplyFractions(amount, { numerator: BigInt(quantity), denominator: BigInt(UNIT) })
    if (saving.kind === 'amount') return leastFraction(all, whole)
    const off = subtractFractions(whole, all)
    return off.numerator > 0n ? off : ZERO_FRACTION
  }
}

function planByQuantity(
  promotion: Promotion,
  { from, applies, saving }: ValueOf<'by-quantity'>,
  basket: Basket,
  goods: Goods,
): Planned {
  const open = openOf(promotion, basket, goods)
  if (open.length === 0) return not(whyNothingOpen(promotion, basket, goods))
  const wanted = quantityUnits(from)
  const has = open.reduce((sum, at) => sum + segmentAt(basket, at).quantity, 0)
  if (has < wanted) return tooFew(promotion, basket, goods, wanted, has)
  if (applies === 'all') return planEach(promotion, saving, open, basket, goods)
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

/** Units are missing: because there are too few, or because others have them. */
function tooFew(promotion: Promotion, basket: Basket, goods: Goods, wanted: number, has: number): Planned {
  const inCart = placesNotTaken(promotion, basket, goods).reduce(
    (sum, at) => sum + segmentAt(basket, at).quantity,
    0,
  )
  if (inCart >= wanted) return not(whyNothingOpen(promotion, basket, goods))
  return not({ code: 'too-few', missing: fromUnits(wanted - has, QUANTITY_DIGITS) })
}

function planSets(
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

/** The part of a whole that falls to a share of what it is spread over. */
function portion(whole: Fraction, share: Fraction, of: Fraction): Fraction {
  return multiplyFractions(whole, {
    numerator: share.numerator * of.denominator,
    denominator: share.denominator * of.numerator,
  })
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

/** Places with what a promotion is for, but for what it has itself already: others may have the rest. */
function placesNotTaken(promotion: Promotion, basket: Basket, goods: Goods): readonly number[] {
  const held = goods.of(promotion)
  return [...basket.keys()].filter((at) => {
    const { line, takenBy } = segmentAt(basket, at)
    return held[line] && !takenBy.includes(promotion)
  })
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

function planFreeGoods(
  promotion: Promotion,
  value: ValueOf<'free-goods'>,
  basket: Basket,
  goods: Goods,
  usesLeft: number,
): Planned {
  const { brackets, gift, repeats } = value
  const open = openOf(promotion, basket, goods)
  if (open.length === 0) return not(whyNothingOpen(promotion, basket, goods))
  if (gift === 'same') return planMoreOfTheSame(promotion, value, open, basket, goods, usesLeft)
  const has = open.reduce((sum, at) => sum + Math.floor(segmentAt(basket, at).quantity / UNIT), 0)
  const reached = reachedBracket(brackets, has, repeats, usesLeft)
  if (!reached) return tooFew(promotion, basket, goods, (brackets[0]?.from ?? 0) * UNIT, has * UNIT)
  if (gift === 'bought') {
    const parts = [{ count: reached.from, scope: null }]
    const saving = { kind: 'cheapest-free', count: reached.free } as const
    return planSets(promotion, { kind: 'set', parts, saving }, basket, goods, reached.times)
  }
  const takes = takeUnits(open, basket, reached.from * reached.times)
  return planned(
    takes,
    takes.map(() => ZERO_FRACTION),
    { gifts: [{ variant: gift.variant, count: reached.free * reached.times }], uses: reached.times },
  )
}

/** Each variant counts for itself, on however many lines it stands. */
function planMoreOfTheSame(
  promotion: Promotion,
  { brackets, repeats }: ValueOf<'free-goods'>,
  open: readonly number[],
  basket: Basket,
  goods: Goods,
  usesLeft: number,
): Planned {
  const byVariant = new Map<string, number[]>()
  for (const at of open) {
    const { variant } = (goods.lines[segmentAt(basket, at).line] as Goods['lines'][number]).wanted
    const known = byVariant.get(variant)
    if (known) known.push(at)
    else byVariant.set(variant, [at])
  }
  const takes: Take[] = []
  const gifts: Gift[] = []
  let [uses, most] = [0, 0]
  for (const [variant, places] of byVariant) {
    const has = places.reduce((sum, at) => sum + Math.floor(segmentAt(basket, at).quantity / UNIT), 0)
    most = Math.max(most, has)
    const reached = reachedBracket(brackets, has, repeats, usesLeft - uses)
    if (!reached) continue
    takes.push(...takeUnits(places, basket, reached.from * reached.times))
    gifts.push({ variant, count: reached.free * reached.times })
    uses += reached.times
  }
  if (gifts.length === 0)
    return tooFew(promotion, basket, goods, (brackets[0]?.from ?? 0) * UNIT, most * UNIT)
  return planned(
    takes,
    takes.map(() => ZERO_FRACTION),
    { gifts, uses },
  )
}

/** The highest bracket that so many units reach, and how often. */
function reachedBracket(
  brackets: ValueOf<'free-goods'>['brackets'],
  has: number,
  repeats: boolean,
  usesLeft: number,
) {
  const bracket = brackets.findLast(({ from }) => from <= has)
  if (!bracket || usesLeft < 1) return null
  const times = repeats ? Math.min(Math.floor(has / bracket.from), usesLeft) : 1
  return { ...bracket, times }
}

/** So many whole units from the front. */
function takeUnits(places: readonly number[], basket: Basket, wanted: number): readonly Take[] {
  let missing = wanted * UNIT
  return places.flatMap((at) => {
    const whole = Math.floor(segmentAt(basket, at).quantity / UNIT) * UNIT
    const quantity = Math.min(missing, whole)
    missing -= quantity
    return quantity > 0 ? [{ segment: at, quantity }] : []
  })
}

function planOrder(
  promotion: Promotion,
  { brackets }: ValueOf<'order'>,
  basket: Basket,
  goods: Goods,
): Planned {
  const open = openOf(promotion, basket, goods)
  if (open.length === 0) return not(whyNothingOpen(promotion, basket, goods))
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
