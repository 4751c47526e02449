import { UNCOUNTED } from '../catalogue/stock'
import { findMinorDigits } from '../currency/iso-4217'
import { type Decimal, sum } from '../decimal/decimal'
import type { PreparedStore } from '../engine/context/prepared-store'
import { openPricingContextExactly } from '../engine/price/open-pricing-context'
import type { CartQuestion, CartResult } from './cart'
import { findProblems } from './find-problems'
import { NO_FACTS } from '../promotions/facts'
import { promote, withoutPromotions } from './promote/promote'
import { checkLines, priceLines } from './price-lines'
import { taxCart } from './tax-cart'

/**
 * What a cart costs and whether it may be ordered, in stages: each line by itself → promotions → one taxed document → what
 * stands in its way.
 *
 * Errors  names the buyer, variant, extra, channel or currency that does not exist, or a quantity not above zero. A
 *         line that may not be bought or a limit that is broken is a problem of the cart, not an error.
 * Holds   net + tax = gross on every line, for goods, delivery and in all, to the last unit of the currency.
 */
export function priceCart(prepared: PreparedStore, question: CartQuestion): CartResult {
  const opened = openPricingContextExactly(prepared, question)
  if (!opened.ok) return opened
  const wrong = checkLines(prepared, question.lines)
  if (wrong) return { ok: false, error: wrong }
  const pricingContext = opened.value
  const digits = findMinorDigits(pricingContext.currency) ?? 2
  const priced = priceLines(prepared, pricingContext, question.lines, digits)
  const facts = question.promotions ?? NO_FACTS
  const stock = question.stock ?? UNCOUNTED
  const promoted =
    question.promotions === null || prepared.terms.promotions.length === 0
      ? withoutPromotions(priced)
      : promote(prepared, pricingContext, priced, { facts, stock }, digits)
  const { lines, ...taxed } = taxCart(
    prepared,
    pricingContext,
    promoted,
    { payment: facts.payment, stock, isCollected: question.isCollected === true },
    digits,
  )
  const weights = priced.map(({ weight }) => weight)
  return {
    ok: true,
    value: {
      currency: pricingContext.currency,
      digits,
      lines,
      ...taxed,
      untaxed: pricingContext.terms.untaxed,
      weight: weights.every((weight) => weight !== null) ? sum(weights as Decimal[]) : null,
      problems: findProblems(prepared, pricingContext, {
        // Gifts obey no limits of quantity.
        lines: lines.slice(0, priced.length),
        numbered: priced,
        weights,
        goodsNet: taxed.goods.net,
        past: question.past,
      }),
    },
  }
}
