import 'server-only'

import type { Cart, CartLineWanted } from '@/core/cart/cart'
import { priceCart } from '@/core/cart/price-cart'
import { variantName } from '@/core/catalogue/product'
import { displayOf } from '@/core/engine/find-tax'
import { getSettings } from '@/core/store/store'
import { getSteppe } from '@/server/engine/steppe'
import type { ShopVisitor } from '@/server/session/shop-session'
import { readCart } from '@/server/shop/cart-store'
import { pastPurchases } from '@/server/shop/order-store'
import { formatMoney } from '@/ui/format/amount'
import { problemViews } from './cart-problems'
import type { CartSum, CartView } from './cart-view'
import { stockSentence } from './shop-sentences'

/** A visitor's cart priced; what they may not see has fallen out of it. */
export async function loadCart(
  visitor: ShopVisitor,
): Promise<{ readonly lines: readonly CartLineWanted[]; readonly cart: Cart }> {
  const steppe = await getSteppe()
  const { prepared, standpoint } = visitor
  const kept = await readCart(steppe, prepared, visitor.cart)
  const price = (lines: readonly CartLineWanted[]) => priceCart(prepared, { ...standpoint, lines, past })
  const past = await pastPurchases(steppe, ownerOf(visitor))
  const first = price(kept)
  if (!first.ok) throw new RangeError(`a cart cannot be priced: ${first.error.code}`)
  const lines = kept.filter((_, at) => first.value.lines[at]?.access.see === true)
  const priced = lines.length === kept.length ? first : price(lines)
  if (!priced.ok) throw new RangeError(`a cart cannot be priced: ${priced.error.code}`)
  return { lines, cart: priced.value }
}

export function ownerOf({ standpoint, cart }: ShopVisitor) {
  const { buyer } = standpoint
  return { account: buyer.kind === 'account' ? buyer.account : null, visitor: cart }
}

/** The total somebody looks at, and in what: an order is placed at no other. */
export function seenTotal({ currency, total }: Cart): string {
  return `${currency} ${total.gross}`
}

export function toCartView(visitor: ShopVisitor, cart: Cart): CartView {
  const { prepared, situation } = visitor
  const { store } = prepared
  const display = displayOf(prepared, situation, 'cart')
  const shows = display === 'gross' ? 'gross' : 'net'
  return {
    currency: cart.currency,
    digits: cart.digits,
    priceDigits: situation.digits,
    display,
    lines: cart.lines.map((line, position) => {
      const variant = store.variant.get(line.variant)
      const product = store.product.get(variant?.product ?? '')
      const { limits } = line.limits
      const isShown = line.access.seePrice
      return {
        position,
        sku: variant?.sku ?? '',
        product: product?.code ?? '',
        name: [product?.name, product && variant && variantName(product, variant)].filter(Boolean).join(', '),
        extras: line.extras.map((id) => store.extra.get(id)?.name ?? id),
        quantity: line.quantity,
        step: limits.multiple,
        values: limits.values,
        unit: isShown ? (line.unitAmount?.[shows] ?? null) : null,
        total: isShown ? (line.amount?.[shows] ?? null) : null,
        stock: stockSentence(line.stock),
      }
    }),
    sums: cart.lines.every((line) => line.access.seePrice) ? sumsOf(visitor, cart, shows) : [],
    untaxed: cart.untaxed ? UNTAXED[cart.untaxed] : '',
    problems: problemViews(prepared, cart),
  }
}

const UNTAXED = {
  certificate: 'No tax is charged: the account has a certificate of exemption.',
  'reverse-charge': 'Reverse charge: the buyer accounts for the tax.',
} as const

/** Without tax: goods and delivery, each tax, the total. With tax: goods and delivery as they are paid, and the tax in them. */
function sumsOf({ prepared }: ShopVisitor, cart: Cart, shows: 'net' | 'gross'): readonly CartSum[] {
  const { taxTotals } = getSettings(prepared.store)
  const taxes =
    taxTotals === 'one'
      ? [{ label: 'Tax', amount: cart.total.tax }]
      : cart.taxes.map(({ levy, on, amount }) => ({
          label: `${levy.tax.name} ${levy.percent} % on ${formatMoney(on, cart.currency, cart.digits)}`,
          amount,
        }))
  const goods = [
    { label: 'Goods', amount: cart.goods[shows] },
    { label: 'Delivery', amount: cart.delivery[shows] },
  ]
  if (shows === 'net') return [...goods, ...taxes, { label: 'Total', amount: cart.total.gross }]
  return [
    ...goods,
    { label: 'Total', amount: cart.total.gross },
    ...taxes.map(({ label, amount }) => ({ label: `includes ${label}`, amount })),
  ]
}
