import 'server-only'

import type { Cart, CartLine, CartLineWanted, CartQuestion } from '@/core/cart/cart'
import { priceCart } from '@/core/cart/price-cart'
import { findByCode, findBySku, nearestSkus, skusOneSlipAway } from '@/core/catalogue/find-by-code'
import { itemName, type Variant } from '@/core/catalogue/product'
import { compare, type Decimal, parseDecimal } from '@/core/decimal/decimal'
import { answer } from '@/core/engine/ask'
import { fromUnits } from '@/core/engine/lists/price-step'
import { findPrice, ONE_PIECE } from '@/core/engine/price/find-price'
import { findRights } from '@/core/engine/rules/find-rights'
import { displayOf } from '@/core/engine/rules/find-tax'
import { NO_FACTS } from '@/core/promotions/facts'
import type { ShopVisitor } from '@/server/session/shop-session'
import { isQuantity } from '@/ui/frame/vantage-url'
import { formatAmount } from '@/ui/format/amount'
import { problemViews } from '@/ui/cart/cart-problems'
import type { CartProblemView } from '@/ui/cart/cart-says'
import { shownPrice } from '../frame/shop-prices'
import { taxWordsOf } from '../frame/shop-sentences'
import type { Purpose } from './use-resolved'
import { goWith } from '@/core/cart/go-with'
import { isEmpty, type QuickRow } from './quick-rows'
import type { ResolvedOrder, ResolvedRow } from './resolved'

/** So many rows with more than a slip in them are told what may be meant: to look for it goes through every SKU. */
const MOST_SEARCHES = 3
const MOST_NEAR = 3

type Beside = Pick<CartQuestion, 'past' | 'stock'>

/** A row that names something the buyer is shown. */
interface Named {
  readonly row: number
  readonly variant: Variant
  readonly quantity: Decimal
  /** Ids. */
  readonly extras: readonly string[]
}

/** What each typed row comes to: price, limits and stock as in a cart with all of them, before promotions. */
export function resolveRows(
  visitor: ShopVisitor,
  rows: readonly QuickRow[],
  beside: Partial<Beside> = {},
  purpose: Purpose = 'order',
): ResolvedOrder {
  const { prepared, pricingContext, buyerContext } = visitor
  const resolved: ResolvedRow[] = rows.map(() => ({ kind: 'empty' }))
  const found: Named[] = []
  const search = { left: MOST_SEARCHES }
  for (const [row, typed] of rows.entries()) {
    if (isEmpty(typed)) continue
    const variant = findBySku(prepared.store.variant, typed.sku.trim())
    if (!variant) {
      resolved[row] = { kind: 'unknown', near: nearTo(visitor, typed.sku.trim(), search) }
      continue
    }
    const text = typed.quantity.trim()
    const quantity = isQuantity(text) ? parseDecimal(text) : null
    if (quantity === null)
      resolved[row] = isShown(visitor, variant)
        ? {
            ...headOf(visitor, variant),
            kind: 'wrong',
            unit: null,
            problem:
              text === '' ? 'Enter a quantity.' : `“${text.slice(0, 40)}” is not a quantity above zero.`,
            fixes: [],
          }
        : { kind: 'unknown', near: nearTo(visitor, typed.sku.trim(), search) }
    else found.push({ row, variant, quantity, extras: extrasOf(visitor, variant, typed) })
  }
  const price = (of: readonly Named[]): Cart => {
    const lines = of.map(({ variant, quantity, extras }): CartLineWanted => ({
      variant: variant.id,
      quantity,
      extras,
    }))
    const priced = priceCart(prepared, { past: [], ...beside, ...buyerContext, lines, promotions: null })
    if (!priced.ok) throw new RangeError(`lines cannot be priced: ${priced.error.code}`)
    return priced.value
  }
  // What is hidden is as if it were not there: nor is it counted with anything.
  const all = price(found)
  const named = found.filter((_, place) => all.lines[place]?.access.see === true)
  for (const [place, { row }] of found.entries())
    if (!all.lines[place]?.access.see)
      resolved[row] = { kind: 'unknown', near: nearTo(visitor, (rows[row] as QuickRow).sku.trim(), search) }
  const cart = named.length === found.length ? all : price(named)
  const shows = displayOf(prepared, pricingContext, 'cart') === 'gross' ? 'gross' : 'net'
  const views = problemViews(prepared, cart)
  const problems = new Map(views.map((problem) => [problem.line, problem]))
  const ready: Named[] = []
  for (const [place, each] of named.entries()) {
    const line = cart.lines[place]
    // A quote is about what cannot be had as it stands: only whether one is made counts.
    const mine = purpose === 'quote' ? noQuote(line) : problems.get(place)
    resolved[each.row] = mine
      ? toWrong(visitor, line, each, shows, mine)
      : toReady(visitor, line, each, shows)
    if (!mine) ready.push(each)
  }
  // What has to be looked at first does not count yet, nor for breaks of what is bought together.
  const counted = ready.length === named.length ? cart : price(ready)
  return {
    rows: resolved,
    total: counted.lines.every(({ access }) => access.seePrice) ? counted.goods[shows] : null,
    currency: cart.currency,
    digits: cart.digits,
    priceDigits: pricingContext.digits,
    mayAsk: named.some((_, place) => cart.lines[place]?.access.quote === true),
    words: taxWordsOf(prepared.store)[shows],
    notes: (purpose === 'quote' ? [] : counted === cart ? views : problemViews(prepared, counted))
      .filter(({ line }) => line === null)
      .map(({ text }) => text),
  }
}

