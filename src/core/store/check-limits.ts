import { type BuyerReference, findBuyerFacts } from '../buyers/buyer'
import { categoriesOf, itemFacts } from '../catalogue/item-facts'
import type { Product, Variant } from '../catalogue/product'
import type { Issue } from '../issue/issue'
import { ONE } from '../decimal/decimal'
import { LIMIT_FIELDS, type LimitRule, mergeLimits, type QuantityLimits } from '../limits/limit'
import { nearestQuantities } from '../limits/nearest-quantities'
import { type ItemFacts, matchWhat } from '../predicates/what'
import { type BuyerFacts, matchWho } from '../predicates/who'
import type { Change, Store } from './store'

/**
 * Limits of different levels that leave no quantity between them: of a variant and its product, of either and a rule,
 * of two rules for the same buyers and goods at all times and places. As far as the changes are the reason.
 */
export function checkLimits(next: Store, changes: readonly Change[]): readonly Issue[] {
  const rules = [...next.limit.values()].filter(isSingle)
  const changedRules = changes.flatMap(({ kind, after }) =>
    kind === 'limit' && after !== null && isSingle(after) ? [after] : [],
  )
  const changedItems = new Set(
    changes.flatMap(({ kind, id, after }) =>
      (kind === 'product' || kind === 'variant') && after !== null && setsAny(after.limits) ? [id] : [],
    ),
  )
  if (changedRules.length === 0 && changedItems.size === 0) return []
  const issues: Issue[] = []
  for (const variant of next.variant.values()) {
    const product = next.product.get(variant.product)
    if (!product || (!setsAny(variant.limits) && !setsAny(product.limits))) continue
    const isChanged = changedItems.has(variant.id) || changedItems.has(product.id)
    const asked = isChanged ? rules : changedRules
    if (!isChanged && asked.length === 0) continue
    issues.push(...checkItem(next, product, variant, asked, isChanged))
    if (issues.length >= MOST_TOLD) return issues
  }
  for (const [at, rule] of changedRules.entries()) {
    const others = rules.filter((other) => other !== rule && !changedRules.slice(0, at).includes(other))
    for (const other of others) {
      if (areBoth(next, rule, other))
        issues.push({
          ...{ code: 'contradicts', kind: 'limit', label: rule.code, field: 'maximum' },
          ...{ value: spelt(rule), expected: `${other.code}: ${spelt(other)}` },
        })
    }
  }
  return issues.slice(0, MOST_TOLD)
}

/** The most that are reported at once. */
const MOST_TOLD = 20

function isSingle({ state, status, counting, days }: LimitRule): boolean {
  return state === 'on' && status === 'active' && counting === 'each' && days === null
}

function setsAny(limits: QuantityLimits): boolean {
  return LIMIT_FIELDS.some((field) => limits[field] !== null)
}

function checkItem(
  next: Store,
  product: Product,
  variant: Variant,
  rules: readonly LimitRule[],
  isChanged: boolean,
): readonly Issue[] {
  const own = mergeLimits([variant.limits, product.limits])
  const at = { kind: 'variant', label: variant.sku, field: 'limits', value: spelt(own) } as const
  if (isChanged && leavesNothing(own))
    return [{ ...at, code: 'contradicts', expected: `${product.code}: ${spelt(product.limits)}` }]
  const facts = itemFacts(product, variant, categoriesOf(next.category, product), next)
  const wrong = rules.find(
    (rule) => leavesNothing(mergeLimits([own, rule])) && matchWhat(rule.scope, facts).matches,
  )
  return wrong ? [{ ...at, code: 'contradicts', expected: `${wrong.code}: ${spelt(wrong)}` }] : []
}

/** Whether there is no quantity at all that limits allow. */
function leavesNothing(limits: QuantityLimits): boolean {
  const { below, above } = nearestQuantities(ONE, limits)
  return below === null && above === null
}

/** Whether two rules contradict each other for somebody and something, always and everywhere. */
function areBoth(next: Store, left: LimitRule, right: LimitRule): boolean {
  if (!leavesNothing(mergeLimits([left, right])) && !leavesNothing(mergeLimits([right, left]))) return false
  if (JSON.stringify([left.schedule, left.place]) !== JSON.stringify([right.schedule, right.place]))
    return false
  const buyer = commonBuyer(next, left, right)
  if (!buyer) return false
  for (const variant of next.variant.values()) {
    const product = next.product.get(variant.product)
    if (!product) continue
    const facts = itemFacts(product, variant, categoriesOf(next.category, product), next)
    const levels = inOrder(facts, buyer, left, right)
    if (levels && leavesNothing(mergeLimits(levels))) return true
  }
  return false
}

/** The one that says more first; `null` where one of them is not for the item. */
function inOrder(
  facts: ItemFacts,
  buyer: BuyerFacts,
  left: LimitRule,
  right: LimitRule,
): readonly LimitRule[] | null {
  const [mine, theirs] = [matchWhat(left.scope, facts), matchWhat(right.scope, facts)]
  if (!mine.matches || !theirs.matches) return null
  const [who, other] = [matchWho(left.audience, buyer), matchWho(right.audience, buyer)]
  if (!who.matches || !other.matches) return null
  const difference =
    theirs.specificity - mine.specificity || other.specificity - who.specificity || left.rank - right.rank
  return difference <= 0 ? [left, right] : [right, left]
}

/** Somebody both rules are for: a guest, a member of a group, an account. */
function commonBuyer(next: Store, left: LimitRule, right: LimitRule): BuyerFacts | null {
  const buyers: readonly BuyerReference[] = [
    { kind: 'guest' },
    ...[...next.group.keys()].map((group) => ({ kind: 'group', group }) as const),
    ...[...next.account.keys()].map((account) => ({ kind: 'account', account }) as const),
  ]
  for (const buyer of buyers) {
    const facts = findBuyerFacts(next.group, next.account, buyer)
    if (facts && matchWho(left.audience, facts).matches && matchWho(right.audience, facts).matches)
      return facts
  }
  return null
}

/** `at least 6, at most 24, 6 or 12 or 24`. */
function spelt({ minimum, maximum, multiple, values }: QuantityLimits): string {
  return [
    minimum && `at least ${minimum}`,
    maximum && `at most ${maximum}`,
    multiple && `multiples of ${multiple}`,
    values && `only ${values.map(({ quantity }) => quantity).join(', ')}`,
  ]
    .filter(Boolean)
    .join(', ')
}
