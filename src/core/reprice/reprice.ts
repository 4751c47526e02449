import { isSold } from '../catalogue/is-sold'
import { type Product, type ReferenceField, type Variant } from '../catalogue/product'
import { compare, type Decimal } from '../decimal/decimal'
import type { RoundingRule } from '../decimal/rounding'
import type { PreparedStore } from '../engine/context/prepared-store'
import { scopeMatcher } from '../engine/items/scope-matcher'
import type { What } from '../predicates/what'
import {
  evaluatePriceExpression,
  type PriceExpression,
  type PriceExpressionError,
} from '../price/price-expression'
import { eachInSteps, type Steps } from '../steps/steps'
import { fixedPrices } from './fixed-prices'
import { type Amount, type AmountPlace, digitsOfTarget, type RepriceTarget } from './reprice-target'
import { type Sources, sourcesFor } from './sources'

/** One rule for many amounts. */
export interface RepriceRule {
  readonly what: What
  /** Only what it holds, too; `null` for all of it. */
  readonly only: What | null
  readonly target: RepriceTarget
  /** What percentages and factors start from; `null` for the amount itself, else another amount of the same item. */
  readonly from: ReferenceField | null
  /** What happens to an amount, by what it starts from: each step from its amount on, rising; the first from nothing. */
  readonly steps: readonly { readonly from: Decimal | null; readonly expression: PriceExpression }[]
  readonly rounding: RoundingRule | null
}

/** Why a rule cannot be applied; a fixed price may be for more than what is meant. */
type RepriceProblem = PriceExpressionError | 'reaches-further'

/** One amount as the rule leaves it. */
export interface RepriceRow extends AmountPlace {
  readonly now: Decimal | null
  /** To the digits of a price, whatever else it is rounded to. */
  readonly byRule: Decimal | null
  readonly next: Decimal | null
  readonly problem: RepriceProblem | null
  /** In the currency and basis of the amount; the highest of all items it is for. */
  readonly cost: Decimal | null
  /** Numbers of the items it is for, of those that are meant. */
  readonly numbers: readonly number[]
}

/**
 * What a rule makes of every amount it is for. `at` (epoch milliseconds) says at which rates amounts are converted.
 *
 * A product changes as a whole where all its variants that take the amount over from it are meant; where only some are, each
 * of these gets an amount of its own. Where nothing is set in a currency there is nothing to change, unless the rule starts
 * from another amount.
 */
export function* repriceRows(
  prepared: PreparedStore,
  rule: RepriceRule,
  at: number,
): Steps<readonly RepriceRow[]> {
  const isMeant = scopeMatcher(prepared, rule.what)
  const isWanted = rule.only && scopeMatcher(prepared, rule.only)
  const isIn = (number: number) => isMeant(number) && (isWanted === null || isWanted(number))
  const sources = sourcesFor(prepared, rule.target, at)
  const digits = digitsOfTarget(prepared.store, rule.target)
  const amounts =
    rule.target.kind === 'list'
      ? yield* fixedPrices(prepared, rule.target.list, isIn)
      : yield* itemAmounts(prepared, rule, rule.target, isIn)
  const rows: RepriceRow[] = []
  yield* eachInSteps(amounts, (amount) => {
    rows.push(toRow(rule, amount, sources, digits))
  })
  return rows
}

/** Amounts of products and variants: one of a product for all that take it over from it, where all of them are meant. */
function* itemAmounts(
  { store, index }: PreparedStore,
  { from, steps }: RepriceRule,
  target: Exclude<RepriceTarget, { kind: 'list' }>,
  isIn: (number: number) => boolean,
): Steps<readonly Amount[]> {
  const { field } = target
  const own = (of: Product | Variant) =>
    target.kind === 'amount' ? of[field] : (of.ownAmounts[target.currency]?.[field] ?? null)
  // With an amount of its own at home a variant takes over none abroad either.
  const takesOver = (variant: Variant) => own(variant) === null && variant[field] === null
  const byProduct = new Map<
    string,
    { readonly meant: { variant: Variant; number: number }[]; others: number }
  >()
  yield* eachInSteps(Array(index.variantCount).keys(), (number) => {
    const variant = store.variant.get(index.items[number] as string)
    if (!variant || !isSold(store, variant.id)) return
    const known = byProduct.get(variant.product) ?? { meant: [], others: 0 }
    byProduct.set(variant.product, known)
    if (isIn(number)) known.meant.push({ variant, number })
    else if (takesOver(variant)) known.others += 1
  })
  const makesNew =
    from !== null ||
    steps.some(({ expression }) => expression.kind === 'amount' || expression.kind === 'margin')
  const isListed = (now: Decimal | null) => target.kind === 'amount' || now !== null || makesNew
  const amounts: Amount[] = []
  const add = (
    record: 'product' | 'variant',
    id: string,
    now: Decimal | null,
    numbers: readonly number[],
  ) => {
    if (isListed(now)) amounts.push({ record, id, at: 0, now, numbers, reachesFurther: false })
  }
  yield* eachInSteps(byProduct, ([id, { meant, others }]) => {
    const product = store.product.get(id)
    if (!product || meant.length === 0) return
    const taking = meant.filter(({ variant }) => takesOver(variant))
    const shared = own(product)
    const isWhole =
      taking.length > 0 && others === 0 && (shared !== null || (makesNew && product[from ?? field] !== null))
    if (isWhole)
      add(
        'product',
        id,
        shared,
        taking.map(({ number }) => number),
      )
    for (const { variant, number } of meant)
      if (!isWhole || !takesOver(variant))
        add('variant', variant.id, takesOver(variant) ? shared : own(variant), [number])
  })
  return amounts
}

function toRow(
  { target, from, steps, rounding }: RepriceRule,
  { record, id, at, now, numbers, reachesFurther }: Amount,
  sources: Sources,
  digits: number,
): RepriceRow {
  const first = numbers[0] ?? -1
  const start = from === null ? now : sources(from, first)
  const cost = target.kind === 'amount' && target.field === 'cost' ? now : highestCost(numbers, sources)
  const about = { record, id, at, now, cost, numbers }
  const none = { ...about, byRule: null, next: null }
  if (reachesFurther) return { ...none, problem: 'reaches-further' }
  const step = stepFor(steps, start)
  if (!step) return { ...none, problem: 'no-current-price' }
  const context = { current: start, cost, digits }
  const byRule = evaluatePriceExpression(step, context)
  const found = evaluatePriceExpression(step, { ...context, rounding })
  return {
    ...about,
    byRule: byRule.ok ? byRule.value : null,
    next: found.ok ? found.value : null,
    problem: found.ok ? null : found.error,
  }
}

function highestCost(numbers: readonly number[], sources: Sources): Decimal | null {
  let highest: Decimal | null = null
  for (const number of numbers) {
    const cost = sources('cost', number)
    if (cost !== null && (highest === null || compare(cost, highest) > 0)) highest = cost
  }
  return highest
}

/** The last step that begins at or below an amount. */
function stepFor(steps: RepriceRule['steps'], amount: Decimal | null): PriceExpression | null {
  let found: PriceExpression | null = null
  for (const { from, expression } of steps)
    if (from === null || (amount !== null && compare(from, amount) <= 0)) found = expression
  return found
}
