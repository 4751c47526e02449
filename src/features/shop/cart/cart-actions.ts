'use server'

import { FORM, TEXT, TEXTS } from '@/server/session/argument-shapes'
import { shopAction } from '@/server/session/permit'
import type { CartLineWanted } from '@/core/cart/cart'
import { findByCode, findBySku } from '@/core/catalogue/find-by-code'
import { type Decimal, parseDecimal } from '@/core/decimal/decimal'
import { isSameWord } from '@/server/doors/same-word'
import { getSteppe } from '@/server/engine/steppe'
import {
  shopView,
  cartOfVisitor,
  ownerOf,
  rememberPasscode,
  shopVisitor,
} from '@/server/session/shop-session'
import { findOrder } from '@/server/orders/order-rows'
import { readCart, writeCart } from '@/server/shop/cart-store'
import { tryWord } from '@/server/shop/word-tries'
import { isQuantity } from '@/ui/frame/vantage-url'
import { redirect } from 'next/navigation'
import { enterShopPage, isOutside } from '../entrance/enter'
import { insideShop } from '../entrance/inside-shop'
import { goWith } from '@/core/cart/go-with'
import { isSame, mayBuy, put } from './put-lines'
import { NO_ROOM, withRoom, withRoomOr } from '../frame/with-room'

/** What came of putting something in: what is wrong, or how much of it is in the cart now. */
export type Added =
  { readonly ok: true; readonly quantity: string } | { readonly ok: false; readonly problem: string }

/** Puts some pieces of a SKU in; the same with the same extras is one line. */
export const addToCart = shopAction(
  [TEXT, TEXT, TEXTS],
  async (sku: string, typed: string, extraCodes: readonly string[]): Promise<Added> => {
    const visitor = await enterShopPage()
    const { store } = visitor.prepared
    const variant = findBySku(store.variant, sku)
    const quantity = isQuantity(typed.trim()) ? parseDecimal(typed.trim()) : null
    if (!variant || !mayBuy(visitor, variant.id))
      return { ok: false, problem: 'This item is not available to you.' }
    if (quantity === null) return { ok: false, problem: 'Enter a quantity above zero, such as 12.' }
    const extras = [...new Set(extraCodes)].flatMap((code) => findByCode(store.extra, code)?.id ?? [])
    if (!goWith(visitor.prepared, variant.id, extras) || extras.length !== new Set(extraCodes).size)
      return { ok: false, problem: 'These options are not available for this item.' }
    const lines = await withRoomOr(
      () => put(visitor, [{ variant: variant.id, quantity, extras }]),
      () => null,
    )
    if (lines === null) return { ok: false, problem: NO_ROOM }
    const line = lines.find((each) => isSame(each, { variant: variant.id, quantity, extras }))
    return { ok: true, quantity: line?.quantity ?? quantity }
  },
)

/** Takes over the quantity a form names for one line; nothing, or 0, takes the line out. */
export const changeLine = shopAction([FORM], async (form: FormData): Promise<never> => {
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
})

/** Takes everything out. */
export const emptyCart = shopAction([FORM], async (): Promise<never> => {
  await enterShopPage()
  const id = await withRoom(cartOfVisitor)
  const steppe = await getSteppe()
  await withRoom(() => writeCart(steppe, id, []))
  redirect('/shop/cart')
})

/** Puts in what one of their orders held, as far as they may still buy it; gifts are not bought. */
export const orderAgain = shopAction([FORM], async (form: FormData): Promise<never> => {
  const visitor = await enterShopPage()
  const { database } = await getSteppe()
  const order = await findOrder(database, Number(form.get('number')), ownerOf(visitor))
  if (!order) redirect('/shop/orders')
  const { store } = visitor.prepared
  const bought = order.document.lines.filter(({ isGift }) => !isGift)
  const wanted = bought.flatMap(({ variant, quantity, extras }): readonly CartLineWanted[] => {
    if (!store.variant.has(variant) || !mayBuy(visitor, variant)) return []
    const ids = extras.map(({ id }) => id).filter((id) => store.extra.has(id))
    return [{ variant, quantity, extras: goWith(visitor.prepared, variant, ids) ? ids : [] }]
  })
  if (wanted.length > 0) await withRoom(() => put(visitor, wanted))
  const left = bought.length - wanted.length
  redirect(left === 0 ? '/shop/cart' : `/shop/cart?left=${left}`)
})

/** Takes a passcode; a wrong one is refused with its reason. */
export const enterPasscode = shopAction([FORM], async (form: FormData): Promise<never> => {
  const word = String(form.get('word') ?? '').trim()
  const { store } = (await shopView()).prepared
  const back = insideShop(String(form.get('back') ?? ''))
  const again = new URLSearchParams({ back })
  const tried = await withRoom(async () =>
    tryWord(await getSteppe(), 'passcode', () =>
      // Each is compared, whichever it is.
      [...store.passcode.values()].filter((each) => isSameWord(each.word, word)).at(0),
    ),
  )
  if (!tried) redirect(`/shop/gate?waits=1&${again}`)
  const given = tried.found
  // A slip does not take away a passcode that was good.
  if (!given) redirect(`/shop/gate?wrong=1&${again}`)
  await withRoom(() => rememberPasscode(given.id))
  const visitor = await shopVisitor()
  // One that is not good today opens nothing.
  redirect(
    visitor.pricingContext.terms.passcode && !isOutside(visitor) ? back : `/shop/gate?wrong=1&${again}`,
  )
})
