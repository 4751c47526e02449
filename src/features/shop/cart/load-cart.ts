import 'server-only'

import type { Cart, CartLine, CartLineWanted, CartQuestion } from '@/core/cart/cart'
import { stockAsked } from '@/core/cart/stock-asked'
import { paymentTermsOf } from '@/core/cart/payment-terms'
import { priceCart } from '@/core/cart/price-cart'
import { unitPriceOf } from '@/core/catalogue/content'
import { itemName } from '@/core/catalogue/product'
import { compare, type Decimal, multiply, negate, subtract, sum, ZERO } from '@/core/decimal/decimal'
import { toFraction } from '@/core/decimal/fraction'
import { roundToDigits } from '@/core/decimal/rounding'
import { findComparedPrice } from '@/core/engine/price/compared-price'
import { quantityUnits } from '@/core/engine/lists/compiled-line'
import { contentOf, displayOf, taxPrice } from '@/core/engine/rules/find-tax'
import type { PromotionFacts } from '@/core/promotions/facts'
import { getSettings } from '@/core/store/store'
import { getSteppe } from '@/server/engine/steppe'
import { ownerOf, type ShopVisitor, visitorFacts } from '@/server/session/shop-session'
import { readCart } from '@/server/shop/cart-store'
import { lastOrderOf } from '@/server/orders/order-rows'
import { pastPurchases } from '@/server/orders/past-purchases'
import { readStock } from '@/server/stock/stock-levels'
import { formatMoney } from '@/ui/format/amount'
import { problemViews } from '@/ui/cart/cart-problems'
import { promotionsView } from '@/ui/cart/cart-promotions'
import type { CartLineView, CartSum, CartView } from './cart-view'
import { stockSentence, taxWordsOf } from '../frame/shop-sentences'

export interface LoadedCart {
  readonly lines: readonly CartLineWanted[]
  readonly cart: Cart
  /** The last order of the account, as of which its past purchases are. */
  readonly lastOrder: number | null
  /** What was asked, so that more can be asked of the same. */
  readonly question: CartQuestion
}

/** A visitor's cart priced; what they may not see has fallen out of it. */
export async function loadCart(visitor: ShopVisitor): Promise<LoadedCart> {
  const steppe = await getSteppe()
  const kept = await readCart(steppe, visitor.prepared, visitor.cart)
  return loadLines(visitor, kept, await visitorFacts(steppe, visitor))
}

/** Lines priced for a visitor as in a cart. */
export async function loadLines(
  visitor: Pick<ShopVisitor, 'prepared' | 'buyerContext' | 'cart'>,
  kept: readonly CartLineWanted[],
  promotions: PromotionFacts,
): Promise<LoadedCart> {
  const steppe = await getSteppe()
  const { prepared, buyerContext } = visitor
  const { account } = ownerOf(visitor)
  const lastOrder = await lastOrderOf(steppe.database, account)
  const past = await pastPurchases(steppe, prepared.store, account, buyerContext.at)
  const stock = await readStock(steppe.database, stockAsked(prepared.store, kept))
  const questionOf = (lines: readonly CartLineWanted[]) => ({
    ...buyerContext,
    lines,
    past,
    promotions,
    stock,
  })
  const price = (lines: readonly CartLineWanted[]) => priceCart(prepared, questionOf(lines))
  const first = price(kept)
  if (!first.ok) throw new RangeError(`a cart cannot be priced: ${first.error.code}`)
  const lines = kept.filter((_, at) => first.value.lines[at]?.access.see === true)
  const priced = lines.length === kept.length ? first : price(lines)
  if (!priced.ok) throw new RangeError(`a cart cannot be priced: ${priced.error.code}`)
  return { lines, lastOrder, cart: priced.value, question: questionOf(lines) }
}

/** The total somebody looks at, and in what: an order is placed at no other. */
export function seenTotal({ currency, total }: Cart): string {
  return `${currency} ${total.gross}`
}

export function toCartView(visitor: ShopVisitor, { cart, question }: LoadedCart): CartView {
  const { prepared, pricingContext } = visitor
  const display = displayOf(prepared, pricingContext, 'cart')
  const shows = display === 'gross' ? 'gross' : 'net'
  return {
    mayKeep: question.buyer.kind === 'account',
    mayAsk: cart.lines.some(({ access }) => access.quote),
    currency: cart.currency,
    digits: cart.digits,
    priceDigits: pricingContext.digits,
    display,
    words: taxWordsOf(prepared.store),
    lines: cart.lines
      .map((line, position) => toLineView(visitor, line, position, shows, cart.digits))
      .filter((_, at) => cart.lines[at]?.gift === null),
    gifts: cart.lines
      .map((line, position) => toLineView(visitor, line, position, shows, cart.digits))
      .filter((_, at) => cart.lines[at]?.gift !== null),
    promotions: promotionsView(prepared, cart, question, shows),
    sums: cart.lines.every((line) => line.access.seePrice) ? sumsOf(visitor, cart, shows) : [],
    untaxed: cart.untaxed ? UNTAXED[cart.untaxed] : '',
    terms: paymentTermsOf(pricingContext),
    problems: problemViews(prepared, cart),
  }
}

