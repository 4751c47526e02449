import { negate, powerOfTen } from '../../decimal/decimal'
import { type Fraction, multiplyFractions, subtractFractions, ZERO_FRACTION } from '../../decimal/fraction'
import { sharedMemory } from '../../maps/shared-memory'
import { isOnBuyer, missingOfBuyer, type PromotionFacts } from '../../promotions/facts'
import { amountOf, roundUnit, takenOff } from '../../promotions/item-saving'
import type { Promotion, Saving } from '../../promotions/promotion'
import { moneyIn } from '../amounts/money-in'
import type { PreparedStore } from '../context/prepared-store'
import type { PricingContext } from '../context/pricing-context'
import { isFiledOnly, keptScopeMatcher } from '../items/scope-matcher'
import { addition, compose, type Operation, percentFactor, scaling, toUnits } from '../lists/operation'
import { holdingPromotions } from './holding'
import { compilePriceStep, type PriceStep, runPriceStep } from '../lists/price-step'

/** A promotion on the price of single items, made ready for one currency. */
export interface ItemPromotion {
  readonly promotion: Promotion
  /** Of the currency view it was made ready for. */
  readonly key: string
  /** Whether it is for an item, by its number. */
  readonly holds: (number: number) => boolean
  /** Whether items that are filed alike are all in its scope, or none. */
  readonly isFiled: boolean
  /** What it makes of a price in the basis of the store; `null` for one that sets a price of its own. */
  readonly step: PriceStep | null
  /**
   * The price after it in smallest units, in the basis of the store; `factor` brings the price before there.
   *
   * Holds   the unit price a cart with the item alone comes to.
   */
  readonly after: (units: number, factor: Fraction | null) => number
  /** The same of a price that is no whole number of units, as the mean of graduated ones; in the basis of the store. */
  readonly afterExactly: (each: Fraction) => number
}

/** Those that change what a buyer pays for an item by itself, in the order they are considered in. */
export interface ItemPromotions {
  readonly prepared: PreparedStore
  readonly pricingContext: PricingContext
  readonly inOrder: readonly ItemPromotion[]
}

/** Made once for a promotion and a currency, as long as the prepared store. */
const MADE = sharedMemory(
  'item-promotions',
  () => new WeakMap<PreparedStore, Map<string, ItemPromotion | null>>(),
)

/**
 * The promotions on item prices that hold for a buyer before anything lies in a cart. Those that look at the rest of the
 * cart, or wait to be taken, are not among them.
 *
 * Units   `at` in epoch milliseconds.
 */
export function openItemPromotions(
  prepared: PreparedStore,
  pricingContext: PricingContext,
  at: number,
  /** `null` leaves promotions out. */
  facts: PromotionFacts | null,
): ItemPromotions {
  if (facts === null) return { prepared, pricingContext, inOrder: [] }
  const inOrder = holdingPromotions(prepared, pricingContext, at, facts)
    .filter(
      ({ value, isOffer, conditions }) =>
        value.kind === 'item-price' &&
        !isOffer &&
        conditions.every(
          (condition) => isOnBuyer(condition) && missingOfBuyer(condition, facts, at) === 'nothing',
        ),
    )
    .flatMap((promotion) => itemPromotion(prepared, pricingContext, promotion) ?? [])
  return { prepared, pricingContext, inOrder }
}

function itemPromotion(
  prepared: PreparedStore,
  pricingContext: PricingContext,
  promotion: Promotion,
): ItemPromotion | null {
  const made = MADE.get(prepared) ?? new Map<string, ItemPromotion | null>()
  MADE.set(prepared, made)
  // A converted amount follows the rates of the moment.
  const key = `${promotion.id}/${pricingContext.currencyView.key}/${pricingContext.digits}`
  let known = made.get(key)
  if (known === undefined) made.set(key, (known = makeItemPromotion(prepared, pricingContext, promotion)))
  return known
}

function makeItemPromotion(
  prepared: PreparedStore,
  pricingContext: PricingContext,
  promotion: Promotion,
): ItemPromotion | null {
  const { value, scope, rounding } = promotion
  if (value.kind !== 'item-price') return null
  const { digits } = pricingContext
  const { saving } = value
  const amount =
    saving.kind === 'percent' ? ZERO_FRACTION : moneyIn(prepared, pricingContext, amountOf(saving), digits)
  if (!amount) return null
  const own = operationOf(saving, amount, digits)
  const steps = new Map<string, PriceStep>()
  const stepFor = (operation: Operation, factor: Fraction | null): PriceStep => {
    const key = factor ? `${factor.numerator}:${factor.denominator}` : ''
    let step = steps.get(key)
    if (!step) {
      const same = { source: digits, target: digits }
      const whole = factor ? compose(scaling(factor, same), operation) : operation
      steps.set(key, (step = compilePriceStep(whole, rounding, digits)))
    }
    return step
  }
  const afterExactly = (each: Fraction) => exactly(promotion, saving, amount, each, digits)
  const inUnits = (units: number, factor: Fraction | null): Fraction => {
    const before = { numerator: BigInt(units), denominator: powerOfTen(digits) }
    return factor ? multiplyFractions(before, factor) : before
  }
  return {
    promotion,
    afterExactly,
    key: pricingContext.currencyView.key,
    holds: keptScopeMatcher(prepared, scope),
    isFiled: isFiledOnly(scope),
    step: own && stepFor(own, null),
    after: (units, factor) => {
      const step = own && stepFor(own, factor)
      const price = step ? runPriceStep(step, units) : Number.NaN
      // A step never gives nothing; a promotion may.
      return step && price > step.smallest ? price : afterExactly(inUnits(units, factor))
    },
  }
}

/** `null` for what does not start from the price before, and for what leaves nothing of it. */
function operationOf(saving: Saving, amount: Fraction, digits: number): Operation | null {
  const same = { source: digits, target: digits }
  if (saving.kind === 'price') return null
  if (saving.kind === 'amount')
    return addition({ numerator: -amount.numerator, denominator: amount.denominator }, same)
  const factor = percentFactor(negate(saving.percent))
  return factor.numerator > 0n ? scaling(factor, same) : null
}

function exactly(
  promotion: Promotion,
  saving: Saving,
  amount: Fraction,
  each: Fraction,
  digits: number,
): number {
  const price = roundUnit(subtractFractions(each, takenOff(saving, each, amount)), promotion, digits)
  return toUnits(price, digits)
}
