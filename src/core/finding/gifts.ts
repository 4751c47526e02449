import { holdingPromotions } from '../engine/promoted/holding'
import { findRights } from '../engine/rules/find-rights'
import { buyerClasses, standsAt } from '../impact/buyer-classes'
import { NO_FACTS } from '../promotions/facts'
import type { Promotion } from '../promotions/promotion'
import { caseBuyer, type FindingCase, type FindingKind, withCases } from './finding'

/** Promotions that give an item to buyers who are not shown it. */
export const GIFT_FINDINGS: FindingKind = {
  code: 'gift-hidden',
  looksAt: [
    'promotion',
    'access-rule',
    'product',
    'variant',
    'category',
    'group',
    'account',
    'contract',
    'channel',
    'price-list',
    'settings',
  ],
  *find({ prepared, at }) {
    const giving = new Map<string, { readonly promotion: Promotion; readonly cases: FindingCase[] }>()
    for (const promotion of prepared.store.promotion.values())
      if (giftOf(promotion) !== null) giving.set(promotion.id, { promotion, cases: [] })
    if (giving.size === 0) return []
    const comparison = { before: prepared, after: prepared, at, channel: null }
    for (const of of yield* buyerClasses(comparison, false)) {
      yield
      const context = standsAt(comparison, 'after', of)
      if (!context) continue
      for (const { id, value } of holdingPromotions(prepared, context, at, NO_FACTS)) {
        const found = giving.get(id)
        const gift = found && giftOf({ value })
        const number = gift ? prepared.index.numberOf.get(gift) : undefined
        if (!found || !gift || (number !== undefined && findRights(prepared, context, number).see)) continue
        found.cases.push({
          variant: gift,
          buyer: caseBuyer(of.buyer),
          amounts: {},
          currency: context.currency,
          fix: [],
        })
      }
    }
    return [...giving.values()]
      .filter(({ cases }) => cases.length > 0)
      .map(({ promotion: { id }, cases }) => {
        const cause = { kind: 'promotion', id } as const
        const key = `gift-hidden/promotion/${id}`
        return withCases({ code: 'gift-hidden', group: 'wrong-for-buyers', key, cause, facts: {} }, cases)
      })
  },
}

/** Id of the one variant a promotion gives; `null` for others. */
function giftOf({ value }: Pick<Promotion, 'value'>): string | null {
  return value.kind === 'free-goods' && typeof value.gift === 'object' ? value.gift.variant : null
}
