import { add, type Decimal, decimal, HUNDRED, multiply } from '../decimal/decimal'
import type { RoundingRule } from '../decimal/rounding'
import type { PreparedStore } from '../engine/context/prepared-store'
import type { PricingContext } from '../engine/context/pricing-context'
import { leviesOf, taxClassOf } from '../engine/rules/find-tax'
import { evaluatePriceExpression, parsePriceExpression } from '../price/price-expression'
import { wholePercent } from '../tax/split-tax'
import { referenceNet } from './make-order'
import type { OrderLine } from './order'

interface SettledText {
  readonly variant: string
  readonly extras: readonly string[]
  /** As it was typed: `21.45`, `-6%`, `-1`, `m35`. */
  readonly price: string
}

/**
 * A price of one piece with its extras as a person types it for one buyer: an amount, a change of their own price, a margin. What is
 * computed is rounded as their own price is. Empty is their own price.
 *
 * Units   `theirs` is the line as they would buy it, `null` without a price; prices in `basis`, the cost without tax.
 * Errors  as of `evaluatePriceExpression`.
 */
export function readSettledPrice(
  prepared: PreparedStore,
  pricingContext: PricingContext,
  { variant, extras, price }: SettledText,
  theirs: OrderLine | null,
  basis: 'net' | 'gross',
) {
  const number = prepared.index.numberOf.get(variant) as number
  const their = theirs?.unit[basis] ?? null
  const items = [number, ...extras.map((id) => prepared.index.numberOf.get(id) as number)]
  const cost = referenceNet(prepared, pricingContext, items, 'cost')
  const { levies } = leviesOf(prepared, pricingContext, taxClassOf(prepared, number))
  const costInBasis = cost && basis === 'gross' ? withTax(cost, wholePercent(levies)) : cost
  const typed = price.trim()
  if (typed === '')
    return {
      their,
      cost,
      outcome:
        their === null
          ? { ok: false as const, error: 'no-current-price' as const }
          : { ok: true as const, value: their },
    }
  const parsed = parsePriceExpression(typed)
  if (!parsed.ok) return { their, cost, outcome: parsed }
  // What is computed ends as their own price does; what is typed stands as it is.
  const isComputed = parsed.value.kind !== 'amount' && parsed.value.kind !== 'change'
  const rounding = isComputed ? roundingOf(theirs) : null
  const { digits } = pricingContext
  return {
    their,
    cost,
    outcome: evaluatePriceExpression(parsed.value, { current: their, cost: costInBasis, digits, rounding }),
  }
}

/** How their own price was rounded last; `null` where it was not. */
function roundingOf(theirs: OrderLine | null): RoundingRule | null {
  const last = theirs?.trace.at(-1)
  return last?.kind === 'rounding' ? last.rule : null
}

function withTax(net: Decimal, percent: Decimal): Decimal {
  return multiply(multiply(net, add(HUNDRED, percent)), decimal('0.01'))
}
