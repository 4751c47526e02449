import 'server-only'

import { decimal } from '@/core/decimal/decimal'
import type { OrderEvent } from '@/core/order/order-event'
import { standingOf } from '@/core/order/standing'
import { getSettings } from '@/core/store/store'
import { getSteppe } from '@/server/engine/steppe'
import { findOrder, listOrders } from '@/server/orders/order-rows'
import { ownerOf, type ShopVisitor } from '@/server/session/shop-session'
import { formatMoney } from '@/ui/format/amount'
import { formatDay } from '@/ui/format/instant'
import { ORDER_STATE_WORDS, papersOf } from '@/ui/format/order-phrases'
import { visible } from '../frame/visible'
import type { ShopOrder, ShopOrderHead } from './shop-order-view'

const ON_A_PAGE = 20

export interface ShopOrders {
  readonly orders: readonly ShopOrderHead[]
  /** Number before which the next page begins; `null` where there are no more. */
  readonly older: number | null
}

/** What a visitor has ordered, the latest first. */
export async function loadOrders(visitor: ShopVisitor, before: number | null): Promise<ShopOrders> {
  const { database } = await getSteppe()
  const { timeZone } = getSettings(visitor.prepared.store)
  const found = await listOrders(database, { owner: ownerOf(visitor) }, before, ON_A_PAGE + 1)
  const shown = found.slice(0, ON_A_PAGE)
  return {
    orders: shown.map(({ number, at, state, lines, due, currency, digits }) => ({
      number,
      when: formatDay(at, timeZone),
      state: ORDER_STATE_WORDS[state],
      lines,
      due: formatMoney(decimal(due), currency, digits),
    })),
    older: found.length > ON_A_PAGE ? (shown.at(-1)?.number ?? null) : null,
  }
}

/** One of a visitor's orders. Errors  `null` where there is none of the number, or it is somebody else's: which of both is not told. */
export async function loadOrder(visitor: ShopVisitor, number: number): Promise<ShopOrder | null> {
  const { database } = await getSteppe()
  const order = await findOrder(database, number, ownerOf(visitor))
  if (!order) return null
  const { document, events, at } = order
  const { store } = visitor.prepared
  const { timeZone } = getSettings(store)
  const standing = standingOf(document, events)
  const { currency, digits, display, address, payment, reference, placedBy } = document
  const { goods, delivery, paymentCharge, taxes, total } = document
  return {
    ...{ number, currency, digits, display, address, payment, reference, placedBy },
    ...{ goods, delivery, paymentCharge, taxes, total },
    when: formatDay(at, timeZone),
    state: ORDER_STATE_WORDS[standing.state],
    lines: document.lines.map((line, place) => {
      const { sku, name, quantity, unit, perUnit, net, gross, before, promotions, isGift } = line
      const became = standing.lines[place]
      return {
        ...{ sku, name, quantity, unit, perUnit, net, gross, before, promotions, isGift },
        product: productShown(visitor, line.variant),
        extras: line.extras.map((extra) => extra.name),
        sent: became?.sent ?? decimal(0),
        returned: became?.returned ?? decimal(0),
        cancelled: became?.cancelled ?? decimal(0),
      }
    }),
    events: events.flatMap((event) => {
      const what = eventWords(event)
      return what === null ? [] : [{ when: formatDay(new Date(event.at), timeZone), what }]
    }),
    papers: papersOf(events),
    credited: standing.credited.gross,
    due: standing.due.gross,
    isPaid: standing.state === 'closed',
  }
}

/** Code of the product of a variant, by its id, where it is still shown to a visitor; else `null`. */
export function productShown(visitor: ShopVisitor, variantId: string): string | null {
  const { store } = visitor.prepared
  const variant = store.variant.get(variantId)
  const product = store.product.get(variant?.product ?? '')
  if (!variant || !product) return null
  return visible(visitor, [{ product, variants: [variant] }]).length > 0 ? product.code : null
}

/** What a step says to the buyer; `null` for what is the merchant's own. */
function eventWords({ step, document }: OrderEvent): string | null {
  switch (step.kind) {
    case 'confirm':
      return 'Confirmed'
    case 'send':
      return `Sent, delivery note ${document}${step.tracking === '' ? '' : `, tracking ${step.tracking}`}`
    case 'invoice':
      return `Invoiced, invoice ${document}`
    case 'close':
      return 'Paid in full'
    case 'cancel':
      return `Cancelled: ${step.reason}`
    case 'return':
      return document === null
        ? `Taken back: ${step.reason}`
        : `Taken back, credit note ${document}: ${step.reason}`
    case 'note':
      return null
  }
}
