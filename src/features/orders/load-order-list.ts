import 'server-only'

import { decimal } from '@/core/decimal/decimal'
import { ORDER_STATES } from '@/core/order/order-event'
import { startOfDay } from '@/core/predicates/instant'
import { findByCode } from '@/core/catalogue/find-by-code'
import { getSettings, type Store } from '@/core/store/store'
import { wantedBuyers } from '@/server/engine/find-accounts'
import type { RequestContext } from '@/server/engine/request-context'
import { countOrders, findOrder, listOrders, type OrderFilter } from '@/server/orders/order-rows'
import { formatMoney } from '@/ui/format/amount'
import { formatDay, formatTime } from '@/ui/format/instant'
import { ORDER_STATE_WORDS } from '@/ui/format/order-phrases'
import { recordHref } from '@/ui/frame/record-href'
import { OPEN_STATES, type OrderListShown } from './order-filter'

const ON_A_PAGE = 50
const DAY = 86_400_000

export interface OrderRow {
  readonly number: number
  readonly when: string
  readonly buyer: string
  /** Sheet of the account; `null` for a guest, or one that is gone. */
  readonly buyerHref: string | null
  readonly state: string
  readonly isOpen: boolean
  readonly lines: number
  readonly due: string
}

export interface OrderListView {
  readonly shown: OrderListShown
  readonly rows: readonly OrderRow[]
  /** How many are still to be confirmed or sent. */
  readonly open: number
  /** The number before which the next page begins; `null` where there are no more. */
  readonly older: number | null
  /** The number that was typed, where there is an order of it. */
  readonly exact: number | null
  /** What a report counted, in words; empty where it is not asked for. */
  readonly ofWords: string
}

/** A page of orders, newest first. */
export async function loadOrderList(
  { steppe, prepared }: Pick<RequestContext, 'steppe' | 'prepared'>,
  shown: OrderListShown,
): Promise<OrderListView> {
  const { store } = prepared
  const { timeZone } = getSettings(store)
  const { database } = steppe
  const words = shown.buyer.trim().toLowerCase()
  const midnight = (day: string, plus = 0) =>
    startOfDay(new Date(Date.parse(`${day}T12:00:00Z`) + plus), timeZone)
  const of = readOf(store, shown.of)
  const filter: OrderFilter = {
    ...(shown.show !== 'all' && { states: shown.show === 'open' ? OPEN_STATES : [shown.show] }),
    ...wantedBuyers(store, words),
    ...(shown.since !== '' && { since: midnight(shown.since) }),
    ...(of && { of: of.filter }),
    ...(shown.until !== '' && { until: midnight(shown.until, DAY) }),
  }
  const found = await listOrders(database, filter, shown.before, ON_A_PAGE + 1)
  const counts = await countOrders(database, OPEN_STATES)
  const typed = /^\d{1,9}$/.test(words) ? await findOrder(database, Number(words)) : null
  const page = found.slice(0, ON_A_PAGE)
  return {
    shown,
    open: [...counts.values()].reduce((sum, count) => sum + count, 0),
    older: found.length > ON_A_PAGE ? (page.at(-1)?.number ?? null) : null,
    exact: typed?.number ?? null,
    ofWords: of?.words ?? '',
    rows: page.map(({ number, at, account, buyer, state, lines, due, currency, digits }) => {
      const record = account === null ? undefined : store.account.get(account)
      return {
        ...{ number, lines, buyer },
        when: `${formatDay(at, timeZone)}, ${formatTime(at, timeZone)}`,
        buyerHref: record ? recordHref('accounts', record.code) : null,
        state: ORDER_STATE_WORDS[state],
        isOpen: OPEN_STATES.includes(state),
        due: formatMoney(decimal(due), currency, digits),
      }
    }),
  }
}

/** What a report counted; `null` where nothing of the kind is meant, or it is gone. */
function readOf(
  store: Store,
  of: string,
): { readonly filter: NonNullable<OrderFilter['of']>; readonly words: string } | null {
  const space = of.indexOf(' ')
  const [kind, code] = [of.slice(0, space), of.slice(space + 1)]
  if (kind === 'group') {
    const group = findByCode(store.group, code)
    if (!group) return null
    const accounts = [...store.account.values()].filter(({ groups }) => groups.includes(group.id))
    return { filter: { accounts: accounts.map(({ id }) => id) }, words: `buyers of ${group.name}` }
  }
  const list = kind === 'list' ? findByCode(store['price-list'], code) : null
  if (list) return { filter: { list: list.id }, words: `with prices of ${list.name}` }
  const promotion = kind === 'promotion' ? findByCode(store.promotion, code) : null
  return promotion ? { filter: { promotion: promotion.id }, words: `with ${promotion.name}` } : null
}

/** States to choose from, as options of a list. */
export const STATE_CHOICES = ORDER_STATES.map((state) => [state, ORDER_STATE_WORDS[state]] as const)
