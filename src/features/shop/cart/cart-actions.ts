'use server'

import type { CartLineWanted } from '@/core/cart/cart'
import { findByCode, findBySku } from '@/core/catalogue/find-by-code'
import { add, type Decimal, parseDecimal } from '@/core/decimal/decimal'
import { factsOf } from '@/core/engine/items/catalogue-index'
import { findRights } from '@/core/engine/rules/find-rights'
import { matchWhat } from '@/core/predicates/what'
import { getSteppe } from '@/server/engine/steppe'
import {
  shopView,
  cartOfVisitor,
  ownerOf,
  rememberPasscode,
  shopVisitor,
  type ShopVisitor,
} from '@/server/session/shop-session'
import { findOrder } from '@/server/orders/order-rows'
import { readCart, writeCart } from '@/server/shop/cart-store'
import { isQuantity } from '@/ui/frame/vantage-url'
import { redirect } from 'next/navigation'
import { enterShopPage, isOutside } from '../entrance/enter'
import { insideShop } from '../entrance/inside-shop'
import { readQuickOrder } from './quick-order'
import { NO_ROOM, withRoom, withRoomOr } from '../frame/with-room'

/** As much as a pasted list may be: a thousand lines. */
const LONGEST_LIST = 100_000

/** What came of putting something in: what is wrong, or how much of it is in the cart now. */
export type Added =
  { readonly ok: true; readonly quantity: string } | { readonly ok: false; readonly problem: string }

/** Puts some pieces of a SKU in; the same with the same extras is one line. */
export async function addToCart(sku: string, typed: string, extraCodes: readonly string[]): Promise<Added> {
  const visitor = await enterShopPage()
  const { store } = visitor.prepared
  const variant = findBySku(store.variant, sku)
  const quantity = isQuantity(typed.trim()) ? parseDecimal(typed.trim()) : null
  if (!variant || !mayBuy(visitor, variant.id))
    return { ok: false, problem: 'This item is not available to you.' }
  if (quantity === null) return { ok: false, problem: 'Enter a quantity above zero, such as 12.' }
  const extras = [...new Set(extraCodes)].flatMap((code) => findByCode(store.extra, code)?.id ?? [])
  if (!goWith(visitor, variant.id, extras) || extras.length !== new Set(extraCodes).size)
    return { ok: false, problem: 'These options are not available for this item.' }
  const lines = await withRoomOr(
    () => put(visitor, [{ variant: variant.id, quantity, extras }]),
    () => null,
  )
  if (lines === null) return { ok: false, problem: NO_ROOM }
  const line = lines.find((each) => isSame(each, { variant: variant.id, quantity, extras }))
  return { ok: true, quantity: line?.quantity ?? quantity }
}

function mayBuy({ prepared, pricingContext }: ShopVisitor, variant: string): boolean {
  return findRights(prepared, pricingContext, prepared.index.numberOf.get(variant) as number).buy
}

/** Whether extras are sold and made for an item. */
function goWith({ prepared }: ShopVisitor, variant: string, extras: readonly string[]): boolean {
  const { store, index } = prepared
  const facts = factsOf(store, index, index.numberOf.get(variant) as number)
  return extras.every((id) => {
    const extra = store.extra.get(id)
    return extra?.status === 'active' && matchWhat(extra.scope, facts).matches
  })
}

function isSame(left: CartLineWanted, right: CartLineWanted): boolean {
  return left.variant === right.variant && left.extras.join() === right.extras.join()
}

async function put(
  visitor: ShopVisitor,
  wanted: readonly CartLineWanted[],
): Promise<readonly CartLineWanted[]> {
  const steppe = await getSteppe()
  const id = await cartOfVisitor()
  const lines = [...(await readCart(steppe, visitor.prepared, id))]
  for (const line of wanted) {
    const at = lines.findIndex((each) => isSame(each, line))
    if (at < 0) lines.push(line)
    else lines[at] = { ...line, quantity: add((lines[at] as CartLineWanted).quantity, line.quantity) }
  }
  await writeCart(steppe, id, lines)
  return lines
}

