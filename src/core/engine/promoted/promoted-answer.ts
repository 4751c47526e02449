import { type Decimal, multiply, scaleOf } from '../../decimal/decimal'
import { type Fraction, toFraction } from '../../decimal/fraction'
import { roundToDigits } from '../../decimal/rounding'
import type { BasedAmount } from '../../price/based-amount'
import { getSettings } from '../../store/store'
import { storeBasis } from '../amounts/basis'
import type { BuyerContext, Question } from '../context/buyer-context'
import type { FoundPrice } from '../context/found-price'
import { fromUnits } from '../lists/price-step'
import { toUnits } from '../lists/operation'
import { findComparedPrice } from '../price/compared-price'
import type { Quantities } from '../price/find-in-list'
import type { ItemPromotions } from './item-promotions'
import { promotedPrice } from './promoted-price'

/** What promotions on item prices leave of a price, whatever else is bought. */
export interface PromotedAmount {
  /** Of one piece with its extras, in the basis of the store. */
  readonly unit: Decimal
  readonly basis: BasedAmount['basis']
  /** For the quantity asked. */
  readonly total: Decimal
  /** What it is compared with, as the store says. */
  readonly was: BasedAmount | null
  /** One after the other, with what each left. */
  readonly by: readonly { readonly promotion: string; readonly unit: Decimal }[]
}

/**
 * The price of one piece with its extras after promotions.
 *
 * Errors  `null` where they change nothing.
 */
export function promotedAmount(
  promotions: ItemPromotions,
  question: Question,
  number: number,
  quantities: Quantities,
  main: FoundPrice,
  /** Before promotions, in the basis of `main`. */
  unit: Decimal,
  /** The same exactly, where units of different brackets cost what their bracket says. */
  exact: Fraction | null,
): PromotedAmount | null {
  const { pricingContext } = promotions
  const { digits } = pricingContext
  const price = scaleOf(unit) <= digits ? unit : roundToDigits(toFraction(unit), digits, 'half-up')
  const found = { units: toUnits(price, digits), basis: main.basis, entry: main.entry }
  const promoted = promotedPrice(promotions, number, found, exact)
  if (!promoted) return null
  const after = fromUnits(promoted.units, digits)
  return {
    unit: after,
    basis: promoted.basis,
    total: multiply(after, question.quantity),
    was: comparedWithPromoted(promotions, question, number, quantities, { ...found, after: promoted.units }),
    by: promoted.by.map(({ promotion, units }) => ({
      promotion: promotion.id,
      unit: fromUnits(units, digits),
    })),
  }
}

/**
 * What a promoted price is compared with. Where the store compares with what guests pay, who pays that themselves sees what
 * they pay without the promotion.
 */
export function comparedWithPromoted(
  { prepared, pricingContext }: ItemPromotions,
  buyerContext: BuyerContext,
  number: number,
  quantities: Quantities,
  { units, basis, after }: Pick<FoundPrice, 'units' | 'basis'> & { readonly after: number },
): BasedAmount | null {
  const compared = findComparedPrice(prepared, pricingContext, buyerContext, number, quantities, {
    units: after,
    basis: storeBasis(prepared),
  })
  if (compared || getSettings(prepared.store).comparedWith !== 'public') return compared
  return { amount: fromUnits(units, pricingContext.digits), basis }
}
