import 'server-only'

import { amountAt, referenceAmounts } from '@/core/engine/amounts/amounts'
import { priceColumn } from '@/core/engine/column/price-column'
import { keptScopeMatcher } from '@/core/engine/items/scope-matcher'
import { findClashes } from '@/core/engine/promoted/find-clashes'
import { type ItemPromotion, openItemPromotions } from '@/core/engine/promoted/item-promotions'
import { promotedColumn } from '@/core/engine/promoted/promoted-column'
import { NO_FACTS } from '@/core/promotions/facts'
import type { Promotion } from '@/core/promotions/promotion'
import { toInstant } from '@/core/predicates/when'
import { getSettings } from '@/core/store/store'
import { Slices } from '@/server/doors/slices'
import type { RequestContext } from '@/server/engine/look-from'
import { soldVariants } from '@/server/engine/sold-variants'
import { recordHref } from '@/ui/frame/record-href'

/** What is worth a look at a promotion. */
export interface PromotionFinding {
  readonly text: string
  readonly link: { readonly name: string; readonly href: string } | null
}

/** What would keep a promotion from ever holding, who it fights with, and what it would sell below cost. */
export async function loadFindings(
  requestContext: RequestContext,
  promotion: Promotion,
): Promise<readonly PromotionFinding[]> {
  const { prepared, now, buyerName } = requestContext
  const { store } = prepared
  const found: PromotionFinding[] = []
  const say = (text: string, link: PromotionFinding['link'] = null) => found.push({ text, link })
  const { to } = promotion.schedule
  if (to !== null && toInstant(to, getSettings(store).timeZone) <= now && promotion.state === 'on')
    say('It is over, and still switched on.')
  const numbers = (await soldVariants(prepared)).map(({ number }) => number)
  const held = numbers.filter(keptScopeMatcher(prepared, promotion.scope))
  if (held.length === 0) say('It can never hold: nothing that is sold is in it.')
  else if (promotion.value.kind === 'set')
    promotion.value.parts.forEach(({ scope }, part) => {
      if (scope && !held.some(keptScopeMatcher(prepared, scope)))
        say(`It can never hold: nothing that it is for fits part ${part + 1} of the set.`)
    })
  const contradiction = neverTogether(promotion)
  if (contradiction) say(`It can never hold: ${contradiction}.`)
  if (promotion.state === 'on')
    for (const { first, then, count, outcome } of await new Slices().run(findClashes(prepared, now))) {
      if (outcome !== 'saves-more' || (first.id !== promotion.id && then.id !== promotion.id)) continue
      const other = first.id === promotion.id ? then : first
      say(`It has the same priority, on ${count} ${count === 1 ? 'variant' : 'variants'}, as`, {
        name: other.name,
        href: recordHref('promotions', other.code),
      })
    }
  const below = promotion.value.kind === 'item-price' ? belowCost(requestContext, promotion) : 0
  if (below > 0)
    say(
      `It sells ${below} ${below === 1 ? 'variant' : 'variants'} below cost to ${buyerName === 'Guest' ? 'guests' : buyerName}.`,
    )
  return found
}

/** Conditions that no buyer can meet at once; empty where some can. */
function neverTogether({ conditions, value }: Promotion): string {
  const first = conditions.some(({ kind }) => kind === 'first-order')
  if (first && conditions.some(({ kind }) => kind === 'orders' || kind === 'spend'))
    return 'a first order comes before any other'
  const payments = conditions.flatMap((condition) =>
    condition.kind === 'payment' ? [condition.payment] : [],
  )
  const asked = value.kind === 'payment' ? [value.payment, ...payments] : payments
  return new Set(asked).size > 1 ? 'an order is paid in one way' : ''
}

/** How many of the variants whose price it changes cost less then than the merchant paid. */
function belowCost(
  { prepared, pricingContext, buyerContext, quantity }: RequestContext,
  promotion: Promotion,
): number {
  const open = openItemPromotions(prepared, pricingContext, buyerContext.at, NO_FACTS)
  const own = open.inOrder.filter((each: ItemPromotion) => each.promotion.id === promotion.id)
  const column = priceColumn(prepared, pricingContext, quantity)
  const { prices, by } = promotedColumn({ ...open, inOrder: own }, column)
  const costs = referenceAmounts(prepared, 'cost', pricingContext.currencyView)
  let below = 0
  for (let number = 0; number < prepared.index.variantCount; number += 1) {
    if (by[number] !== 0 && (prices[number] as number) < amountAt(costs, number)) below += 1
  }
  return below
}
