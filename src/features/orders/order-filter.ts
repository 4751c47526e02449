import { ORDER_STATES, type OrderState } from '@/core/order/order-event'

/** What the list of orders is narrowed to: what is still to be done, everything, or one state. */
export type OrdersShown = 'open' | 'all' | OrderState

export interface OrderListShown {
  readonly show: OrdersShown
  /** The beginning of a buyer's name, or a number. */
  readonly buyer: string
  /** Days as YYYY-MM-DD; empty for any. */
  readonly since: string
  readonly until: string
  /** What a report counted: `group bee-farms`, `list trade`, `promotion spring`; empty for everything. */
  readonly of: string
  /** Orders before this number; `null` from the latest on. */
  readonly before: number | null
}

export const OPEN_STATES: readonly OrderState[] = ['placed', 'confirmed', 'sent-in-part']

const DAY = /^\d{4}-\d{2}-\d{2}$/

/** What an address says; what it says wrongly is as usual. */
export function parseOrderFilter(fields: Readonly<Record<string, string | undefined>>): OrderListShown {
  const show = fields['show'] ?? ''
  const before = Number(fields['before'])
  const day = (name: string) => (DAY.test(fields[name] ?? '') ? (fields[name] as string) : '')
  return {
    show:
      show === 'all' || (ORDER_STATES as readonly string[]).includes(show) ? (show as OrdersShown) : 'open',
    buyer: (fields['buyer'] ?? '').slice(0, 100),
    since: day('since'),
    until: day('until'),
    of: /^(group|list|promotion) .{1,100}$/.test(fields['of'] ?? '') ? (fields['of'] as string) : '',
    before: Number.isSafeInteger(before) && before > 0 ? before : null,
  }
}

/** The address of a list; what is usual is left out. */
export function orderListHref({ show, buyer, since, until, of, before }: OrderListShown): string {
  const fields = new URLSearchParams()
  if (show !== 'open') fields.set('show', show)
  if (buyer !== '') fields.set('buyer', buyer)
  if (since !== '') fields.set('since', since)
  if (until !== '') fields.set('until', until)
  if (of !== '') fields.set('of', of)
  if (before !== null) fields.set('before', String(before))
  return fields.size === 0 ? '/orders' : `/orders?${fields}`
}
