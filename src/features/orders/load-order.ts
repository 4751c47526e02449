import 'server-only'

import type { CartLineWanted } from '@/core/cart/cart'
import { priceCart } from '@/core/cart/price-cart'
import { type Decimal, multiply, sum } from '@/core/decimal/decimal'
import { buyerContext } from '@/core/engine/context/buyer-context'
import type { OrderDocument, OrderLine } from '@/core/order/order'
import { marginPercent } from '@/core/price/margin'
import { getSettings } from '@/core/store/store'
import type { RequestContext } from '@/server/engine/request-context'
import { readStock } from '@/server/stock/stock-levels'
import { findOrder, type Order } from '@/server/orders/order-rows'
import { formatMoment } from '@/ui/format/instant'
import { recordHref } from '@/ui/frame/record-href'
import { stepViews } from '@/ui/trace/trace-steps'
import { stepsWithoutCosts } from '@/core/engine/explain/steps-without-costs'
import type { OrderView } from './order-view'

/** An order with every figure explained as of then, and what its lines would cost the same buyer now. `null` for none of the number. */
export async function loadOrder(
  { steppe, prepared, now }: Pick<RequestContext, 'steppe' | 'prepared' | 'now'>,
  number: number,
): Promise<OrderView | null> {
  const order = await findOrder(steppe.database, number)
  if (!order) return null
  const { document, events, account, at } = order
  const { store } = prepared
  const hidesCosts = prepared.hidesCosts === true
  const { timeZone } = getSettings(store)
  const record = account === null ? undefined : store.account.get(account)
  const today = priceToday(prepared, order, now)
  const stock = await readStock(
    steppe.database,
    document.lines.map(({ variant }) => variant),
  )
  const wording = { store, buyerName: document.buyer, currency: document.currency }
  return {
    number,
    when: formatMoment(at.getTime(), timeZone),
    buyerHref: record ? recordHref('accounts', record.code) : null,
    document: hidesCosts
      ? { ...document, lines: document.lines.map((line) => ({ ...line, cost: null })) }
      : document,
    events: events.map((event) => ({ ...event, when: formatMoment(event.at, timeZone) })),
    lines: document.lines.map((line, place) => {
      const product = store.product.get(store.variant.get(line.variant)?.product ?? '')
      const productHref = product ? recordHref('products', product.code) : null
      return {
        line: hidesCosts ? { ...line, cost: null } : line,
        productHref,
        margin: hidesCosts ? null : marginOf([line]),
        today: today.units[place] ?? null,
        onHand: stock.get(line.variant)?.onHand ?? null,
        steps: stepViews(wording, hidesCosts ? stepsWithoutCosts(line.trace) : line.trace, {
          productHref: productHref ?? '/products',
          mixesBases: prepared.mixesBases,
        }),
      }
    }),
    margin: hidesCosts ? null : marginOf(document.lines),
    notToday: today.because,
  }
}

function marginOf(lines: readonly OrderLine[]): Decimal | null {
  const costs = lines.map(({ cost, quantity }) => cost && multiply(cost, quantity))
  if (costs.some((cost) => cost === null)) return null
  return marginPercent(sum(lines.map(({ net }) => net)), sum(costs as Decimal[]))
}

interface Today {
  /** By the position of the line. */
  readonly units: readonly (Decimal | null)[]
  readonly because: string
}

/** The same lines for the same buyer now, before promotions. */
function priceToday(prepared: RequestContext['prepared'], { account, document }: Order, now: number): Today {
  const { store, index } = prepared
  const nothing = (because: string): Today => ({ units: [], because })
  if (account !== null && !store.account.has(account)) return nothing('The buyer’s account is gone.')
  const shows = document.display === 'gross' ? 'gross' : 'net'
  const { country, state, postcode, city } = document.address
  const wanted = document.lines.map((line): CartLineWanted | null =>
    index.numberOf.has(line.variant) && !line.isGift ? toWanted(line, store) : null,
  )
  const priced = priceCart(prepared, {
    ...buyerContext(account === null ? { kind: 'guest' } : { kind: 'account', account }, now),
    deliverTo: { country, state, postcode, city },
    currency: document.currency,
    lines: wanted.filter((line) => line !== null),
    past: [],
    promotions: null,
  })
  if (!priced.ok) return nothing(`${document.currency} is not taken any more.`)
  let next = 0
  const units = wanted.map((line) =>
    line === null ? null : (priced.value.lines[next++]?.unitAmount?.[shows] ?? null),
  )
  return { units, because: '' }
}

function toWanted(
  { variant, quantity, extras }: OrderDocument['lines'][number],
  store: RequestContext['prepared']['store'],
): CartLineWanted {
  return { variant, quantity, extras: extras.flatMap(({ id }) => (store.extra.has(id) ? [id] : [])) }
}
