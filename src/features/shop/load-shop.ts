import 'server-only'

import { pathToRoot } from '@/core/catalogue/category'
import { findByCode, findBySku } from '@/core/catalogue/find-by-code'
import { variantName } from '@/core/catalogue/product'
import { compare, type Decimal, decimal } from '@/core/decimal/decimal'
import { ask } from '@/core/engine/ask'
import { findComparedPrice } from '@/core/engine/compared-price'
import { factsOf } from '@/core/engine/catalogue-index'
import { findPrice, ONE_PIECE } from '@/core/engine/find-price'
import { findOffer, limitsOffer } from '@/core/engine/offer'
import { toPrice } from '@/core/engine/price-step'
import type { Answer } from '@/core/engine/trace'
import { matchWhat } from '@/core/predicates/what'
import { getSettings, type Store } from '@/core/store/store'
import { findShownProduct, type ProductWithVariants, shownProducts } from '@/server/engine/catalogue-order'
import { situationOf } from '@/server/engine/look-from'
import type { ShopVisitor } from '@/server/session/shop-session'
import type {
  ShopCard,
  ShopCategoryLink,
  ShopChoices,
  ShopListing,
  ShopMoney,
  ShopPrice,
  ShopProduct,
  ShopQuote,
} from './shop-view'

/** The branches at the top of the tree. */
export function topCategories(store: Store): readonly ShopCategoryLink[] {
  return childrenOf(store, null)
}

export function shopMoney({ situation }: ShopVisitor): ShopMoney {
  return { currency: situation.currency, digits: situation.digits }
}

/** Where a visitor can have things brought to, and what they can pay in. */
export function shopChoices({ prepared, situation, standpoint, vantage }: ShopVisitor): ShopChoices {
  const { store } = prepared
  const countries = [...new Set([...store.region.values()].flatMap((region) => region.countries))]
  const names = new Intl.DisplayNames('en-IE', { type: 'region' })
  const { country } = situation.deliverTo
  const following = situationOf(prepared, { ...standpoint, currency: null }).currency
  return {
    country,
    countries: [...new Set([...countries, country])]
      .filter((code) => code.length === 2)
      .map((code) => ({ code, name: names.of(code) ?? code }))
      .sort((left, right) => (left.name < right.name ? -1 : 1)),
    currency: vantage.currency === following ? '' : (vantage.currency ?? ''),
    following,
    currencies: [
      getSettings(store).currency,
      ...[...store.currency.values()].filter(({ status }) => status === 'active').map(({ code }) => code),
    ],
  }
}

/**
 * A category's page as a visitor sees it.
 *
 * Errors  `null` when no category has the code.
 */
export function loadListing(visitor: ShopVisitor, code: string): ShopListing | null {
  const { store } = visitor.prepared
  const category = findByCode(store.category, code)
  if (!category || category.status === 'archived') return null
  return {
    title: category.name,
    path: pathLinks(store, category.id),
    children: childrenOf(store, category.id),
    cards: offered(visitor, shownProducts(store, { category: code, text: '' })).map((each) =>
      toCard(visitor, each),
    ),
  }
}

/** What a visitor finds for some words. */
export function searchShop(visitor: ShopVisitor, text: string): readonly ShopCard[] {
  if (text.trim() === '') return []
  return offered(visitor, shownProducts(visitor.prepared.store, { category: null, text })).map((each) =>
    toCard(visitor, each),
  )
}

/** Each branch with a product that is typical of it: the first one of its first leaf. */
export function loadFront(visitor: ShopVisitor): readonly (ShopCategoryLink & { card: ShopCard })[] {
  const { store } = visitor.prepared
  return topCategories(store).flatMap((category) => {
    const products = offered(visitor, shownProducts(store, { category: category.code, text: '' }))
    const leaf = firstLeaf(store, category.code)
    const first = products.find(({ product }) => product.categories[0] === leaf) ?? products[0]
    return first ? [{ ...category, card: toCard(visitor, first) }] : []
  })
}

/** The id of the category reached from a branch by always taking the first one below. */
function firstLeaf(store: Store, code: string): string | undefined {
  const id = findByCode(store.category, code)?.id
  const [below] = id === undefined ? [] : childrenOf(store, id)
  return below ? firstLeaf(store, below.code) : id
}

