import 'server-only'

import { findBySku } from '@/core/catalogue/find-by-code'
import { type Decimal, multiply, subtract, sum } from '@/core/decimal/decimal'
import type { PreparedStore } from '@/core/engine/context/prepared-store'
import { differencePercent } from '@/core/decimal/difference-percent'
import { marginPercent } from '@/core/price/margin'
import { linesBelow } from '@/core/quote/quote-standing'
import { getSettings } from '@/core/store/store'
import { findAvailable, type StockLevels } from '@/core/catalogue/stock'
import { itemName } from '@/core/catalogue/product'
import { type PricedWorking, priceWorking } from '@/server/quotes/price-working'
import type { Quote } from '@/server/quotes/quote-rows'
import type { WorkingLine, WorkingOffer } from '@/server/quotes/quote-shape'
import { formatMoney } from '@/ui/format/amount'
import { recordHref } from '@/ui/frame/record-href'
import type { LineFigures, OfferFigures } from './offer-view'

type Priced = PricedWorking['lines'][number]

const PROBLEMS: Readonly<Record<Extract<Priced, { readonly ok: false }>['error'], string>> = {
  'unknown-sku': 'No item has this SKU.',
  'unknown-extra': 'What goes with it is not sold any more.',
  'no-quantity': 'Enter a quantity above zero.',
  'not-whole': 'This is sold in whole pieces.',
  gone: 'This is not sold any more.',
  'not-understood': 'Type a price such as 21.45, -6%, -1 or m35.',
  comma: 'Type the price with a point, such as 21.45.',
  'too-many-digits': 'That is more decimals than a price may have.',
  'not-positive': 'A price must be above zero.',
  'no-current-price': 'They have no price for this: type one.',
  'no-cost': 'Its cost is not known, so a margin says nothing.',
  'margin-too-high': 'A margin is below 100 %.',
}

/** What an offer comes to as it is written, line by line. Errors  `null` where its buyer or currency is gone. */
export function figuresOf(
  prepared: PreparedStore,
  quote: Pick<Quote, 'account' | 'request' | 'number'>,
  working: WorkingOffer,
  { at, changeSet, stock }: { readonly at: number; readonly changeSet: number; readonly stock: StockLevels },
): OfferFigures | null {
  const priced = priceWorking(prepared, quote, working, { at, changeSet })
  if (!priced) return null
  const { basis, currency, digits } = quote.request
  const least = getSettings(prepared.store).quoteMargin
  const { document, atTheirs } = priced
  const costs = document?.lines.map(({ cost, quantity }) => cost && multiply(cost, quantity)) ?? [null]
  const cost = costs.some((each) => each === null) ? null : sum(costs as Decimal[])
  return {
    lines: working.lines.map((line, place) =>
      toFigures(prepared, line, priced.lines[place] as Priced, { basis, least, stock }),
    ),
    atTheirs,
    goods: document?.goods[basis] ?? null,
    delivery: document?.delivery[basis] ?? null,
    taxes:
      document?.taxes.map(({ name, percent, on, amount }) => ({
        label: `${name} ${percent} % on ${formatMoney(on, currency, digits)}`,
        amount,
      })) ?? [],
    total: document?.total.gross ?? null,
    earned: document && cost !== null ? subtract(document.goods.net, cost) : null,
    margin: document && cost !== null ? marginPercent(document.goods.net, cost) : null,
  }
}

function toFigures(
  { store }: PreparedStore,
  { sku }: WorkingLine,
  priced: Priced,
  {
    basis,
    least,
    stock,
  }: { readonly basis: 'net' | 'gross'; readonly least: Decimal | null; readonly stock: StockLevels },
): LineFigures {
  const variant = findBySku(store.variant, sku.trim())
  const product = store.product.get(variant?.product ?? '')
  const head = {
    name: variant && product ? itemName(product, variant) : sku,
    productHref: product ? recordHref('products', product.code) : null,
    stock: variant ? findAvailable(stock, variant.id) : null,
  }
  if (!priced.ok)
    return {
      ...head,
      their: 'their' in priced ? priced.their : null,
      cost: 'cost' in priced ? priced.cost : null,
      ...{ price: null, toTheirs: null, margin: null, total: null, isBelow: false },
      problem: PROBLEMS[priced.error],
    }
  const { line } = priced
  const { their, price, cost, net, quantity } = line
  return {
    ...{ ...head, their, price, cost, total: line[basis], problem: '' },
    toTheirs: their === null ? null : differencePercent(price, their),
    margin: cost === null ? null : marginPercent(net, multiply(cost, quantity)),
    isBelow: least !== null && linesBelow([line], least).length > 0,
  }
}
