import 'server-only'

import { priceCart } from '@/core/cart/price-cart'
import { itemName } from '@/core/catalogue/product'
import { compare } from '@/core/decimal/decimal'
import { findRights } from '@/core/engine/rules/find-rights'
import { displayOf } from '@/core/engine/rules/find-tax'
import { getSettings } from '@/core/store/store'
import { getSteppe } from '@/server/engine/steppe'
import { regularItems } from '@/server/orders/regular-items'
import { ownerOf, type ShopVisitor } from '@/server/session/shop-session'
import { findList, lastPaid, listsOf, type ReorderList } from '@/server/shop/reorder-lists'
import { notForSale } from '@/ui/cart/not-for-sale'
import { formatAmount } from '@/ui/format/amount'
import { formatDay, formatMoment } from '@/ui/format/instant'
import { taxWordsOf } from '../frame/shop-sentences'
import { productShown } from '../orders/load-orders'
import type { ListLineView, ListsView, ListView } from './list-view'

const MOST_REGULAR = 10

/** The lists of an account that a visitor sees. Errors  `null` for whoever has no account. */
export async function loadLists(visitor: ShopVisitor): Promise<ListsView | null> {
  const { account } = ownerOf(visitor)
  if (account === null) return null
  const { database } = await getSteppe()
  const { store } = visitor.prepared
  const { timeZone } = getSettings(store)
  const lists = await listsOf(database, { account, person: visitor.person?.email ?? null })
  const regular = await regularItems(database, account, MOST_REGULAR)
  return {
    lists: lists.map(({ id, name, person, lines, author, at }) => ({
      ...{ id, name },
      about: [
        `${lines.length} ${lines.length === 1 ? 'item' : 'items'}`,
        person === null ? 'shared' : 'yours alone',
        `changed on ${formatDay(at, timeZone)} by ${author}`,
      ].join(', '),
    })),
    regular: regular.flatMap(({ variant: id, quantity, times }) => {
      const variant = store.variant.get(id)
      const product = store.product.get(variant?.product ?? '')
      if (!variant || !product || productShown(visitor, id) === null) return []
      return [
        {
          sku: variant.sku,
          name: itemName(product, variant),
          quantity,
          about: `in ${times} orders, last ${quantity}`,
        },
      ]
    }),
    mayKeepAlone: visitor.person !== null,
  }
}

/** One list at today's prices. Errors  `null` for none of the id, and for one that is not theirs to see. */
export async function loadList(visitor: ShopVisitor, id: string): Promise<ListView | null> {
  const { account } = ownerOf(visitor)
  if (account === null) return null
  const { database } = await getSteppe()
  const found = await findList(database, id, { account, person: visitor.person?.email ?? null })
  if (!found) return null
  const { prepared, pricingContext } = visitor
  const { timeZone } = getSettings(prepared.store)
  const shows = displayOf(prepared, pricingContext, 'cart') === 'gross' ? 'gross' : 'net'
  return {
    ...{ id, name: found.name, isShared: found.person === null, mayKeepAlone: visitor.person !== null },
    changed: `${formatMoment(found.at.getTime(), timeZone)} by ${found.author}`,
    lines: await linesOf(visitor, account, found, shows),
    ...{ currency: pricingContext.currency, digits: 2, priceDigits: pricingContext.digits },
    words: taxWordsOf(prepared.store)[shows],
  }
}

async function linesOf(
  visitor: ShopVisitor,
  account: string,
  { lines }: ReorderList,
  shows: 'net' | 'gross',
): Promise<readonly ListLineView[]> {
  const { prepared, buyerContext, pricingContext } = visitor
  const { store, index } = prepared
  const { database } = await getSteppe()
  const { timeZone } = getSettings(store)
  const paid = await lastPaid(
    database,
    account,
    lines.map(({ variant }) => variant),
  )
  // What is gone, or hidden by now, is as if it were not there.
  const there = lines.flatMap((line) => {
    const variant = store.variant.get(line.variant)
    const product = store.product.get(variant?.product ?? '')
    const number = index.numberOf.get(line.variant)
    if (!variant || !product || number === undefined) return []
    if (!findRights(prepared, pricingContext, number).see) return []
    const extras = line.extras.filter((id) => store.extra.has(id))
    return [{ line: { ...line, extras }, variant, product }]
  })
  const priced = priceCart(prepared, {
    ...buyerContext,
    lines: there.map(({ line }) => line),
    ...{ past: [], promotions: null },
  })
  return there.map(({ line, variant, product }, at): ListLineView => {
    const made = priced.ok ? priced.value.lines[at] : undefined
    const unit = made?.access.seePrice ? (made.unitAmount?.[shows] ?? null) : null
    const before = paid.get(line.variant)
    const last = before && before.currency === pricingContext.currency ? before[shows] : null
    return {
      ...{ sku: variant.sku, name: itemName(product, variant), quantity: line.quantity },
      extras: line.extras.map((id) => store.extra.get(id)?.code ?? id),
      extraNames: line.extras.map((id) => store.extra.get(id)?.name ?? id),
      ...{ picture: product.picture, product: productShown(visitor, line.variant) },
      ...{ unit, total: unit === null ? null : (made?.amount?.[shows] ?? null) },
      paid: last === null ? '' : formatAmount(last, pricingContext.digits),
      paidWhen: before ? formatDay(before.at, timeZone) : '',
      paidLess: last !== null && unit !== null && compare(last, unit) < 0,
      problem: made && !made.access.buy ? (notForSale({ ...made.access }) ?? '') : '',
    }
  })
}
