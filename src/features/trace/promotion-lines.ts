import 'server-only'

import type { CartQuestion } from '@/core/cart/cart'
import { savedAsShown } from '@/core/cart/promote/saved-as-shown'
import { priceCart } from '@/core/cart/price-cart'
import type { PreparedStore } from '@/core/engine/context/prepared-store'
import type { IdlePromotion } from '@/core/cart/promote/outcome'
import { keptScopeMatcher } from '@/core/engine/items/scope-matcher'
import { formatMoney } from '@/ui/format/amount'
import { promotionPhrase } from '@/ui/format/promotion-phrases'
import { whyNotWords } from '@/ui/format/promotion-standing'
import { recordHref } from '@/ui/frame/record-href'
import type { TraceTerms } from './trace-view'
import type { TracePart } from '@/ui/trace/trace-part'

/** What says nothing of the price of an item: it is not for it, nor on. */
const SILENT: ReadonlySet<IdlePromotion['because']['code']> = new Set(['archived', 'off', 'not-for-cart'])

/** How every promotion that is on stands where so many of an item are bought alone. */
export function promotionLines(prepared: PreparedStore, question: CartQuestion): TraceTerms | null {
  const priced = priceCart(prepared, question)
  if (!priced.ok) return null
  const cart = priced.value
  const { store } = prepared
  const { currency, digits } = cart
  const shows = cart.lines[0]?.basis ?? 'net'
  const number = prepared.index.numberOf.get(question.lines[0]?.variant ?? '') ?? -1
  const isForItem = (id: string) => {
    const scope = store.promotion.get(id)?.scope
    return scope !== undefined && keptScopeMatcher(prepared, scope)(number)
  }
  const named = (id: string): TracePart => {
    const promotion = store.promotion.get(id)
    return { text: promotion?.name ?? id, href: recordHref('promotions', promotion?.code ?? id) }
  }
  const applied = cart.promotions.applied.map(({ promotion }) => {
    const value = store.promotion.get(promotion)?.value
    return {
      parts: [named(promotion), ...(value ? [{ text: promotionPhrase(store, value) }] : [])],
      outcome: `−${formatMoney(savedAsShown(cart, promotion, shows), currency, digits)}`,
    }
  })
  const idle = cart.promotions.idle
    .filter(({ promotion, because }) => !SILENT.has(because.code) && isForItem(promotion))
    .map(({ promotion, because }) => ({
      parts: [named(promotion), { text: whyNotWords({ store, currency, digits }, because) }],
      outcome: '',
    }))
  return { title: 'Promotions, bought alone', lines: [...applied, ...idle] }
}