/**
 * A product's page as a visitor sees it.
 *
 * Errors  `null` when no product has the code, or none of it is offered to them.
 */
export function loadShopProduct(visitor: ShopVisitor, code: string): ShopProduct | null {
  const { store } = visitor.prepared
  const found = findShownProduct(store, code)
  const [shown] = found ? offered(visitor, [found]) : []
  if (!shown) return null
  const { product, variants } = shown
  return {
    code: product.code,
    name: product.name,
    picture: product.picture,
    description: product.description,
    unit: product.unit,
    path: pathLinks(store, product.categories[0] ?? ''),
    axes: product.axes,
    facts: Object.entries(product.attributes),
    variants: variants.map((variant) => {
      const answer = answerFor(visitor, variant.id, decimal(1), [])
      return {
        sku: variant.sku,
        name: variantName(product, variant),
        price: { own: answer?.unit ?? null, was: answer?.was ?? null },
        breaks: answer?.breaks ?? [],
        extras: extrasFor(visitor, variant.id),
      }
    }),
  }
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
  if (!answer?.see) return null
  return { own: answer.unit, was: answer.was, total: answer.total }
}

function answerFor(
  { prepared, standpoint }: ShopVisitor,
  variant: string,
  quantity: Decimal,
  extras: readonly string[],
): Answer | null {
  const asked = ask(prepared, { ...standpoint, variant, quantity, extras, basket: [] })
  return asked.ok ? asked.value : null
}

/** What can be added to a variant, and for how much a piece. */
function extrasFor({ prepared, situation }: ShopVisitor, variantId: string) {
  const { store, index } = prepared
  const facts = factsOf(store, index, index.numberOf.get(variantId) as number)
  return [...store.extra.values()]
    .filter((extra) => extra.status === 'active' && matchWhat(extra.scope, facts).matches)
    .sort((left, right) => left.position - right.position)
    .map(({ id, code, name }) => {
      const { units } = findPrice(prepared, situation, index.numberOf.get(id) as number)
      return { code, name, price: toPrice(units, situation.digits) }
    })
}

/** Products with the variants that are offered to a visitor; lists that offer only what they list leave out the rest. */
function offered(
  { prepared, situation }: ShopVisitor,
  products: readonly ProductWithVariants[],
): readonly ProductWithVariants[] {
  const isLimited = limitsOffer(situation)
  return products.flatMap(({ product, variants }) => {
    const kept = variants.filter(
      ({ id, status }) =>
        status === 'active' &&
        (!isLimited || findOffer(prepared, situation, prepared.index.numberOf.get(id) as number).offered),
    )
    return kept.length > 0 ? [{ product, variants: kept }] : []
  })
}

function toCard(visitor: ShopVisitor, { product, variants }: ProductWithVariants): ShopCard {
  const prices = variants.map(({ id }) => cardPrice(visitor, id)).filter(({ own }) => own !== null)
  prices.sort((left, right) => compare(left.own as Decimal, right.own as Decimal))
  return {
    code: product.code,
    name: product.name,
    picture: product.picture,
    about: product.description,
    price: prices[0] ?? { own: null, was: null },
    from: prices.length > 1 && prices[0]?.own !== prices.at(-1)?.own,
  }
}

function cardPrice({ prepared, standpoint, situation }: ShopVisitor, variant: string): ShopPrice {
  const number = prepared.index.numberOf.get(variant) as number
  const { units } = findPrice(prepared, situation, number, ONE_PIECE)
  return {
    own: toPrice(units, situation.digits),
    was: findComparedPrice(prepared, situation, standpoint, number, ONE_PIECE),
  }
}

function childrenOf(store: Store, parent: string | null): readonly ShopCategoryLink[] {
  return [...store.category.values()]
    .filter((category) => category.parent === parent && category.status === 'active')
    .sort((left, right) => left.position - right.position)
    .map(({ code, name }) => ({ code, name }))
}

function pathLinks(store: Store, category: string): readonly ShopCategoryLink[] {
  return pathToRoot(store.category, category)
    .map(({ code, name }) => ({ code, name }))
    .reverse()
}
