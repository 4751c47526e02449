import { compare, type Decimal } from '../decimal/decimal'
import type { RoundingRule } from '../decimal/rounding'
import type { Product, ReferenceField, Variant } from '../catalogue/product'
import type { PreparedStore } from '../engine/context/prepared-store'
import { scopeMatcher } from '../engine/items/scope-matcher'
import type { What } from '../predicates/what'
import {
  evaluatePriceExpression,
  type PriceExpression,
  type PriceExpressionError,
} from '../price/price-expression'
import { eachInSteps, type Steps } from '../steps/steps'
import { getSettings } from '../store/store'

/** One rule for many amounts. */
export interface RepriceRule {
  readonly what: What
  readonly field: ReferenceField
  /** What percentages and factors start from; the field itself, or another amount of the same item. */
  readonly from: ReferenceField
  /** What happens to an amount, by what it is now: each step from its amount on, rising; the first from nothing. */
  readonly steps: readonly { readonly from: Decimal | null; readonly expression: PriceExpression }[]
  readonly rounding: RoundingRule | null
}

/** One amount as the rule leaves it: of a product, for all its variants without their own, or of a variant. */
export interface RepriceRow {
  readonly record: 'product' | 'variant'
  readonly id: string
  readonly now: Decimal | null
  /** To the digits of a price, whatever else it is rounded to. */
  readonly byRule: Decimal | null
  readonly next: Decimal | null
  readonly problem: PriceExpressionError | null
  readonly cost: Decimal | null
}

/**
 * What a rule makes of every amount it is for. A product changes as a whole where all its variants that take the amount over
 * from it are meant; where only some are, each of these gets an amount of its own.
 */
export function* repriceRows(prepared: PreparedStore, rule: RepriceRule): Steps<readonly RepriceRow[]> {
  const { store, index } = prepared
  const isIn = scopeMatcher(prepared, rule.what)
  const { priceDigits } = getSettings(store)
  const byProduct = new Map<string, { readonly meant: Variant[]; others: number }>()
  yield* eachInSteps(Array(index.variantCount).keys(), (number) => {
    const variant = store.variant.get(index.items[number] as string)
    if (variant?.status !== 'active' || store.product.get(variant.product)?.status !== 'active') return
    const known = byProduct.get(variant.product) ?? { meant: [], others: 0 }
    byProduct.set(variant.product, known)
    if (isIn(number)) known.meant.push(variant)
    else if (variant[rule.field] === null) known.others += 1
  })
  const rows: RepriceRow[] = []
  yield* eachInSteps(byProduct, ([id, { meant, others }]) => {
    const product = store.product.get(id)
    if (!product || meant.length === 0) return
    const inheriting = meant.filter((variant) => variant[rule.field] === null)
    const isWhole = inheriting.length > 0 && others === 0 && product[rule.field] !== null
    if (isWhole) rows.push(toRow(rule, 'product', product, product, priceDigits))
    for (const variant of meant)
      if (!isWhole || variant[rule.field] !== null)
        rows.push(toRow(rule, 'variant', product, variant, priceDigits))
  })
  return rows
}

function toRow(
  { field, from, steps, rounding }: RepriceRule,
  record: RepriceRow['record'],
  product: Product,
  own: Product | Variant,
  digits: number,
): RepriceRow {
  const amount = (of: ReferenceField): Decimal | null => own[of] ?? product[of]
  const now = amount(field)
  const start = amount(from)
  const cost = amount('cost')
  const about = { record, id: own.id, now, cost }
  const step = stepFor(steps, start)
  const context = { current: start, cost, digits }
  const byRule = step && evaluatePriceExpression(step, context)
  const found = step && evaluatePriceExpression(step, { ...context, rounding })
  if (!found) return { ...about, byRule: null, next: null, problem: 'no-current-price' }
  return {
    ...about,
    byRule: byRule?.ok ? byRule.value : null,
    next: found.ok ? found.value : null,
    problem: found.ok ? null : found.error,
  }
}

/** The last step that begins at or below an amount. */
function stepFor(steps: RepriceRule['steps'], amount: Decimal | null): PriceExpression | null {
  let found: PriceExpression | null = null
  for (const { from, expression } of steps)
    if (from === null || (amount !== null && compare(from, amount) <= 0)) found = expression
  return found
}
