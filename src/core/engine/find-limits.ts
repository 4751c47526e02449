import {
  LIMIT_FIELDS,
  type LimitField,
  type LimitRule,
  NO_LIMITS,
  type QuantityLimits,
} from '../limits/limit'
import { type ItemFacts, matchWhat } from '../predicates/what'
import { factsOf } from './catalogue-index'
import type { HeldRule } from './situation-terms'
import type { PreparedStore } from './prepared-store'
import type { Situation } from './situation'

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
 * Who, and rank.
 */
export function findLimits(prepared: PreparedStore, situation: Situation, number: number): FoundLimits {
  const { store, index } = prepared
  const { terms } = situation
  const variant = store.variant.get(index.items[number] ?? '')
  const product = variant && store.product.get(variant.product)
  if (!variant || !product) return { limits: NO_LIMITS, setBy: {}, together: [] }
  const rules = terms.limits.length === 0 ? [] : rulesFor(terms.limits, factsOf(store, index, number))
  const limits: Record<string, unknown> = {}
  const setBy: Partial<Record<LimitField, LimitSource>> = {}
  const singles = rules.filter(isSingle)
  for (const field of LIMIT_FIELDS) {
    const rule = singles.find((each) => each[field] !== null)
    const own = variant.limits[field]
    const ofProduct = product.limits[field]
    limits[field] = own ?? ofProduct ?? rule?.[field] ?? null
    if (own !== null) setBy[field] = { kind: 'variant' }
    else if (ofProduct !== null) setBy[field] = { kind: 'product' }
    else if (rule) setBy[field] = { kind: 'rule', rule: rule.id }
  }
  return {
    limits: limits as unknown as QuantityLimits,
    setBy,
    together: rules.filter((rule) => !isSingle(rule)),
  }
}

/** The rules that reach an item, the one that says most first. */
function rulesFor(held: readonly HeldRule<LimitRule>[], facts: ItemFacts): readonly LimitRule[] {
  return held
    .flatMap(({ rule, who }) => {
      const match = matchWhat(rule.scope, facts)
      return match.matches ? [{ rule, who, what: match.specificity }] : []
    })
    .sort(
      (left, right) =>
        right.what - left.what ||
        right.who - left.who ||
        left.rule.rank - right.rule.rank ||
        (left.rule.code < right.rule.code ? -1 : 1),
    )
    .map(({ rule }) => rule)
}