function toLineView(
  { prepared, pricingContext, buyerContext }: ShopVisitor,
  line: CartLine,
  position: number,
  shows: 'net' | 'gross',
  digits: number,
): CartLineView {
  const { store, index } = prepared
  const variant = store.variant.get(line.variant)
  const product = store.product.get(variant?.product ?? '')
  const number = index.numberOf.get(line.variant) as number
  const { limits } = line.limits
  const isShown = line.access.seePrice
  const unit = isShown ? (line.unitAmount?.[shows] ?? null) : null
  const total = isShown ? (line.amount?.[shows] ?? null) : null
  const quantities = { own: quantityUnits(line.quantity), counted: null }
  // Extras have no public price beside their own.
  const compared =
    isShown && line.extras.length === 0
      ? findComparedPrice(prepared, pricingContext, buyerContext, number, quantities)
      : null
  const was = compared && taxPrice(prepared, pricingContext, number, compared)[shows]
  return {
    position,
    sku: variant?.sku ?? '',
    product: product?.code ?? '',
    picture: product?.picture ?? '',
    name: product && variant ? itemName(product, variant) : (product?.name ?? ''),
    extras: line.extras.map((id) => store.extra.get(id)?.name ?? id),
    quantity: line.quantity,
    step: limits.multiple,
    values: limits.values,
    unit,
    was: was !== null && unit !== null && compare(was, unit) > 0 ? was : null,
    perUnit: unit && unitPriceOf(unit, contentOf(prepared, number), digits),
    total,
    isRoundedOnce:
      unit !== null &&
      total !== null &&
      line.discounts.length === 0 &&
      compare(roundedTo(multiply(unit, line.quantity), digits), total) !== 0,
    stock: product ? stockSentence(line.stock, product) : '',
    before: isShown && line.discounts.length > 0 ? (line.beforeAmount?.[shows] ?? null) : null,
    promotions: line.discounts.map(({ promotion }) => store.promotion.get(promotion)?.name ?? promotion),
  }
}

function roundedTo(amount: Decimal, digits: number): Decimal {
  return roundToDigits(toFraction(amount), digits, 'half-up')
}

const UNTAXED = {
  certificate: 'No tax is charged: the account has a certificate of exemption.',
  'reverse-charge': 'Reverse charge: the buyer accounts for the tax.',
} as const

/** Without tax: goods and delivery, each tax, the total. With tax: goods and delivery as they are paid, and the tax in them. */
function sumsOf({ prepared }: ShopVisitor, cart: Cart, shows: 'net' | 'gross'): readonly CartSum[] {
  const words = taxWordsOf(prepared.store)
  const { taxTotals } = getSettings(prepared.store)
  const taxes =
    taxTotals === 'one'
      ? [{ label: 'Tax', amount: cart.total.tax }]
      : cart.taxes.map(({ levy, on, amount }) => ({
          label: `${levy.tax.name} ${levy.percent} % on ${formatMoney(on, cart.currency, cart.digits)}`,
          amount,
        }))
  const before = sum(cart.lines.map(({ beforeAmount }) => beforeAmount?.[shows] ?? ZERO))
  const saved = subtract(before, cart.goods[shows])
  const goods = [
    ...(saved === ZERO
      ? []
      : [
          { label: 'Before promotions', amount: before },
          { label: 'You save', amount: negate(saved) },
        ]),
    { label: shows === 'net' ? `Subtotal, ${words.net}` : 'Subtotal', amount: cart.goods[shows] },
    { label: 'Delivery', amount: cart.delivery[shows] },
    ...(cart.payment.gross === ZERO ? [] : [{ label: 'For the way of paying', amount: cart.payment[shows] }]),
  ]
  if (shows === 'net') return [...goods, ...taxes, { label: 'Total', amount: cart.total.gross }]
  return [
    ...goods,
    { label: 'Total', amount: cart.total.gross },
    ...taxes.map(({ label, amount }) => ({ label: `includes ${label}`, amount })),
  ]
}
