import { type Decimal, subtract, sum, ZERO } from '../../decimal/decimal'
import { type Fraction, subtractFractions, sumFractions } from '../../decimal/fraction'
import { roundToDigits } from '../../decimal/rounding'
import { missingOf, missingOfBuyer, type PromotionFacts } from '../../promotions/facts'
import type { Condition, Promotion } from '../../promotions/promotion'
import type { Goods } from './goods'
import type { WhyNot } from './outcome'

/** The first condition that does not hold, with what is missing; `null` when all do. */
export function findUnmet(
  { conditions, scope }: Promotion,
  goods: Goods,
  facts: PromotionFacts,
  at: number,
): WhyNot | null {
  if (conditions.length === 0) return null
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
      return missingOf(roundUp(subtractFractions(from, sumFractions(amounts)), goods.digits))
    }
    case 'quantity': {
      const has = sum(goods.lines.filter((_, line) => counted(line)).map(({ wanted }) => wanted.quantity))
      return missingOf(subtract(condition.from, has))
    }
    case 'weight': {
      const has = sum(goods.lines.filter((_, line) => counted(line)).map(({ weight }) => weight ?? ZERO))
      return missingOf(subtract(condition.from, has))
    }
    default:
      return missingOfBuyer(condition, facts, at)
  }
}

function roundUp(value: Fraction, digits: number): Decimal {
  return roundToDigits(value, digits, 'up')
}
