import 'server-only'

import type { Cart, CartQuestion } from '@/core/cart/cart'
import { findNearMisses, type NearMiss } from '@/core/cart/promote/near-misses'
import { savedAsShown } from '@/core/cart/promote/saved-as-shown'
import { priceCart } from '@/core/cart/price-cart'
import type { Decimal } from '@/core/decimal/decimal'
import { keptScopeMatcher } from '@/core/engine/items/scope-matcher'
import { holdingPromotions } from '@/core/engine/promoted/holding'
import { displayOf } from '@/core/engine/rules/find-tax'
import type { Promotion, PromotionKind } from '@/core/promotions/promotion'
import type { ShopVisitor } from '@/server/session/shop-session'
import { formatMoney } from '@/ui/format/amount'
import { whenSentence } from '@/ui/format/rule-phrases'
import type { ShopBadge, ShopNote } from '../frame/shop-view'

/** What is said beside a product; what is taken off a whole order or its delivery is said in the cart. */
const ON_PRODUCTS: ReadonlySet<PromotionKind> = new Set(['item-price', 'by-quantity', 'set', 'free-goods'])

/** Promotions the shop announces that hold for a visitor here and now, in their order. */
function announcedTo({ prepared, pricingContext, buyerContext, facts }: ShopVisitor): readonly Promotion[] {
  return holdingPromotions(prepared, pricingContext, buyerContext.at, facts).filter(
    ({ isAnnounced, value }) => isAnnounced && ON_PRODUCTS.has(value.kind),
  )
}

/** Says of some variants, by their numbers, which promotion their card tells of. */
export function badges(visitor: ShopVisitor): (numbers: readonly number[]) => ShopBadge | null {
  const announced = announcedTo(visitor).map((promotion) => ({
    promotion,
    holds: keptScopeMatcher(visitor.prepared, promotion.scope),
  }))
  return (numbers) => {
    const first = announced.find(({ holds }) => numbers.some(holds))
    return first ? { name: first.promotion.name, ends: endsText(first.promotion) } : null
  }
}

/** What promotions say of so many of a variant, bought alone. */
export function notesOn(visitor: ShopVisitor, variant: string, quantity: Decimal): readonly ShopNote[] {
  const { prepared, pricingContext, buyerContext, facts } = visitor
  const number = prepared.index.numberOf.get(variant) as number
  const announced = announcedTo(visitor).filter(({ scope }) => keptScopeMatcher(prepared, scope)(number))
  if (announced.length === 0) return []
  const question: CartQuestion = {
    ...buyerContext,
    lines: [{ variant, quantity, extras: [] }],
    past: [],
    promotions: facts,
  }
  const priced = priceCart(prepared, question)
  if (!priced.ok || !priced.value.lines[0]?.access.buy) return []
  const cart = priced.value
  const shows = displayOf(prepared, pricingContext, 'shop') === 'gross' ? 'gross' : 'net'
  const savedIn = (each: Cart, promotion: string) => savedAsShown(each, promotion, shows)
  const misses = findNearMisses(prepared, question, cart, { price: priceCart, savedIn })
  return announced.flatMap((promotion): readonly ShopNote[] => {
    const text = standingText(promotion, cart, misses, savedIn)
    return text === null ? [] : [{ name: promotion.name, text, ends: endsText(promotion) }]
  })
}

/** How a promotion stands; `null` for one there is nothing to say of. */
function standingText(
  { id }: Promotion,
  cart: Cart,
  misses: readonly NearMiss[],
  savedIn: (cart: Cart, promotion: string) => Decimal,
): string | null {
  const money = (amount: Decimal) => formatMoney(amount, cart.currency, cart.digits)
  const miss = misses.find(({ promotion }) => promotion === id)
  const more = miss ? missText(miss, money) : ''
  const applied = cart.promotions.applied.find(({ promotion }) => promotion === id)
  const quantity = cart.lines[0]?.quantity ?? '1'
  const these = quantity === '1' ? 'this one' : `these ${quantity}`
  if (applied) return [`Saves ${money(savedIn(cart, id))} on ${these}.`, more].filter(Boolean).join(' ')
  const because = cart.promotions.idle.find(({ promotion }) => promotion === id)?.because
  switch (because?.code) {
    case 'offered':
    case 'declined':
      return `Worth ${money(because.saving)} with ${these}: take it in the cart.`
    case 'too-few':
    case 'condition':
      return more || null
    default:
      return null
  }
}

function missText({ missing, saves }: NearMiss, money: (amount: Decimal) => string): string {
  const saving = saves === null ? '' : `, saves ${money(saves)}`
  switch (missing.kind) {
    case 'units':
      return `${missing.count} more for it${saving}.`
    case 'value':
      return `${money(missing.amount)} more in the cart for it${saving}.`
    case 'weight':
      return `${missing.kilograms} kg more in the cart for it${saving}.`
  }
}

/** "until 31 Jan 2027"; empty for what holds without end. */
function endsText({ schedule }: Promotion): string {
  const text = whenSentence({ ...schedule, from: null })
  return text === 'always' ? '' : text
}
