import 'server-only'

import { findMinorDigits } from '@/core/currency/iso-4217'
import { compare, decimal, type Decimal, HUNDRED, isPositive, multiply, sum } from '@/core/decimal/decimal'
import { divide } from '@/core/decimal/fraction'
import { roundToDigits } from '@/core/decimal/rounding'
import { groupBy } from '@/core/maps/group-by'
import { startOfDay } from '@/core/predicates/instant'
import { localDay } from '@/core/predicates/schedule-outlook'
import { marginPercent } from '@/core/price/margin'
import { currenciesTaken, getSettings, type Store } from '@/core/store/store'
import type { RequestContext } from '@/server/engine/request-context'
import { countOtherCurrencies } from '@/server/orders/order-rows'
import { quoteOutcomes } from '@/server/quotes/quote-outcomes'
import { LOST_WORDS, QUOTE_STATE_WORDS } from '@/ui/format/quote-phrases'
import { gatherSales, type GatheredSales, type KeysOf, MOST_ORDERS } from './gather-sales'
import type { RealisationStep, ReportShown, ReportView, SalesRow } from './report-view'
import { parseReport } from './report-url'

const DAY = 86_400_000
const MOST_ROWS = 200

/** A report over the orders and quotes of some days. */
export async function loadReport(
  { steppe, prepared, now }: Pick<RequestContext, 'steppe' | 'prepared' | 'now'>,
  fields: Readonly<Record<string, string | undefined>>,
): Promise<ReportView> {
  const { store } = prepared
  const { timeZone, currency } = getSettings(store)
  const currencies = currenciesTaken(store)
  const shown = parseReport(fields, { today: localDay(now, timeZone), currency, currencies })
  const midnight = (day: string, plus = 0) =>
    startOfDay(new Date(Date.parse(`${day}T12:00:00Z`) + plus), timeZone)
  const when = { since: midnight(shown.since), until: midnight(shown.until, DAY), currency: shown.currency }
  const { database } = steppe
  const nothing = { orders: 0, realisation: [], sales: [], quotes: [], reasons: [], buyers: [] }
  const base = { shown, currencies, digits: findMinorDigits(shown.currency) ?? 2, leftOut: [] }
  if (shown.report === 'quotes')
    return { ...base, ...nothing, ...(await loadQuotes({ steppe, prepared, now }, shown, when)) }
  const gathered = await gatherSales(database, when, keysBy(store, shown.by))
  const others = await countOtherCurrencies(database, when)
  return {
    ...base,
    ...nothing,
    orders: gathered.orders,
    leftOut: leftOutOf(gathered, others, shown.currency),
    realisation: realisationSteps(gathered, shown),
    sales: shown.report === 'sales' ? salesRows(store, gathered, shown, prepared.hidesCosts === true) : [],
  }
}

function leftOutOf(
  { isCut, withoutBase }: GatheredSales,
  others: number,
  currency: string,
): readonly string[] {
  return [
    ...(isCut ? [`Only the first ${MOST_ORDERS} orders are counted: choose fewer days.`] : []),
    ...(others > 0
      ? [
          `${others} ${others === 1 ? 'order' : 'orders'} in other currencies than ${currency} ${others === 1 ? 'is' : 'are'} left out.`,
        ]
      : []),
    ...(withoutBase.lines > 0
      ? [
          `${withoutBase.lines} ${withoutBase.lines === 1 ? 'line has' : 'lines have'} no base price and ${withoutBase.lines === 1 ? 'is' : 'are'} not in the way from base to paid.`,
        ]
      : []),
  ]
}

/** Under what each line counts: promotions under each that took something off it. */
function keysBy(store: Store, by: ReportShown['by']): KeysOf {
  switch (by) {
    case 'buyer':
      return ({ account, document }) => [account ?? `guest ${document.buyer}`]
    case 'group':
      return ({ account }) => {
        const groups = account === null ? [] : (store.account.get(account)?.groups ?? [])
        return groups.length === 0 ? [''] : groups
      }
    case 'list':
      return (_, { line, agreed }) => [agreed.by === 'settled' ? 'settled' : (line.list ?? '')]
    case 'promotion':
      return (_, { line }) => (line.promotions.length === 0 ? [''] : line.promotions)
  }
}

function realisationSteps(gathered: GatheredSales, shown: ReportShown): readonly RealisationStep[] {
  const { base, agreed, promoted, credited, kept } = gathered
  const href = ordersHref(shown)
  const step = (
    key: string,
    name: string,
    kind: RealisationStep['kind'],
    amount: Decimal,
  ): RealisationStep => ({
    ...{ key, name, kind, amount, href },
    percent: isPositive(base) ? roundToDigits(divide(multiply(amount, HUNDRED), base), 1, 'half-up') : null,
  })
  return [
    step('base', 'At base prices', 'sum', base),
    step('list', 'Price lists and levels', 'change', agreed.list),
    step('contract', 'Contracts', 'change', agreed.contract),
    step('settled', 'Quotes and prices by hand', 'change', agreed.settled),
    step('promoted', 'Promotions', 'change', promoted),
    step('credited', 'Cancelled and returned', 'change', credited),
    step('kept', 'Paid', 'sum', kept),
  ]
}

