import 'server-only'

import type { Cart, CartLineWanted, CartQuestion } from '@/core/cart/cart'
import { priceCart } from '@/core/cart/price-cart'
import { stockAsked } from '@/core/cart/stock-asked'
import { findByCode, findBySku } from '@/core/catalogue/find-by-code'
import { type Decimal, isPositive, parseDecimal } from '@/core/decimal/decimal'
import { typedAmount } from '@/core/decimal/written-amount'
import type { PreparedStore } from '@/core/engine/context/prepared-store'
import { makeOrder } from '@/core/order/make-order'
import type { OrderLine } from '@/core/order/order'
import { readSettledPrice } from '@/core/order/read-settled-price'
import { marginPercent } from '@/core/price/margin'
import type { PriceExpressionError } from '@/core/price/price-expression'
import { multiply } from '@/core/decimal/decimal'
import { compare } from '@/core/decimal/decimal'
import { getSettings } from '@/core/store/store'
import { goWith } from '@/core/cart/go-with'
import type { DeskContent, DeskLine } from '@/server/desk/desk-shape'
import type { Steppe } from '@/server/engine/steppe'
import { pastPurchases } from '@/server/orders/past-purchases'
import { factsOfBuyer } from '@/server/shop/promotion-facts'
import { readStock } from '@/server/stock/stock-levels'
import { lastOrderOf } from '@/server/orders/order-rows'
import { deskContext, type DeskContext } from './desk-context'

/** Why a line is not in the cart. */
export type DeskLineFault =
  'unknown-sku' | 'no-quantity' | 'unknown-extra' | 'no-reason' | 'needs-approval' | PriceExpressionError

/** A line as it was written down: where it is in the cart, or why it is not. */
type ReadDeskLine =
  | { readonly ok: true; readonly position: number; readonly sku: string }
  | { readonly ok: false; readonly fault: DeskLineFault }

export interface PricedDesk {
  readonly context: DeskContext
  readonly lines: readonly ReadDeskLine[]
  readonly cart: Cart
  readonly question: CartQuestion
  /** The last order of the account, as of which its past purchases are. */
  readonly lastOrder: number | null
}

/** An order of the desk as its buyer's cart. Errors  `null` where their currency or the channel is gone. */
export async function priceDesk(
  steppe: Steppe,
  prepared: PreparedStore,
  content: DeskContent,
  { at, author }: { readonly at: number; readonly author: string },
): Promise<PricedDesk | null> {
  const context = deskContext(prepared, content, at)
  if (!context) return null
  const { store } = prepared
  const { buyerContext, pricingContext } = context
  const owner = { account: context.account?.id ?? null, visitor: null }
  const read = content.lines.map((line) => readWanted(prepared, line))
  const wanted = read.flatMap((line) => (typeof line === 'string' ? [] : [line]))
  const lastOrder = await lastOrderOf(steppe.database, owner.account)
  const facts = await factsOfBuyer(steppe, { prepared, pricingContext }, owner)
  const choices = Object.fromEntries(
    Object.entries(content.choices).flatMap(([code, choice]) => {
      const promotion = findByCode(store.promotion, code)
      return promotion ? [[promotion.id, choice]] : []
    }),
  )
  const base = {
    ...buyerContext,
    past: await pastPurchases(steppe, store, owner.account, at),
    promotions: { ...facts, payment: content.payment, choices },
    stock: await readStock(
      steppe.database,
      stockAsked(
        store,
        wanted.map(({ line }) => line),
      ),
    ),
    isCollected: content.delivery === 'collect',
  }
  const settled = settleLines(prepared, context, wanted, author)
  const question: CartQuestion = {
    ...base,
    lines: settled.flatMap((line) => (typeof line === 'string' ? [] : [line])),
  }
  const priced = priceCart(prepared, question)
  if (!priced.ok) return null
  let next = 0
  let place = 0
  const lines = read.map((line): ReadDeskLine => {
    if (typeof line === 'string') return { ok: false, fault: line }
    const made = settled[next++]
    if (typeof made === 'string') return { ok: false, fault: made as DeskLineFault }
    return { ok: true, position: place++, sku: line.sku }
  })
  return { context, lines, cart: priced.value, question, lastOrder }
}

interface Wanted {
  readonly sku: string
  readonly line: CartLineWanted
  readonly typed: DeskLine
}

function readWanted(prepared: PreparedStore, typed: DeskLine): Wanted | DeskLineFault {
  const { store } = prepared
  const variant = findBySku(store.variant, typed.sku.trim())
  if (!variant) return 'unknown-sku'
  const quantity = parseDecimal(typedAmount(typed.quantity))
  if (quantity === null || !isPositive(quantity)) return 'no-quantity'
  const extras = typed.extras.flatMap((code) => findByCode(store.extra, code)?.id ?? [])
  if (extras.length < typed.extras.length || !goWith(prepared, variant.id, extras)) return 'unknown-extra'
  return { sku: variant.sku, typed, line: { variant: variant.id, quantity, extras } }
}

/** Lines with prices that were set by hand, where they may be. */
function settleLines(
  prepared: PreparedStore,
  { buyerContext, pricingContext, basis }: DeskContext,
  wanted: readonly Wanted[],
  author: string,
): readonly (CartLineWanted | DeskLineFault)[] {
  if (wanted.every(({ typed }) => typed.price.trim() === '')) return wanted.map(({ line }) => line)
  const ask = (lines: readonly CartLineWanted[]) =>
    priceCart(prepared, { ...buyerContext, lines, past: [], promotions: null })
  const own = ask(wanted.map(({ line }) => line))
  const ordered = (priced: typeof own): readonly (OrderLine | null)[] => {
    if (!priced.ok) return []
    const { lines } = makeOrder(prepared, pricingContext, priced.value, NOBODY)
    let next = 0
    return priced.value.lines.map(({ amount, unitAmount }) =>
      amount && unitAmount ? (lines[next++] ?? null) : null,
    )
  }
  const theirs = ordered(own)
  const { quoteMargin } = getSettings(prepared.store)
  return wanted.map(({ line, typed }, at) => {
    if (typed.price.trim() === '') return line
    const { variant, extras, quantity } = line
    const { outcome, cost } = readSettledPrice(
      prepared,
      pricingContext,
      { variant, extras, price: typedAmount(typed.price) },
      theirs[at] ?? null,
      basis,
    )
    if (!outcome.ok) return outcome.error
    if (typed.reason.trim() === '') return 'no-reason'
    const settled = {
      ...{ amount: outcome.value, basis },
      by: { kind: 'desk', author, reason: typed.reason.trim() } as const,
    }
    const made = ordered(ask([{ ...line, settled }]))[0]
    const margin = made && cost ? marginOf(made.net, cost, quantity) : null
    if (margin !== null && quoteMargin !== null && compare(margin, quoteMargin) < 0) return 'needs-approval'
    return { ...line, settled }
  })
}

function marginOf(net: Decimal, cost: Decimal, quantity: Decimal): Decimal | null {
  return marginPercent(net, multiply(cost, quantity))
}

/** Only figures are looked at. */
const NOBODY = {
  ...{ buyer: '', email: '', payment: '', reference: '', placedBy: null, changeSet: null },
  address: { name: '', street: '', postcode: '', city: '', state: '', country: '' },
} as const
