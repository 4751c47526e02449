import 'server-only'

import { decimal } from '@/core/decimal/decimal'
import { paymentTermsOf } from '@/core/cart/payment-terms'
import { getSettings, priceDigitsOf } from '@/core/store/store'
import { getSteppe } from '@/server/engine/steppe'
import { addressesOf } from '@/server/orders/addresses-of'
import { listOrders } from '@/server/orders/order-rows'
import { listQuotes } from '@/server/quotes/quote-rows'
import { ownerOf, type ShopVisitor } from '@/server/session/shop-session'
import { listRequests } from '@/server/shop/order-requests'
import { listsOf } from '@/server/shop/reorder-lists'
import { formatMoney } from '@/ui/format/amount'
import { formatDay } from '@/ui/format/instant'
import { ORDER_STATE_WORDS } from '@/ui/format/order-phrases'
import { countryName } from '@/ui/format/place-names'
import { BUYER_STATE_WORDS, quoteName } from '@/ui/format/quote-phrases'

const MOST_SHOWN = 4

interface Row {
  readonly href: string
  readonly name: string
  readonly about: string
  readonly amount: string
}

export interface ShopAccountView {
  readonly name: string
  readonly you: string
  readonly terms: string
  readonly people: readonly {
    readonly name: string
    readonly email: string
    readonly about: string
    readonly isYou: boolean
  }[]
  readonly addresses: readonly string[]
  readonly waiting: readonly Row[]
  readonly orders: readonly Row[]
  readonly quotes: readonly Row[]
  readonly lists: readonly Row[]
}

const REQUEST_WORDS = { waiting: 'waits', ordered: 'ordered', 'turned-down': 'turned down' } as const

/** Everything of an account at a glance. Errors  `null` for whoever has none. */
export async function loadShopAccount(visitor: ShopVisitor): Promise<ShopAccountView | null> {
  const { prepared, person, pricingContext } = visitor
  const { store } = prepared
  const owner = ownerOf(visitor)
  const account = owner.account === null ? undefined : store.account.get(owner.account)
  if (!account) return null
  const steppe = await getSteppe()
  const { timeZone, currency } = getSettings(store)
  const day = (at: Date) => formatDay(at, timeZone)
  const requests = await listRequests(steppe, account.id)
  const orders = await listOrders(steppe.database, { owner }, null, MOST_SHOWN)
  const quotes = await listQuotes(steppe.database, { owner }, null, MOST_SHOWN)
  const lists = await listsOf(steppe.database, { account: account.id, person: person?.email ?? null })
  return {
    name: account.name,
    you: person?.name ?? '',
    terms: paymentTermsOf(pricingContext),
    people: account.emails.map((email) => {
      const known = account.people.find((each) => each.email === email)
      return {
        ...{ email, name: known?.name ?? '', isYou: email === person?.email },
        about: known?.approves
          ? 'lets orders of others through'
          : known && known.limit !== null
            ? `orders up to ${formatMoney(known.limit, currency, priceDigitsOf(store, currency))} alone`
            : 'orders freely',
      }
    }),
    addresses: addressesOf(account).map(({ street, postcode, city, country }) =>
      [street, `${postcode} ${city}`.trim(), countryName(country)].filter(Boolean).join(', '),
    ),
    waiting: requests.map(({ id, name, at, state, wanted }) => ({
      href: `/shop/account/requests/${id}`,
      ...{ name, about: `${day(at)}, ${REQUEST_WORDS[state]}` },
      amount: formatMoney(wanted.total, wanted.currency, 2),
    })),
    orders: orders.map(({ number, at, state, due, currency: paid, digits }) => ({
      ...{ href: `/shop/orders/${number}`, name: String(number) },
      ...{
        about: `${day(at)}, ${ORDER_STATE_WORDS[state].toLowerCase()}`,
        amount: formatMoney(decimal(due), paid, digits),
      },
    })),
    quotes: quotes.map(({ number, at, state, total, currency: paid, digits }) => ({
      ...{ href: `/shop/quotes/${number}`, name: quoteName(number) },
      about: `${day(at)}, ${BUYER_STATE_WORDS[state].toLowerCase()}`,
      amount: total === null ? '' : formatMoney(decimal(total), paid, digits),
    })),
    lists: lists.slice(0, MOST_SHOWN).map(({ id, name, lines, person: own }) => ({
      ...{ href: `/shop/lists/${id}`, name, amount: '' },
      about: `${lines.length} ${lines.length === 1 ? 'item' : 'items'}, ${own === null ? 'shared' : 'yours alone'}`,
    })),
  }
}
