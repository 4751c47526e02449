import { compare, type Decimal, decimal, subtract, sum, ZERO } from '../../decimal/decimal'
import { type Fraction, subtractFractions, sumFractions } from '../../decimal/fraction'
import { roundToDigits } from '../../decimal/rounding'
import { type Condition, type Promotion, sameCode, type UseLimits } from '../../promotions/promotion'
import type { Goods } from './goods'
import type { PromotionFacts, WhyNot } from './outcome'

const DAY = 86_400_000

/** The first condition that does not hold, with what is missing; `null` when all do. */
export function findUnmet(
  { conditions, scope }: Promotion,
  goods: Goods,
  facts: PromotionFacts,
  at: number,
): WhyNot | null {
  const held = goods.holds(scope)
  for (const condition of conditions) {
    const counted = (line: number) =>
      goods.amounts[line] !== null && (!('of' in condition) || condition.of === 'cart' || held[line] === true)
    const missing = missingFor(condition, goods, facts, at, counted)
    if (missing === 'no-rate') return { code: 'no-rate' }
    if (missing !== 'nothing') return { code: 'condition', condition, missing }
  }
  return null
}

type Missing = Decimal | null | 'nothing' | 'no-rate'

function missingFor(
  condition: Condition,
  goods: Goods,
  facts: PromotionFacts,
  at: number,
  counted: (line: number) => boolean,
): Missing {
  switch (condition.kind) {
    case 'value': {
      const from = goods.money(condition.from)
      if (!from) return 'no-rate'
      const amounts = goods.amounts.filter((_, line) => counted(line)) as Fraction[]
      return above(roundUp(subtractFractions(from, sumFractions(amounts)), goods.digits))
    }
    case 'quantity': {
      const has = sum(goods.lines.filter((_, line) => counted(line)).map(({ wanted }) => wanted.quantity))
      return above(subtract(condition.from, has))
    }
    case 'weight': {
      const has = sum(goods.lines.filter((_, line) => counted(line)).map(({ weight }) => weight ?? ZERO))
      return above(subtract(condition.from, has))
    }
    case 'orders':
      return above(subtract(decimal(condition.from), decimal(recent(facts, at, condition.days).length)))
    case 'spend': {
      const spent = sum(recent(facts, at, condition.days).map(({ value }) => value))
      return above(subtract(condition.from.amount, spent))
    }
    case 'first-order':
      return facts.pastOrders?.length === 0 ? 'nothing' : null
    case 'payment':
      return facts.payment === condition.payment ? 'nothing' : null
    case 'code':
      return facts.codes.some((typed) => sameCode(typed, condition.code)) ? 'nothing' : null
  }
}

function recent({ pastOrders }: PromotionFacts, at: number, days: number | null) {
  return (pastOrders ?? []).filter((order) => days === null || order.at > at - days * DAY)
}

function above(missing: Decimal): Missing {
  return compare(missing, ZERO) > 0 ? missing : 'nothing'
}

function roundUp(value: Fraction, digits: number): Decimal {
  return roundToDigits(value, digits, 'up')
}

/** How often it may still be used in this order, and what keeps it from being used more. */
export function usesLeftOf(
  { id, uses }: Promotion,
  facts: PromotionFacts,
): { readonly count: number; readonly by: keyof UseLimits | null } {
  const used = facts.uses[id]
  const limits: readonly (readonly [keyof UseLimits, number])[] = [
    ['total', used?.total ?? 0],
    ['perBuyer', used?.byBuyer ?? 0],
    ['perDay', used?.today ?? 0],
    ['perOrder', 0],
  ]
  let least: { count: number; by: keyof UseLimits | null } = { count: Number.POSITIVE_INFINITY, by: null }
  for (const [by, before] of limits) {
    const limit = uses[by]
    if (limit !== null && Math.max(0, limit - before) < least.count)
      least = { count: Math.max(0, limit - before), by }
  }
  return least
}
