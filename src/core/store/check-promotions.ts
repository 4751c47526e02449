import { categoriesOf, itemFacts } from '../catalogue/item-facts'
import { compare, type Decimal, decimal, multiply, sum, ZERO } from '../decimal/decimal'
import type { Issue } from '../issue/issue'
import { EVERYTHING, matchWhat, type What } from '../predicates/what'
import { type Condition, type Money, type Promotion, sameCode } from '../promotions/promotion'
import type { Change, Store } from './store'

/**
 * What a promotion says of others that cannot be, as far as the changes are the reason: a gift that is not sold, a set
 * price above what its parts cost, a code that is another one's, what guests can never have done, a currency that is not
 * taken.
 */
export function checkPromotions(next: Store, changes: readonly Change[]): readonly Issue[] {
  return changes.flatMap(({ kind, after }) =>
    kind === 'promotion' && after !== null && after.status === 'active' ? checkPromotion(next, after) : [],
  )
}

function checkPromotion(store: Store, promotion: Promotion): readonly Issue[] {
  const issues: Issue[] = []
  const report = (code: Issue['code'], field: string, value: string, expected: string | null) =>
    issues.push({ code, kind: 'promotion', label: promotion.code, field, value, expected })
  const { value, conditions, audience } = promotion
  if (value.kind === 'free-goods' && typeof value.gift === 'object') {
    const gift = store.variant.get(value.gift.variant)
    if (gift && (gift.status === 'archived' || store.product.get(gift.product)?.status === 'archived'))
      report('archived', 'value', gift.sku, null)
  }
  if (value.kind === 'set' && value.saving.kind === 'price') {
    const most = dearestSet(store, promotion.scope, value.parts)
    const { amount } = value.saving.price
    if (most !== null && compare(amount, most) >= 0) report('above-parts', 'value', amount, most)
  }
  for (const condition of conditions) {
    const ofOrders = condition.kind === 'orders' || condition.kind === 'spend'
    const onlyGuests = audience.include.every(({ kind }) => kind === 'guests')
    if ((ofOrders || condition.kind === 'first-order') && onlyGuests)
      report('never-known', 'conditions', condition.kind, null)
    if (condition.kind !== 'code') continue
    const other = [...store.promotion.values()].find(
      (each) => each.id !== promotion.id && each.status === 'active' && asksFor(each, condition.code),
    )
    if (other) report('duplicate', 'conditions', condition.code, other.name)
  }
  const taken = new Set(
    [...store.currency.values()].filter(({ status }) => status === 'active').map(({ code }) => code),
  )
  for (const code of currenciesIn(promotion)) {
    if (!taken.has(code)) report('unknown', 'value', code, [...taken].join(', '))
  }
  return issues
}

function asksFor({ conditions }: Promotion, code: string): boolean {
  return conditions.some((condition) => condition.kind === 'code' && sameCode(condition.code, code))
}

/** Every currency a promotion has an amount of its own in. */
function currenciesIn({ value, conditions }: Promotion): readonly string[] {
  const codes: string[] = []
  const look = (each: unknown) => {
    if (each === null || typeof each !== 'object') return
    if ('own' in each && 'amount' in each) codes.push(...Object.keys((each as Money).own))
    Object.values(each).forEach(look)
  }
  look(value)
  conditions.forEach((condition: Condition) => {
    look(condition)
  })
  return [...new Set(codes)]
}

/** What the dearest set comes to at base prices, in the store's currency; `null` where a part has no base price. */
export function dearestSet(
  store: Store,
  scope: What,
  parts: readonly { readonly count: number; readonly scope: What | null }[],
): Decimal | null {
  const dearest = parts.map((): Decimal => ZERO)
  const categories = new Map<string, ReturnType<typeof categoriesOf>>()
  for (const variant of store.variant.values()) {
    const product = store.product.get(variant.product)
    if (!product || variant.status === 'archived' || product.status === 'archived') continue
    const reached = categories.get(product.id) ?? categoriesOf(store.category, product)
    categories.set(product.id, reached)
    const facts = itemFacts(product, variant, reached, store)
    const base = facts.basePrice
    if (base === null || !matchWhat(scope, facts).matches) continue
    parts.forEach((part, at) => {
      if (!matchWhat(part.scope ?? EVERYTHING, facts).matches) return
      if (compare(base, dearest[at] as Decimal) > 0) dearest[at] = base
    })
  }
  if (dearest.includes(ZERO)) return null
  return sum(parts.map(({ count }, at) => multiply(dearest[at] as Decimal, decimal(count))))
}
