import type { Cart, CartQuestion } from '@/core/cart/cart'
import { findNearMisses, type NearMiss } from '@/core/cart/promote/near-misses'
import { type WhyNot } from '@/core/cart/promote/outcome'
import { NO_FACTS } from '@/core/promotions/facts'
import { priceCart } from '@/core/cart/price-cart'
import { type Decimal, ZERO } from '@/core/decimal/decimal'
import { type Promotion, promotionWithCode } from '@/core/promotions/promotion'
import { savedAsShown } from '@/core/cart/promote/saved-as-shown'
import type { PreparedStore } from '@/core/engine/context/prepared-store'
import { formatMoney } from '@/ui/format/amount'
import type { CartPromotionsView, OfferView } from './cart-says'

/** What promotions say beside the lines of a cart. */
export function promotionsView(
  prepared: PreparedStore,
  cart: Cart,
  question: CartQuestion,
  shows: 'net' | 'gross',
): CartPromotionsView {
  const { store } = prepared
  const facts = question.promotions ?? NO_FACTS
  const money = (amount: Decimal) => formatMoney(amount, cart.currency, cart.digits)
  const savedIn = (each: Cart, promotion: string) => savedAsShown(each, promotion, shows)
  const hints = findNearMisses(prepared, question, cart, { price: priceCart, savedIn }).flatMap((miss) => {
    const promotion = store.promotion.get(miss.promotion)
    return promotion ? [{ name: promotion.name, text: hintText(promotion, miss, money) }] : []
  })
  const offers = [...store.promotion.values()].flatMap((promotion): readonly OfferView[] => {
    if (!promotion.isOffer) return []
    const applied = cart.promotions.applied.find((each) => each.promotion === promotion.id)
    const because = cart.promotions.idle.find((each) => each.promotion === promotion.id)?.because
    const { id, code, name } = promotion
    if (applied) return [{ code, name, saves: savedIn(cart, id), choice: 'taken' }]
    if (because?.code !== 'offered' && because?.code !== 'declined') return []
    const choices = { ...facts.choices, [id]: 'taken' as const }
    const taken = priceCart(prepared, { ...question, promotions: { ...facts, choices } })
    const saves = taken.ok ? savedIn(taken.value, id) : ZERO
    return [{ code, name, saves, choice: because.code === 'declined' ? 'left' : 'open' }]
  })
  return {
    hints,
    offers,
    codes: facts.codes.map((code) => {
      const promotion = promotionWithCode(store.promotion.values(), code)
      const applied = cart.promotions.applied.find((each) => each.promotion === promotion?.id)
      const because = cart.promotions.idle.find((each) => each.promotion === promotion?.id)?.because
      return {
        code,
        isUsed: applied !== undefined,
        text: applied
          ? `${promotion?.name ?? code} saves ${money(savedIn(cart, applied.promotion))}.`
          : `${promotion?.name ?? code} does not change this cart${whyText(because, money)}.`,
      }
    }),
  }
}

function hintText({ name }: Promotion, miss: NearMiss, money: (amount: Decimal) => string): string {
  const saves = miss.saves === null ? '' : `, saves ${money(miss.saves)}`
  switch (miss.missing.kind) {
    case 'units':
      return `${miss.missing.count} more for “${name}”${saves}`
    case 'value':
      return `${money(miss.missing.amount)} more for “${name}”${saves}`
    case 'weight':
      return `${miss.missing.kilograms} kg more for “${name}”${saves}`
  }
}

function whyText(because: WhyNot | undefined, money: (amount: Decimal) => string): string {
  switch (because?.code) {
    case 'too-few':
      return `: ${because.missing} more would make it hold`
    case 'too-little':
      return `: ${money(because.missing)} more would make it hold`
    case 'used-up':
      return ': it has been used as often as it may'
    case 'used':
      return ': another promotion comes first'
    default:
      return ''
  }
}