/** Takes over the quantity a form names for one line; nothing, or 0, takes the line out. */
export async function changeLine(form: FormData): Promise<never> {
  const visitor = await enterShopPage()
  const steppe = await getSteppe()
  const id = await withRoom(cartOfVisitor)
  const lines = await readCart(steppe, visitor.prepared, id)
  const sku = String(form.get('sku') ?? '')
  const at = Number(form.get('line'))
  const typed = String(form.get('quantity') ?? '').trim()
  const line = lines[at]
  // Another window may have changed the cart: the line must still be the one that was meant.
  if (!line || visitor.prepared.store.variant.get(line.variant)?.sku !== sku) redirect('/shop/cart?moved=1')
  const isGone = form.get('gone') === '1' || typed === '' || Number(typed) === 0
  if (!isGone && !isQuantity(typed)) redirect(`/shop/cart?wrong=${encodeURIComponent(typed.slice(0, 40))}`)
  const quantity = parseDecimal(typed) as Decimal
  const without = form.get('without')
  const changed = isGone
    ? lines.filter((_, other) => other !== at)
    : lines.map((each, other) =>
        other === at ? { ...each, quantity, extras: each.extras.filter((id) => id !== without) } : each,
      )
  await withRoom(() => writeCart(steppe, id, changed))
  redirect('/shop/cart')
}

/** Takes everything out. */
export async function emptyCart(): Promise<never> {
  await enterShopPage()
  const id = await withRoom(cartOfVisitor)
  const steppe = await getSteppe()
  await withRoom(() => writeCart(steppe, id, []))
  redirect('/shop/cart')
}

/** Puts in what one of their orders held, as far as they may still buy it; gifts are not bought. */
export async function orderAgain(form: FormData): Promise<never> {
  const visitor = await enterShopPage()
  const { database } = await getSteppe()
  const order = await findOrder(database, Number(form.get('number')), ownerOf(visitor))
  if (!order) redirect('/shop/orders')
  const { store } = visitor.prepared
  const bought = order.document.lines.filter(({ isGift }) => !isGift)
  const wanted = bought.flatMap(({ variant, quantity, extras }): readonly CartLineWanted[] => {
    if (!store.variant.has(variant) || !mayBuy(visitor, variant)) return []
    const ids = extras.map(({ id }) => id).filter((id) => store.extra.has(id))
    return [{ variant, quantity, extras: goWith(visitor, variant, ids) ? ids : [] }]
  })
  if (wanted.length > 0) await withRoom(() => put(visitor, wanted))
  const left = bought.length - wanted.length
  redirect(left === 0 ? '/shop/cart' : `/shop/cart?left=${left}`)
}

/** Puts in what a pasted list names; lines that name nothing that can be bought are reported and stay in the field. */
export async function quickOrder(_before: QuickOrdered, form: FormData): Promise<QuickOrdered> {
  const visitor = await enterShopPage()
  const { store } = visitor.prepared
  const read = readQuickOrder(String(form.get('list') ?? '').slice(0, LONGEST_LIST))
  const left: QuickLineLeft[] = []
  const wanted: CartLineWanted[] = []
  for (const { text, sku, quantity } of read) {
    const variant = sku === null ? null : findBySku(store.variant, sku)
    // What is not there and what is not for this buyer look the same from outside.
    if (!variant || !mayBuy(visitor, variant.id))
      left.push({ text, problem: `No item “${sku ?? text}” is available.` })
    else if (!quantity) left.push({ text, problem: 'Enter the quantity as a number above zero, such as 12.' })
    else wanted.push({ variant: variant.id, quantity, extras: [] })
  }
  if (wanted.length > 0) await withRoom(() => put(visitor, wanted))
  if (left.length === 0 && wanted.length > 0) redirect('/shop/cart')
  return { taken: wanted.length, left }
}

export interface QuickOrdered {
  /** How many lines are in the cart now. */
  readonly taken: number
  /** Lines nothing could be made of. */
  readonly left: readonly QuickLineLeft[]
}

interface QuickLineLeft {
  readonly text: string
  readonly problem: string
}

/** Takes a passcode; a wrong one is refused with its reason. */
export async function enterPasscode(form: FormData): Promise<never> {
  const word = String(form.get('word') ?? '').trim()
  const { store } = (await shopView()).prepared
  const given = [...store.passcode.values()].find((each) => each.word.toLowerCase() === word.toLowerCase())
  const back = insideShop(String(form.get('back') ?? ''))
  const again = new URLSearchParams({ back })
  // A slip does not take away a passcode that was good.
  if (!given) redirect(`/shop/gate?wrong=1&${again}`)
  await withRoom(() => rememberPasscode(given.id))
  const visitor = await shopVisitor()
  // One that is not good today opens nothing.
  redirect(
    visitor.pricingContext.terms.passcode && !isOutside(visitor) ? back : `/shop/gate?wrong=1&${again}`,
  )
}
