import { ZERO_FRACTION } from '../../decimal/fraction'
import { QUANTITY_UNITS as UNIT } from '../../engine/lists/compiled-line'
import type { Basket, Take } from './basket'
import type { Goods } from './goods'
import {
  type Gift,
  not,
  openOf,
  planned,
  type Planned,
  segmentAt,
  tooFew,
  type Turn,
  type ValueOf,
  whyNothingOpen,
} from './planned'
import { planSets } from './plan-sets'

/** Gifts for what is bought, or some of what is bought for nothing. */
export function planFreeGoods(turn: Turn, value: ValueOf<'free-goods'>): Planned {
  const { basket, usesLeft } = turn
  const { brackets, gift, repeats } = value
  const open = openOf(turn)
  if (open.length === 0) return not(whyNothingOpen(turn))
  if (gift === 'same') return planMoreOfTheSame(turn, value, open)
  const has = open.reduce((sum, at) => sum + Math.floor(segmentAt(basket, at).quantity / UNIT), 0)
  const reached = reachedBracket(brackets, has, repeats, usesLeft)
  if (!reached) return tooFew(turn, (brackets[0]?.from ?? 0) * UNIT, has * UNIT)
  if (gift === 'bought') {
    const parts = [{ count: reached.from, scope: null }]
    const saving = { kind: 'cheapest-free', count: reached.free } as const
    return planSets({ ...turn, usesLeft: reached.times }, { kind: 'set', parts, saving })
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
  turn: Turn,
  { brackets, repeats }: ValueOf<'free-goods'>,
  open: readonly number[],
): Planned {
  const { basket, goods, usesLeft } = turn
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
  if (gifts.length === 0) return tooFew(turn, (brackets[0]?.from ?? 0) * UNIT, most * UNIT)
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
