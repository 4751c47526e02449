import { matchWhen } from '../../predicates/when'
import { NO_FACTS } from '../../promotions/facts'
import type { Promotion } from '../../promotions/promotion'
import { amountAt, shownAmounts } from '../amounts/amounts'
import { priceColumn } from '../column/price-column'
import type { PreparedStore } from '../context/prepared-store'
import type { PricingContext } from '../context/pricing-context'
import { keptScopeMatcher } from '../items/scope-matcher'
import { openItemPromotions } from './item-promotions'
import { promotedColumn } from './promoted-column'

/** What keeps a promotion from ever holding, or makes it hold no more. */
export type PromotionFault =
  | { readonly code: 'over' }
  /** Nothing that is sold is in its scope. */
  | { readonly code: 'empty' }
  /** Nothing that is sold and that it is for fits a part of its set, counted from 1. */
  | { readonly code: 'empty-part'; readonly part: number }
  /** Conditions that no buyer can meet at once. */
  | { readonly code: 'first-and-later' | 'two-payments' }

/**
 * Why a promotion can never hold, or is over and still on.
 *
 * Units   `sold` are the numbers of the variants that are sold; `now` in epoch milliseconds.
 */
export function findFaults(
  prepared: PreparedStore,
  promotion: Promotion,
  sold: readonly number[],
  now: number,
): readonly PromotionFault[] {
  const { id, state, scope, value } = promotion
  const faults: PromotionFault[] = []
  const schedule = prepared.terms.promotions.find(({ rule }) => rule.id === id)?.schedule
  const when = schedule && matchWhen(schedule, now)
  if (state === 'on' && when?.matches === false && when.because === 'over') faults.push({ code: 'over' })
  const held = sold.filter(keptScopeMatcher(prepared, scope))
  if (held.length === 0) faults.push({ code: 'empty' })
  else if (value.kind === 'set')
    value.parts.forEach((part, at) => {
      if (part.scope && !held.some(keptScopeMatcher(prepared, part.scope)))
        faults.push({ code: 'empty-part', part: at + 1 })
    })
  return [...faults, ...neverTogether(promotion)]
}

function neverTogether({ conditions, value }: Promotion): readonly PromotionFault[] {
  const isFirst = conditions.some(({ kind }) => kind === 'first-order')
  const isLater = conditions.some(({ kind }) => kind === 'orders' || kind === 'spend')
  const payments = conditions.flatMap((condition) =>
    condition.kind === 'payment' ? [condition.payment] : [],
  )
  const asked = new Set(value.kind === 'payment' ? [value.payment, ...payments] : payments)
  return [
    ...(isFirst && isLater ? [{ code: 'first-and-later' } as const] : []),
    ...(asked.size > 1 ? [{ code: 'two-payments' } as const] : []),
  ]
}

/**
 * How many variants an item-price promotion would sell below their cost, by itself.
 *
 * Units   `quantity` in thousandths of each variant; `at` in epoch milliseconds. 0 where it does not hold for the buyer.
 */
export function countBelowCost(
  prepared: PreparedStore,
  pricingContext: PricingContext,
  promotion: Promotion,
  quantity: number,
  at: number,
): number {
  const open = openItemPromotions(prepared, pricingContext, at, NO_FACTS)
  const own = open.inOrder.filter((each) => each.promotion.id === promotion.id)
  if (own.length === 0) return 0
  const { prices, by } = promotedColumn(
    { ...open, inOrder: own },
    priceColumn(prepared, pricingContext, quantity),
  )
  const costs = shownAmounts(prepared, 'cost', pricingContext.currencyView)
  let below = 0
  for (let number = 0; number < prepared.index.variantCount; number += 1)
    if (by[number] !== 0 && (prices[number] as number) < amountAt(costs, number)) below += 1
  return below
}
