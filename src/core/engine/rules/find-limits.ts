import {
  isStricter,
  LIMIT_FIELDS,
  type LimitField,
  type LimitRule,
  NO_LIMITS,
  type QuantityLimits,
} from '../../limits/limit'
import { type ItemFacts, matchWhat } from '../../predicates/what'
import { factsOf } from '../items/catalogue-index'
import type { HeldRule } from '../context/pricing-context-terms'
import type { PreparedStore } from '../context/prepared-store'
import type { PricingContext } from '../context/pricing-context'

/** Which level set a field. */
export type LimitSource =
  | { readonly kind: 'variant' }
  | { readonly kind: 'product' }
  | { readonly kind: 'rule'; readonly rule: string }

/** The limits of one item by itself, field by field, and the rules that count it together with others. */
export interface FoundLimits {
  readonly limits: QuantityLimits
  readonly setBy: Readonly<Partial<Record<LimitField, LimitSource>>>
  /** Rules that count more than this item in this order. */
  readonly together: readonly LimitRule[]
}

/** Whether a rule counts one item in one order and so takes part field by field. */
export function isSingle({ counting, days }: LimitRule): boolean {
  return counting === 'each' && days === null
}

/**
 * Field by field the most specific level that sets it: variant, product, then rules by how much their What says, their
 * Who, and rank; of rules that say equally much the stricter. Who has the facts of the item at hand passes them on.
 */
export function findLimits(
  prepared: PreparedStore,
  pricingContext: PricingContext,
  number: number,
  facts: ItemFacts | null = null,
): FoundLimits {
  const { store, index } = prepared
  const { terms } = pricingContext
  const variant = store.variant.get(index.items[number] ?? '')
  const product = variant && store.product.get(variant.product)
  if (!variant || !product) return { limits: NO_LIMITS, setBy: {}, together: [] }
  const reaching =
    terms.limits.length === 0 ? [] : reachingRules(terms.limits, facts ?? factsOf(store, index, number))
  const own: readonly Level[] = [
    { limits: variant.limits, source: { kind: 'variant' } },
    { limits: product.limits, source: { kind: 'product' } },
  ]
  const setBy: Partial<Record<LimitField, LimitSource>> = {}
  const found = LIMIT_FIELDS.map((field) => {
    const level = own.find(({ limits }) => limits[field] !== null) ?? ruleSetting(reaching, field)
    if (level) setBy[field] = level.source
    return level?.limits ?? NO_LIMITS
  })
  const [minimum, maximum, multiple, first, values] = found
  return {
    limits: {
      minimum: minimum?.minimum ?? null,
      maximum: maximum?.maximum ?? null,
      multiple: multiple?.multiple ?? null,
      first: first?.first ?? null,
      values: values?.values ?? null,
    },
    setBy,
    together: reaching.filter(({ rule }) => !isSingle(rule)).map(({ rule }) => rule),
  }
}

interface Level {
  readonly limits: QuantityLimits
  readonly source: LimitSource
}

/** Of rules that set a field the one that says most; of those that say equally much the stricter. */
function ruleSetting(reaching: readonly Reaching[], field: LimitField): Level | null {
  let best: Reaching | null = null
  for (const next of reaching) {
    if (!isSingle(next.rule) || next.rule[field] === null) continue
    if (best === null) best = next
    else if (compareSaying(best, next) !== 0) break
    else if (isStricter(field, next.rule, best.rule)) best = next
  }
  return best && { limits: best.rule, source: { kind: 'rule', rule: best.rule.id } }
}

/** The rules that reach an item, the one that says most first. Asked for every line of a cart: a plain loop. */
function reachingRules(held: readonly HeldRule<LimitRule>[], facts: ItemFacts): readonly Reaching[] {
  const reaching: Reaching[] = []
  for (const { rule, who } of held) {
    const match = matchWhat(rule.scope, facts)
    if (match.matches) reaching.push({ rule, who, what: match.specificity })
  }
  return reaching.sort(compareReaching)
}

interface Reaching {
  readonly rule: LimitRule
  readonly who: number
  readonly what: number
}

function compareReaching(left: Reaching, right: Reaching): number {
  return compareSaying(left, right) || (left.rule.code < right.rule.code ? -1 : 1)
}

/** Zero for rules that say equally much. */
function compareSaying(left: Reaching, right: Reaching): number {
  return right.what - left.what || right.who - left.who || left.rule.rank - right.rule.rank
}
