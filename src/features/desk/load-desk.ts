import 'server-only'

import { priceCart } from '@/core/cart/price-cart'
import { findByCode } from '@/core/catalogue/find-by-code'
import { itemName } from '@/core/catalogue/product'
import { paymentTermsOf } from '@/core/cart/payment-terms'
import type { PreparedStore } from '@/core/engine/context/prepared-store'
import { getSettings, type Store } from '@/core/store/store'
import { findDeskOrder, lastChannel, unfinishedDeskOrders, type DeskOrder } from '@/server/desk/desk-rows'
import { type DeskContent, EMPTY_DESK } from '@/server/desk/desk-shape'
import type { RequestContext } from '@/server/engine/request-context'
import type { Steppe } from '@/server/engine/steppe'
import { findVariants } from '@/server/engine/find-variants'
import { addressesOf } from '@/server/orders/addresses-of'
import { findOrder, lastOrderOf } from '@/server/orders/order-rows'
import { regularItems } from '@/server/orders/regular-items'
import { formatDay, formatMoment } from '@/ui/format/instant'
import { countryName } from '@/ui/format/place-names'
import { recordHref } from '@/ui/frame/record-href'
import { deskContext } from './desk-context'
import { deskFigures } from './desk-figures'
import type { DeskBuyer, DeskFigures, DeskFound, DeskView } from './desk-view'
import { priceDesk } from './price-desk'

const MOST_REGULAR = 5
const MOST_FOUND = 6

type Context = Pick<RequestContext, 'steppe' | 'prepared' | 'now'>

/** The desk with one of its orders, or a new one. Errors  `null` where there is none of the number, or it is finished. */
export async function loadDesk(context: Context, number: number | null): Promise<DeskView | null> {
  const { steppe, prepared, now } = context
  const { store } = prepared
  const { timeZone } = getSettings(store)
  const all = await unfinishedDeskOrders(steppe)
  const order = number === null ? null : await findDeskOrder(steppe, number)
  if (number !== null && !order) return null
  // The counter stands where it stood for the order before.
  const content = order?.content ?? { ...EMPTY_DESK, channel: await lastChannel(steppe) }
  return {
    number: order?.number ?? null,
    version: order?.version ?? 0,
    begun: order ? `begun on ${formatMoment(order.at.getTime(), timeZone)} by ${order.author}` : '',
    content,
    figures: await loadDeskFigures(steppe, prepared, content, now),
    buyer: await loadDeskBuyer(context, content),
    channels: [...store.channel.values()]
      .filter(({ status }) => status === 'active')
      .sort((one, other) => one.position - other.position)
      .map(({ code, name }) => ({ code, name })),
    held: all
      .filter((each) => each.number !== number)
      .map((each) => ({ number: each.number, about: heldWords(store, each) })),
  }
}

function heldWords(store: Store, { content }: DeskOrder): string {
  const name = content.account === '' ? 'walk-in' : (findByCode(store.account, content.account)?.name ?? '')
  const { length } = content.lines
  return `${name}, ${length} ${length === 1 ? 'line' : 'lines'}`
}

/** What it comes to; `null` where its buyer's currency or the channel is gone, or nothing is in it. */
export async function loadDeskFigures(
  steppe: Steppe,
  prepared: PreparedStore,
  content: DeskContent,
  at: number,
): Promise<DeskFigures | null> {
  if (content.lines.length === 0) return null
  const priced = await priceDesk(steppe, prepared, content, { at, author: '' })
  return priced && deskFigures(prepared, content, priced)
}

/** Who orders, and what they order otherwise. */
export async function loadDeskBuyer(context: Context, content: DeskContent): Promise<DeskBuyer> {
  const { steppe, prepared, now } = context
  const { store } = prepared
  const account = content.account === '' ? null : findByCode(store.account, content.account)
  const found = deskContext(prepared, content, now)
  if (!account || !found)
    return {
      ...{ name: account?.name ?? '', href: null, about: 'Pays what guests pay', people: [], addresses: [] },
      ...{ terms: '', last: null, regular: [] },
    }
  const groups = account.groups.flatMap((id) => store.group.get(id)?.name ?? [])
  const contract = found.pricingContext.contracts[0]
  return {
    name: account.name,
    href: recordHref('accounts', account.code),
    about: [...groups, account.city, contract ? contract.name : 'no contract'].filter(Boolean).join(', '),
    people: account.emails.map((email) => ({
      email,
      name: account.people.find((each) => each.email === email)?.name ?? email,
    })),
    addresses: addressesOf(account).map(({ street, postcode, city, country }) =>
      [street, `${postcode} ${city}`.trim(), countryName(country)].filter(Boolean).join(', '),
    ),
    terms: paymentTermsOf(found.pricingContext),
    last: await lastOrder(steppe, store, account.id),
    regular: await regular(context, content, account.id),
  }
}

