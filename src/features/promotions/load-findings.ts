import 'server-only'

import { findClashes } from '@/core/engine/promoted/find-clashes'
import { countBelowCost, findFaults, type PromotionFault } from '@/core/engine/promoted/promotion-faults'
import type { Promotion } from '@/core/promotions/promotion'
import { Slices } from '@/server/doors/slices'
import type { RequestContext } from '@/server/engine/request-context'
import { soldVariants } from '@/server/engine/sold-variants'
import { recordHref } from '@/ui/frame/record-href'

/** What is worth a look at a promotion. */
export interface PromotionFinding {
  readonly text: string
  readonly link: { readonly name: string; readonly href: string } | null
}

/** What would keep a promotion from ever holding, which others have its priority, and what it would sell below cost. */
export async function loadFindings(
  requestContext: RequestContext,
  promotion: Promotion,
): Promise<readonly PromotionFinding[]> {
  const { prepared, now, buyerName, pricingContext, buyerContext, quantity } = requestContext
  const sold = (await soldVariants(prepared)).map(({ number }) => number)
  const found: PromotionFinding[] = findFaults(prepared, promotion, sold, now).map((fault) => ({
    text: faultText(fault),
    link: null,
  }))
  for (const { first, then, count, outcome } of await new Slices().run(findClashes(prepared, now))) {
    if (outcome !== 'saves-more' || (first.id !== promotion.id && then.id !== promotion.id)) continue
    const other = first.id === promotion.id ? then : first
    found.push({
      text: `It has the same priority, on ${variants(count)}, as`,
      link: { name: other.name, href: recordHref('promotions', other.code) },
    })
  }
  const below = countBelowCost(prepared, pricingContext, promotion, quantity, buyerContext.at)
  const who = buyerName === 'Guest' ? 'guests' : buyerName
  return below === 0
    ? found
    : [...found, { text: `It sells ${variants(below)} below cost to ${who}.`, link: null }]
}

function variants(count: number): string {
  return `${count} ${count === 1 ? 'variant' : 'variants'}`
}

function faultText(fault: PromotionFault): string {
  switch (fault.code) {
    case 'over':
      return 'It is over, and still switched on.'
    case 'empty':
      return 'It can never hold: nothing that is sold is in it.'
    case 'empty-part':
      return `It can never hold: nothing that it is for fits part ${fault.part} of the set.`
    case 'first-and-later':
      return 'It can never hold: a first order comes before any other.'
    case 'two-payments':
      return 'It can never hold: an order is paid in one way.'
  }
}
