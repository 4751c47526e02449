import { compare, type Decimal, negate, subtract, ZERO } from '../../decimal/decimal'
import { percentOfFraction, toFraction } from '../../decimal/fraction'
import { roundPrice, roundToDigits } from '../../decimal/rounding'
import type { Money, Promotion } from '../../promotions/promotion'
import type { AppliedPromotion, IdlePromotion, WhyNot } from './outcome'

/** A charge after promotions, and how each of them stood. */
export interface PromotedCharge {
  readonly charge: Decimal
  readonly applied: readonly AppliedPromotion[]
  readonly idle: readonly IdlePromotion[]
}

/** An amount of a promotion in the buyer's currency; `null` without a rate. */
type MoneyOf = (money: Money) => Decimal | null

/** What delivery costs after promotions on it; of several the first, and those it may be combined with. */
export function promoteDelivery(
  promotions: readonly Promotion[],
  price: Decimal,
  money: MoneyOf,
  digits: number,
): PromotedCharge {
  const step = (promotion: Promotion, charge: Decimal): Decimal | null => {
    const { value } = promotion
    if (value.kind !== 'delivery') return null
    const { saving } = value
    if (saving.kind === 'free') return charge
    if (saving.kind === 'percent') return roundSaving(promotion, charge, saving.percent, digits)
    if (saving.kind === 'amount') return money(saving.amount)
    const fixed = money(saving.price)
    return fixed && (compare(fixed, charge) < 0 ? subtract(charge, fixed) : ZERO)
  }
  const wanted = promotions.filter(({ value }) => value.kind === 'delivery')
  return applyEach(wanted, price, (promotion, charge) => {
    const saving = step(promotion, charge)
    return saving && (compare(saving, charge) > 0 ? charge : saving)
  })
}

/** What paying so adds to the goods, or takes off them: above zero it is added. */
export function promotePayment(
  promotions: readonly Promotion[],
  payment: 'card' | 'terms' | null,
  goods: Decimal,
  money: MoneyOf,
  digits: number,
): PromotedCharge {
  const wanted = promotions.filter(({ value }) => value.kind === 'payment')
  const own = wanted.filter(({ value }) => value.kind === 'payment' && value.payment === payment)
  const others = wanted.filter((each) => !own.includes(each))
  const { charge, applied, idle } = applyEach(own, ZERO, (promotion) => {
    if (promotion.value.kind !== 'payment') return null
    const { saving, isSurcharge } = promotion.value
    const off =
      saving.kind === 'percent' ? roundSaving(promotion, goods, saving.percent, digits) : money(saving.amount)
    if (off === null) return null
    return isSurcharge ? negate(off) : compare(off, goods) > 0 ? goods : off
  })
  return {
    charge,
    applied,
    idle: [
      ...idle,
      ...others.map(({ id, value }): IdlePromotion => ({
        promotion: id,
        because: {
          code: 'condition',
          condition: { kind: 'payment', payment: value.kind === 'payment' ? value.payment : 'card' },
          missing: null,
        },
      })),
    ],
  }
}

/** Takes off what each promotion saves, where those before it leave it room; a saving below zero is added. */
function applyEach(
  promotions: readonly Promotion[],
  price: Decimal,
  savingOf: (promotion: Promotion, charge: Decimal) => Decimal | null,
): PromotedCharge {
  let charge = price
  const taken: Promotion[] = []
  const applied: AppliedPromotion[] = []
  const idle: IdlePromotion[] = []
  for (const promotion of promotions) {
    const closing = taken.find(({ combines }) => combines === '' || combines !== promotion.combines)
    const saving = closing ? null : savingOf(promotion, charge)
    const because: WhyNot | null = closing
      ? { code: 'used', by: closing.id }
      : saving === null
        ? { code: 'no-rate' }
        : saving === ZERO
          ? { code: 'saves-nothing' }
          : null
    if (because || saving === null) {
      idle.push({ promotion: promotion.id, because: because ?? { code: 'saves-nothing' } })
      continue
    }
    charge = subtract(charge, saving)
    taken.push(promotion)
    applied.push({
      promotion: promotion.id,
      saving,
      uses: 1,
      lines: [],
      sets: [],
      gifts: [],
      capped: null,
      missing: null,
    })
  }
  return { charge, applied, idle }
}

function roundSaving({ rounding }: Promotion, whole: Decimal, percent: Decimal, digits: number): Decimal {
  const saving = percentOfFraction(toFraction(whole), percent)
  return rounding
    ? roundToDigits(toFraction(roundPrice(saving, rounding)), digits, 'half-up')
    : roundToDigits(saving, digits, 'half-up')
}
