import 'server-only'

import type { Account, Address, Person } from '@/core/buyers/buyer'
import { decimal } from '@/core/decimal/decimal'
import { buyerContext } from '@/core/engine/context/buyer-context'
import { accountFacts } from '@/core/buyers/buyer'
import { matchWho } from '@/core/predicates/who'
import { isPartyTo } from '@/core/price/contract'
import { getSettings, priceDigitsOf, type Store } from '@/core/store/store'
import { pricingContextOf } from '@/server/engine/request-context'
import type { Steppe } from '@/server/engine/steppe'
import { listQuotes } from '@/server/quotes/quote-rows'
import { listOrders } from '@/server/orders/order-rows'
import { ladderOf, type LadderView } from '@/sheet/effect/ladder'
import type { LoadedSheet } from '@/sheet/record/load-sheet'
import { formatMoney } from '@/ui/format/amount'
import { formatDay } from '@/ui/format/instant'
import { ORDER_STATE_WORDS } from '@/ui/format/order-phrases'
import { QUOTE_STATE_WORDS, quoteName } from '@/ui/format/quote-phrases'
import { spanPhrase } from '@/ui/format/rule-phrases'
import { limitPhrase } from '@/ui/format/terms-phrases'
import { recordHref } from '@/ui/frame/record-href'
import { type OpenPromotion, openPromotions } from './open-promotions'

export interface AccountView {
  readonly id: string
  readonly code: string
  readonly name: string
  readonly ladder: LadderView
  readonly currency: string
  readonly currencyFrom: string
  readonly contracts: readonly { readonly name: string; readonly href: string; readonly about: string }[]
  readonly addresses: readonly Address[]
  /** With the limit as it is shown; empty without one. */
  readonly people: readonly (Person & { readonly limitWords: string })[]
  readonly storeCurrency: string
  /** What they are kept from, by reason: how many, and some of it. */
  readonly hidden: readonly { readonly because: string; readonly count: number; readonly some: string }[]
  readonly withoutPrice: readonly { readonly name: string; readonly href: string }[]
  readonly promotions: readonly OpenPromotion[]
  readonly limits: readonly { readonly name: string; readonly href: string; readonly about: string }[]
  /** Their latest quotes, the newest first. */
  readonly quotes: readonly {
    readonly name: string
    readonly href: string
    readonly about: string
    readonly due: string
  }[]
  /** Their latest orders, the newest first. */
  readonly orders: readonly {
    readonly name: string
    readonly href: string
    readonly about: string
    readonly due: string
  }[]
}

const SHOWN_ORDERS = 6

const FROM_WORDS: Readonly<Record<string, string>> = {
  asked: 'asked for',
  contract: 'by contract',
  account: 'set on the account',
  region: 'by region',
  store: 'the store’s own',
}

/** What an account pays by which list, what it cannot see, and the terms it buys on. */
export async function loadAccount({ id, record, before, after }: LoadedSheet): Promise<AccountView | null> {
  const requestContext = after ?? before
  const { prepared } = requestContext
  const { store } = prepared
  const account = store.account.get(id)
  if (!account) return null
  const look = {
    ...buyerContext({ kind: 'account', account: id }, requestContext.buyerContext.at),
    channel: requestContext.buyerContext.channel,
  }
  const pricingContext = pricingContextOf(prepared, look)
  const ladder = await ladderOf(prepared, pricingContext, requestContext.quantity)
  const reasons = new Map<string, string[]>()
  for (const { item, because } of ladder.hidden) {
    const own = reasons.get(because)
    if (own) own.push(item.product.name)
    else reasons.set(because, [item.product.name])
  }
  const storeCurrency = getSettings(store).currency
  const facts = accountFacts(store.group, account)
  const contracts = [...store.contract.values()].filter((contract) => isPartyTo(contract, facts))
  return {
    id,
    code: account.code,
    name: account.name,
    ladder,
    currency: pricingContext.currency,
    currencyFrom: FROM_WORDS[pricingContext.currencyFrom] ?? '',
    contracts: contracts.map(({ name, code, state, from, to }) => ({
      name,
      href: recordHref('contracts', code),
      about: `${state}, ${spanPhrase(from, to)}`,
    })),
    addresses: (record as unknown as Account).addresses,
    people: (record as unknown as Account).people.map((person) => ({
      ...person,
      limitWords:
        person.limit === null
          ? ''
          : formatMoney(person.limit, storeCurrency, priceDigitsOf(store, storeCurrency)),
    })),
    storeCurrency,
    hidden: [...reasons].map(([because, names]) => ({
      because,
      count: names.length,
      some: [...new Set(names)].slice(0, 3).join(', '),
    })),
    withoutPrice: ladder.withoutPrice.slice(0, 4).map(({ product }) => ({
      name: product.name,
      href: recordHref('products', product.code),
    })),
    ...(await requestContext.steppe.presence.orKnown(
      () => latestOf(requestContext.steppe, store, id),
      () => ({ orders: [], quotes: [] }),
    )),
    promotions: openPromotions(prepared, pricingContext, look.at),
    limits: [
      ...contracts.flatMap(({ name, code, state, minimumOrder, currency }) =>
        state === 'active' && minimumOrder !== null
          ? [
              {
                name,
                href: recordHref('contracts', code),
                about: `orders from ${formatMoney(minimumOrder, currency ?? getSettings(store).currency, priceDigitsOf(store, currency ?? getSettings(store).currency))}`,
              },
            ]
          : [],
      ),
      ...[...store.limit.values()]
        .filter(
          ({ status, state, audience }) =>
            status === 'active' && state === 'on' && matchWho(audience, facts).matches,
        )
        .map((rule) => ({
          name: rule.name,
          href: recordHref('limits', rule.code),
          about: limitPhrase(rule),
        })),
    ],
  }
}

/** The latest orders and quotes of an account. */
async function latestOf(
  { database }: Steppe,
  store: Store,
  id: string,
): Promise<Pick<AccountView, 'orders' | 'quotes'>> {
  const { timeZone } = getSettings(store)
  const owner = { owner: { account: id, visitor: null } }
  const orders = await listOrders(database, owner, null, SHOWN_ORDERS)
  const quotes = await listQuotes(database, owner, null, SHOWN_ORDERS)
  return {
    orders: orders.map(({ number, at, state, due, currency, digits }) => ({
      name: String(number),
      href: `/orders/${number}`,
      about: `${formatDay(at, timeZone)}, ${ORDER_STATE_WORDS[state].toLowerCase()}`,
      due: formatMoney(decimal(due), currency, digits),
    })),
    quotes: quotes.map(({ number, at, state, total, currency, digits }) => ({
      name: quoteName(number),
      href: `/quotes/${number}`,
      about: `${formatDay(at, timeZone)}, ${QUOTE_STATE_WORDS[state].toLowerCase()}`,
      due: total === null ? '' : formatMoney(decimal(total), currency, digits),
    })),
  }
}
