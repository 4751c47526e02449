import 'server-only'

import { findByCode, findBySku } from '@/core/catalogue/find-by-code'
import { type Product, type Variant, variantName } from '@/core/catalogue/product'
import { findAvailable, type StockLevels, UNCOUNTED } from '@/core/catalogue/stock'
import { compare, type Decimal, decimal, ZERO } from '@/core/decimal/decimal'
import { answer } from '@/core/engine/ask'
import { factsOf } from '@/core/engine/items/catalogue-index'
import { findLimits } from '@/core/engine/rules/find-limits'
import { findPrice } from '@/core/engine/price/find-price'
import { findRights } from '@/core/engine/rules/find-rights'
import { basedPrice } from '@/core/engine/price/add-extras'
import type { BasedAmount } from '@/core/price/based-amount'
import type { Answer } from '@/core/engine/explain/trace'
import { matchWhat } from '@/core/predicates/what'
import { findShownProduct } from '@/server/engine/catalogue-order'
import type { ShopVisitor } from '@/server/session/shop-session'
import { getSteppe } from '@/server/engine/steppe'
import { readStock } from '@/server/stock/stock-levels'
import { notForSale } from '@/ui/cart/not-for-sale'
import { shopLimits, SOLD_OUT, stockSentence } from '../frame/shop-sentences'
import { hiddenPrice, NO_PRICE, shownPrice } from '../frame/shop-prices'
import type { ShopAway, ShopProduct, ShopQuote, ShopVariant } from '../frame/shop-view'
import { notesOn } from '../catalogue/shop-promotions'
import { openPaths, visible } from '../frame/visible'
import { pathLinks } from '../catalogue/load-shop'

/**
 * A product's page as a visitor sees it.
 *
 * Errors  `null` when no product has the code, or none of it is offered to them.
 */
export function loadShopProduct(
  visitor: ShopVisitor,
  code: string,
  stock: StockLevels = UNCOUNTED,
): ShopProduct | null {
  const { store } = visitor.prepared
  const found = findShownProduct(store, code)
  const [shown] = found ? visible(visitor, [found]) : []
  if (!shown) return null
  const { product, variants } = shown
  return {
    code: product.code,
    name: product.name,
    picture: product.picture,
    description: product.description,
    unit: product.unit,
    path: pathLinks(store, openPaths(visitor, product.categories)[0] ?? ''),
    axes: product.axes,
    facts: Object.entries(product.attributes),
    variants: variants.map((variant) =>
      toShopVariant(visitor, product, variant, findAvailable(stock, variant.id)),
    ),
  }
}

/** How many there are of what a product's page may show. */
export async function stockOnPage({ prepared }: ShopVisitor, code: string): Promise<StockLevels> {
  const { variants } = findShownProduct(prepared.store, code) ?? { variants: [] }
  const { database, presence } = await getSteppe()
  const ids = variants.map(({ id }) => id)
  return presence.orKnown(
    () => readStock(database, ids),
    () => UNCOUNTED,
  )
}

/**
 * Where a link to a product a visitor is not shown leads.
 *
 * Errors  `null` when there is no such product.
 */
export function findAway({ prepared, pricingContext }: ShopVisitor, code: string): ShopAway | null {
  const [variant] = findShownProduct(prepared.store, code)?.variants ?? []
  if (!variant) return null
  const { landing, message } = findRights(
    prepared,
    pricingContext,
    prepared.index.numberOf.get(variant.id) as number,
  )
  return { landing, message }
}

/**
 * What some pieces of a SKU cost a visitor, with extras.
 *
 * Errors  `null` when the visitor is not offered it, or asks for something that does not go with it.
 */
export function quoteFor(
  visitor: ShopVisitor,
  sku: string,
  quantity: Decimal,
  extraCodes: readonly string[],
): ShopQuote | null {
  const { store } = visitor.prepared
  const variant = findBySku(store.variant, sku)
  const extras = extraCodes.map((code) => findByCode(store.extra, code)?.id ?? code)
  const answer = variant && answerFor(visitor, variant.id, quantity, extras)
  if (!variant || !answer?.see) return null
  const hidden = hiddenPrice(answer.access)
  if (hidden) return { ...NO_PRICE, hidden, total: null, notes: [] }
  const number = visitor.prepared.index.numberOf.get(variant.id) as number
  const { unit, total, basis, was } = answer.promoted ?? answer
  return {
    ...shownPrice(visitor, number, { own: based(unit, basis), was, isPromoted: answer.promoted !== null }),
    total: shownPrice(visitor, number, { own: based(total, basis), was: null }).own,
    notes: notesOn(visitor, variant.id, quantity),
  }
}

function based(amount: Decimal | null, basis: BasedAmount['basis']): BasedAmount | null {
  return amount && { amount, basis }
}

function answerFor(
  { prepared, buyerContext, facts }: ShopVisitor,
  variant: string,
  quantity: Decimal,
  extras: readonly string[],
): Answer | null {
  const asked = answer(prepared, {
    ...buyerContext,
    variant,
    quantity,
    extras,
    basket: [],
    promotions: facts,
  })
  return asked.ok ? asked.value : null
}

function toShopVariant(
  visitor: ShopVisitor,
  product: Product,
  variant: Variant,
  available: Decimal | null,
): ShopVariant {
  const number = visitor.prepared.index.numberOf.get(variant.id) as number
  const answer = answerFor(visitor, variant.id, decimal(1), [])
  const hidden = answer ? hiddenPrice(answer.access) : 'not-shown'
  const isSoldOut = available !== null && compare(available, ZERO) <= 0 && !product.backOrder
  const paid = answer && (answer.promoted ?? answer)
  const unitShown = (own: BasedAmount) => shownPrice(visitor, number, { own, was: null }).own as Decimal
  return {
    sku: variant.sku,
    name: variantName(product, variant),
    options: variant.options,
    price: hidden
      ? { ...NO_PRICE, hidden }
      : shownPrice(visitor, number, {
          own: paid && based(paid.unit, paid.basis),
          was: paid?.was ?? null,
          isPromoted: (answer?.promoted ?? null) !== null,
        }),
    breaks: hidden
      ? []
      : (answer?.breaks ?? []).map(({ from, unit, basis, promoted }) => ({
          from,
          unit: unitShown(promoted ?? { amount: unit, basis }),
        })),
    extras: hidden ? [] : extrasFor(visitor, variant.id),
    limits: shopLimits(findLimits(visitor.prepared, visitor.pricingContext, number), product.unit),
    stock: stockSentence(available, product),
    notes: hidden ? [] : notesOn(visitor, variant.id, decimal(1)),
    mayAsk: answer?.quote === true,
    notForSale: isSoldOut ? SOLD_OUT : answer ? notForSale(answer) : 'This is not for sale.',
  }
}

/** What can be added to a variant, and for how much a piece. */
function extrasFor(visitor: ShopVisitor, variantId: string) {
  const { prepared, pricingContext } = visitor
  const { store, index } = prepared
  const facts = factsOf(store, index, index.numberOf.get(variantId) as number)
  return [...store.extra.values()]
    .filter((extra) => extra.status === 'active' && matchWhat(extra.scope, facts).matches)
    .sort((left, right) => left.position - right.position)
    .map(({ id, code, name }) => {
      const number = index.numberOf.get(id) as number
      // An extra is taxed as what it is added to.
      const shown = shownPrice(visitor, index.numberOf.get(variantId) as number, {
        own: basedPrice(findPrice(prepared, pricingContext, number), pricingContext.digits),
        was: null,
      })
      return { code, name, price: shown.own }
    })
}
