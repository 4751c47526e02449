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
 * Who, and rank. Who has the facts of the item at hand passes them on.
 */
export function findLimits(
  prepared: PreparedStore,
  situation: Situation,
  number: number,
  facts: ItemFacts | null = null,
): FoundLimits {
  const { store, index } = prepared
  const { terms } = situation
  const variant = store.variant.get(index.items[number] ?? '')
  const product = variant && store.product.get(variant.product)
  if (!variant || !product) return { limits: NO_LIMITS, setBy: {}, together: [] }
  const rules =
    terms.limits.length === 0 ? [] : rulesFor(terms.limits, facts ?? factsOf(store, index, number))
  const levels: readonly QuantityLimits[] = [variant.limits, product.limits, ...rules.filter(isSingle)]
  const setBy: Partial<Record<LimitField, LimitSource>> = {}
  for (const field of LIMIT_FIELDS) {
    const at = levels.findIndex((level) => level[field] !== null)
    if (at === 0) setBy[field] = { kind: 'variant' }
    else if (at === 1) setBy[field] = { kind: 'product' }
    else if (at > 1) setBy[field] = { kind: 'rule', rule: (levels[at] as LimitRule).id }
  }
  return {
    limits: {
      minimum: nearestOf(levels, 'minimum'),
      maximum: nearestOf(levels, 'maximum'),
      multiple: nearestOf(levels, 'multiple'),
      first: nearestOf(levels, 'first'),
      values: nearestOf(levels, 'values'),
    },
    setBy,
    together: rules.filter((rule) => !isSingle(rule)),
  }
}

/** What the first level that sets a field says. */
function nearestOf<Field extends LimitField>(
  levels: readonly QuantityLimits[],
  field: Field,
): QuantityLimits[Field] | null {
  for (const level of levels) if (level[field] !== null) return level[field]
  return null
}

/** The rules that reach an item, the one that says most first. Asked for every line of a cart: a plain loop. */
function rulesFor(held: readonly HeldRule<LimitRule>[], facts: ItemFacts): readonly LimitRule[] {
  const reaching: Reaching[] = []
  for (const { rule, who } of held) {
    const match = matchWhat(rule.scope, facts)
    if (match.matches) reaching.push({ rule, who, what: match.specificity })
  }
  return reaching.sort(compareReaching).map(({ rule }) => rule)
}

interface Reaching {
  readonly rule: LimitRule
  readonly who: number
  readonly what: number
}

function compareReaching(left: Reaching, right: Reaching): number {
  return (
    right.what - left.what ||
    right.who - left.who ||
    left.rule.rank - right.rule.rank ||
    (left.rule.code < right.rule.code ? -1 : 1)
  )
}