function noQuote(line: CartLine | undefined): CartProblemView | undefined {
  if (!line || line.access.quote) return undefined
  const text = line.access.buy
    ? 'We make no quotes on this. It can be bought at its price.'
    : 'We make no quotes on this.'
  return { line: null, item: '', text, fixes: [] }
}

/** Ids of what is wanted with it, as far as it goes with it. */
function extrasOf(visitor: ShopVisitor, { id }: Variant, { extras = [] }: QuickRow): readonly string[] {
  if (extras.length === 0) return extras
  const known = extras.flatMap((code) => findByCode(visitor.prepared.store.extra, code)?.id ?? [])
  return goWith(visitor.prepared, id, known) ? known : []
}

function isShown({ prepared, pricingContext }: ShopVisitor, { id }: Variant): boolean {
  return findRights(prepared, pricingContext, prepared.index.numberOf.get(id) as number).see
}

/** What a SKU that is not there may mean, as far as the buyer is shown it: what is hidden must not be guessed. */
function nearTo(visitor: ShopVisitor, typed: string, search: { left: number }) {
  const { store } = visitor.prepared
  const shown = (sku: string) => {
    const variant = findBySku(store.variant, sku)
    return variant !== null && isShown(visitor, variant)
  }
  // A product's code is often taken for a SKU.
  const product = findByCode(store.product, typed)
  const own = product
    ? [...store.variant.values()].filter((each) => each.product === product.id && isShown(visitor, each))
    : []
  let skus = own.slice(0, MOST_NEAR).map(({ sku }) => sku)
  if (skus.length === 0) skus = [...skusOneSlipAway(store.variant, typed, MOST_NEAR, shown)]
  if (skus.length === 0 && search.left > 0) {
    search.left -= 1
    skus = [...nearestSkus(store.variant, typed, MOST_NEAR, shown)]
  }
  return skus.flatMap((sku) => {
    const variant = findBySku(store.variant, sku)
    return variant ? [{ sku, name: headOf(visitor, variant).name }] : []
  })
}

function headOf({ prepared }: ShopVisitor, variant: Variant) {
  const product = prepared.store.product.get(variant.product)
  return {
    sku: variant.sku,
    name: product ? itemName(product, variant) : variant.sku,
    picture: product?.picture ?? '',
  }
}

function toWrong(
  visitor: ShopVisitor,
  line: CartLine | undefined,
  { variant }: Named,
  shows: 'net' | 'gross',
  { text, fixes }: CartProblemView,
): ResolvedRow {
  return {
    kind: 'wrong',
    ...headOf(visitor, variant),
    unit: line?.access.seePrice ? (line.unitAmount?.[shows] ?? null) : null,
    problem: text,
    fixes: fixes.map(({ quantity }) => quantity),
  }
}

function toReady(
  visitor: ShopVisitor,
  line: CartLine | undefined,
  named: Named,
  shows: 'net' | 'gross',
): ResolvedRow {
  const { sku, name, picture } = headOf(visitor, named.variant)
  const unit = line?.access.seePrice ? (line.unitAmount?.[shows] ?? null) : null
  const total = unit === null ? null : (line?.amount?.[shows] ?? null)
  const note =
    unit === null
      ? 'Price on request.'
      : isBelowOne(visitor, line, named)
        ? breakNote(visitor, named, unit)
        : ''
  // Field by field: of a thousand objects that are spread together each would have a shape of its own.
  return { kind: 'ready', sku, name, picture, unit, total, note }
}

/** Whether one piece of so many costs less than one alone: only then is it worth asking from how many on. */
function isBelowOne(
  { prepared, pricingContext }: ShopVisitor,
  line: CartLine | undefined,
  { variant }: Named,
): boolean {
  const number = prepared.index.numberOf.get(variant.id) as number
  const one = findPrice(prepared, pricingContext, number, ONE_PIECE)
  if (!line?.unit || Number.isNaN(one.units)) return false
  return one.basis !== line.basis || compare(line.unit, fromUnits(one.units, pricingContext.digits)) < 0
}

/** From how many on so many cost what they do, and what fewer cost. */
function breakNote(visitor: ShopVisitor, { variant, quantity }: Named, unit: Decimal): string {
  const { prepared, buyerContext, pricingContext } = visitor
  const asked = answer(prepared, {
    ...buyerContext,
    variant: variant.id,
    quantity,
    extras: [],
    basket: [],
    promotions: NO_FACTS,
  })
  if (!asked.ok || asked.value.breaks.length < 2) return ''
  const number = prepared.index.numberOf.get(variant.id) as number
  const { breaks } = asked.value
  const reached = breaks.findLastIndex(({ from }) => compare(from, quantity) <= 0)
  const [at, before] = [breaks[reached], breaks[reached - 1]]
  if (!at || !before) return ''
  const { own } = shownPrice(visitor, number, {
    own: { amount: before.unit, basis: before.basis },
    was: null,
  })
  if (own === null || compare(own, unit) <= 0) return ''
  return `your price from ${at.from} on; fewer are ${formatAmount(own, pricingContext.digits)}`
}