async function lastOrder({ database }: Steppe, store: Store, account: string): Promise<DeskBuyer['last']> {
  const number = await lastOrderOf(database, account)
  const order = number === null ? null : await findOrder(database, number)
  if (!order) return null
  return {
    number: order.number,
    when: formatDay(order.at, getSettings(store).timeZone),
    lines: order.document.lines.flatMap(({ variant, quantity, extras, isGift }) => {
      const sku = store.variant.get(variant)?.sku
      if (sku === undefined || isGift) return []
      const codes = extras.flatMap(({ id }) => store.extra.get(id)?.code ?? [])
      return [{ sku, quantity, extras: codes, price: '', reason: '' }]
    }),
  }
}

async function regular(
  { steppe, prepared, now }: Context,
  content: DeskContent,
  account: string,
): Promise<DeskBuyer['regular']> {
  const { store } = prepared
  const found = deskContext(prepared, content, now)
  if (!found) return []
  const inOrder = new Set(content.lines.map(({ sku }) => sku.trim().toLowerCase()))
  const items = (await regularItems(steppe.database, account, 2 * MOST_REGULAR)).flatMap((item) => {
    const variant = store.variant.get(item.variant)
    const product = store.product.get(variant?.product ?? '')
    if (!variant || !product || inOrder.has(variant.sku.toLowerCase())) return []
    return [{ ...item, variant, product }]
  })
  const shown = items.slice(0, MOST_REGULAR)
  const priced = priceCart(prepared, {
    ...found.buyerContext,
    lines: shown.map(({ variant, quantity }) => ({ variant: variant.id, quantity, extras: [] })),
    ...{ past: [], promotions: null },
  })
  return shown.map(({ variant, product, quantity, times }, at) => ({
    ...{ sku: variant.sku, name: itemName(product, variant), quantity },
    unit: priced.ok ? (priced.value.lines[at]?.unitAmount?.[found.basis] ?? null) : null,
    about: `in ${times} orders`,
  }))
}

/** Items found by what was typed, each at what so many cost the buyer. */
export async function findAtDesk(
  { steppe, prepared, now }: Context,
  content: DeskContent,
  { words, quantity }: { readonly words: string; readonly quantity: string },
): Promise<readonly DeskFound[]> {
  const found = findVariants(prepared.store, words, MOST_FOUND)
  if (found.length === 0) return []
  const asked: DeskContent = {
    ...content,
    choices: {},
    lines: found.map(({ variant }) => ({ sku: variant.sku, quantity, extras: [], price: '', reason: '' })),
  }
  // Each by itself: what is found is not bought together.
  const figures = await Promise.all(
    asked.lines.map((line) => loadDeskFigures(steppe, prepared, { ...asked, lines: [line] }, now)),
  )
  return found.map(({ variant, name }, at) => {
    const line = figures[at]?.lines[0]
    return {
      ...{ sku: variant.sku, name, unit: line?.unit ?? null, how: line?.how ?? '' },
      ...{ tax: line?.tax ?? '', total: line?.total ?? null },
    }
  })
}

/** Accounts whose name, town or code holds the words. */
export function findBuyers(
  store: Store,
  text: string,
): readonly { readonly code: string; readonly name: string; readonly about: string }[] {
  const words = text.toLowerCase().split(/\s+/).filter(Boolean)
  const found = []
  for (const { status, name, code, city, groups, emails, people } of store.account.values()) {
    if (found.length >= MOST_FOUND) break
    const texts = [name, code, city, ...emails, ...people.map((each) => each.name)].join(' ').toLowerCase()
    if (status === 'active' && words.every((word) => texts.includes(word)))
      found.push({
        code,
        name,
        about: [store.group.get(groups[0] ?? '')?.name, city].filter(Boolean).join(', '),
      })
  }
  return found
}