function salesRows(
  store: Store,
  { sums }: GatheredSales,
  shown: ReportShown,
  hidesCosts: boolean,
): readonly SalesRow[] {
  const rows = [...sums].map(([key, { orders, net, cost, isCostKnown }]) => ({
    ...{ key, orders: orders.size, net, ...nameOf(store, key, shown) },
    cost: isCostKnown && !hidesCosts ? cost : null,
    margin: isCostKnown && !hidesCosts ? marginPercent(net, cost) : null,
  }))
  rows.sort((one, other) => compare(other.net, one.net) || (one.name < other.name ? -1 : 1))
  const largest = Number(rows[0]?.net ?? '0')
  return rows
    .slice(0, MOST_ROWS)
    .map((row) => ({ ...row, share: largest > 0 ? Math.max(0, Number(row.net) / largest) : 0 }))
}

function nameOf(
  store: Store,
  key: string,
  shown: ReportShown,
): { readonly name: string; readonly href: string } {
  const { by } = shown
  if (by === 'buyer') {
    const account = store.account.get(key)
    const name = account?.name ?? key.replace(/^guest /, '')
    return { name, href: ordersHref(shown, { buyer: name }) }
  }
  const named = (name: string, code: string) => ({ name, href: ordersHref(shown, { of: `${by} ${code}` }) })
  if (by === 'group') {
    const group = store.group.get(key)
    return group
      ? named(group.name, group.code)
      : { name: 'In no group, and guests', href: ordersHref(shown) }
  }
  if (by === 'list') {
    if (key === 'settled') return { name: 'Quotes and prices by hand', href: ordersHref(shown) }
    const list = store['price-list'].get(key)
    return list
      ? named(list.name, list.code)
      : { name: key === '' ? 'Base price' : 'A list that is gone', href: ordersHref(shown) }
  }
  const promotion = [...store.promotion.values()].find(({ name }) => name === key)
  if (promotion) return named(promotion.name, promotion.code)
  return { name: key === '' ? 'Without a promotion' : key, href: ordersHref(shown) }
}

/** The orders a figure is made of, as the list of orders shows them. */
function ordersHref(
  { since, until }: ReportShown,
  more: { readonly buyer?: string; readonly of?: string } = {},
): string {
  return `/orders?${new URLSearchParams({ show: 'all', since, until, ...more })}`
}

async function loadQuotes(
  { steppe, prepared }: Pick<RequestContext, 'steppe' | 'prepared' | 'now'>,
  { currency }: ReportShown,
  when: { readonly since: Date; readonly until: Date },
): Promise<Pick<ReportView, 'orders' | 'quotes' | 'reasons' | 'buyers'>> {
  const outcomes = (await quoteOutcomes(steppe.database, when)).filter((each) => each.currency === currency)
  const row = (key: string, name: string, some: typeof outcomes, href: string) => ({
    ...{ key, name, href, count: some.length },
    value: sum(some.map(({ value }) => (value === null ? decimal(0) : value))),
  })
  const states = [
    'accepted',
    'declined',
    'refused',
    'expired',
    'asked',
    'approval',
    'offered',
    'answered',
  ] as const
  const byBuyer = groupBy(outcomes, ({ account, buyer }) => account ?? buyer)
  return {
    orders: outcomes.length,
    quotes: states.flatMap((state) => {
      const some = outcomes.filter((each) => each.state === state)
      return some.length === 0 ? [] : [row(state, QUOTE_STATE_WORDS[state], some, `/quotes?show=${state}`)]
    }),
    reasons: Object.entries(LOST_WORDS).flatMap(([reason, name]) => {
      const some = outcomes.filter((each) => each.reason === reason)
      return some.length === 0 ? [] : [row(reason, name, some, '/quotes?show=declined')]
    }),
    buyers: [...byBuyer].map(([key, some]) => {
      const name = prepared.store.account.get(key)?.name ?? some[0]?.buyer ?? key
      const won = some.filter(({ state }) => state === 'accepted').length
      const lost = some.filter(({ state }) => ['declined', 'refused', 'expired'].includes(state)).length
      return {
        ...{ name, won, lost, asked: some.length },
        href: `/quotes?${new URLSearchParams({ show: 'all', buyer: name })}`,
        rate:
          won + lost === 0
            ? null
            : roundToDigits(divide(decimal(100 * won), decimal(won + lost)), 1, 'half-up'),
      }
    }),
  }
}
