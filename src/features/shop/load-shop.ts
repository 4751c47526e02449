import 'server-only'

import { pathToRoot } from '@/core/catalogue/category'
import { findByCode, findBySku } from '@/core/catalogue/find-by-code'
import { type Product, type Variant, variantName } from '@/core/catalogue/product'
import { compare, type Decimal, decimal } from '@/core/decimal/decimal'
import { answer } from '@/core/engine/ask'
import { findMinorDigits } from '@/core/currency/iso-4217'
import { factsOf } from '@/core/engine/items/catalogue-index'
import { findLimits } from '@/core/engine/rules/find-limits'
import { findPrice } from '@/core/engine/price/find-price'
import { findRights } from '@/core/engine/rules/find-rights'
import { displayOf } from '@/core/engine/rules/find-tax'
import { basedPrice } from '@/core/engine/price/add-extras'
import type { BasedAmount } from '@/core/price/based-amount'
import type { Answer } from '@/core/engine/explain/trace'
import { matchWhat } from '@/core/predicates/what'
import { currenciesTaken, type Store } from '@/core/store/store'
import {
  findShownProduct,
  orderedProducts,
  type ProductWithVariants,
  shownProducts,
} from '@/server/engine/catalogue-order'
import { pricingContextOf } from '@/server/engine/look-from'
import type { ShopVisitor } from '@/server/session/shop-session'
import { countryName, notForSale, shopLimits, stockSentence, taxWordsOf } from './shop-sentences'
import { cardPrice, hiddenPrice, NO_PRICE, shownPrice } from './shop-prices'
import type {
  ShopAway,
  ShopCard,
  ShopCategoryLink,
  ShopChoices,
  ShopFound,
  ShopListing,
  ShopMoney,
  ShopProduct,
  ShopQuote,
  ShopVariant,
  ShopSuggestion,
} from './shop-view'
import { pageOf } from './pages'
import { firstVisible, openPaths, reachableCategories, visible } from './visible'

/** The branches at the top of the tree that lead a visitor anywhere. */
export function topCategories(visitor: ShopVisitor): readonly ShopCategoryLink[] {
  return childrenOf(visitor, null)
}

export function shopMoney({ prepared, pricingContext }: ShopVisitor): ShopMoney {
  const { currency, digits } = pricingContext
  const minorDigits = findMinorDigits(currency) ?? digits
  const display = displayOf(prepared, pricingContext, 'shop')
  return { currency, digits, minorDigits, display, words: taxWordsOf(prepared.store) }
}

/** Where a visitor can have things brought to, and what they can pay in. */
export function shopChoices({ prepared, pricingContext, buyerContext, vantage }: ShopVisitor): ShopChoices {
  const { store } = prepared
  const served = [...store.region.values()].filter(({ status }) => status === 'active')
  // A region may serve some states of a country only.
  const countries = served.flatMap((region) => region.countries.map((each) => each.slice(0, 2)))
  const { country } = pricingContext.deliverTo
  const following = pricingContextOf(prepared, { ...buyerContext, currency: null }).currency
  return {
    country,
    countries: [...new Set([...countries, country])]
      .map((code) => ({ code, name: countryName(code) }))
      .sort((left, right) => (left.name < right.name ? -1 : 1)),
    currency: vantage.currency === following ? '' : (vantage.currency ?? ''),
    following,
    currencies: currenciesTaken(store),
  }
}

/**
 * A category's page as a visitor sees it.
 *
 * Errors  `null` when no category has the code.
 */
export function loadListing(visitor: ShopVisitor, code: string, page = 1): ShopListing | null {
  const { store } = visitor.prepared
  const category = findByCode(store.category, code)
  if (!category || category.status === 'archived') return null
  if (reachableCategories(visitor)?.has(category.id) === false) return null
  return {
    title: category.name,
    path: pathLinks(store, category.id),
    children: childrenOf(visitor, category.id),
    ...cardsOn(visitor, page, shownProducts(store, { category: code, text: '' })),
  }
}

/** What a visitor finds for some words. */
export function searchShop(visitor: ShopVisitor, text: string, page = 1): ShopFound {
  const matching = text.trim() === '' ? [] : shownProducts(visitor.prepared.store, { category: null, text })
  return cardsOn(visitor, page, matching)
}

const CARDS_ON_A_PAGE = 48

function cardsOn(visitor: ShopVisitor, page: number, products: readonly ProductWithVariants[]): ShopFound {
  const { shown, ...pages } = pageOf(visible(visitor, products), page, CARDS_ON_A_PAGE)
  return { ...pages, cards: shown.map((each) => toCard(visitor, each)) }
}

const MOST_SUGGESTIONS = 8

/** A few products a visitor may mean by what they have typed so far: first those whose name begins with it. */
export function suggestInShop(visitor: ShopVisitor, text: string): readonly ShopSuggestion[] {
  const typed = text.trim().toLowerCase()
  if (typed === '') return []
  const matching = shownProducts(visitor.prepared.store, { category: null, text })
  const begins = ({ product }: ProductWithVariants) => product.name.toLowerCase().startsWith(typed)
  const hasWord = ({ product }: ProductWithVariants) => product.name.toLowerCase().includes(` ${typed}`)
  const ranked = [
    ...matching.filter(begins),
    ...matching.filter((each) => !begins(each) && hasWord(each)),
    ...matching.filter((each) => !begins(each) && !hasWord(each)),
  ]
  const found: ShopSuggestion[] = []
  for (const each of ranked) {
    const [shown] = visible(visitor, [each])
    if (shown) found.push({ code: shown.product.code, name: shown.product.name })
    if (found.length === MOST_SUGGESTIONS) break
  }
  return found
}

const PRODUCTS_ON_A_PAGE = 250

/** Everything a visitor may see, some products at a time, one entry a variant. */
export function shopFeed(visitor: ShopVisitor, page: number) {
  const { shown, ...pages } = pageOf(
    visible(visitor, orderedProducts(visitor.prepared.store)),
    page,
    PRODUCTS_ON_A_PAGE,
  )
  const products = shown.flatMap(({ product, variants }) =>
    variants.map((variant) => ({
      sku: variant.sku,
      product: product.code,
      name: [product.name, variantName(product, variant)].filter(Boolean).join(', '),
      price: cardPrice(visitor, variant.id),
    })),
  )
  return { ...pages, products }
}

/** Each branch with a product that is typical of it: the first one of its first leaf. */
export function loadFront(visitor: ShopVisitor): readonly (ShopCategoryLink & { card: ShopCard })[] {
  const { store } = visitor.prepared
  return topCategories(visitor).flatMap((category) => {
    const products = shownProducts(store, { category: category.code, text: '' })
    const leaf = firstLeaf(visitor, category.code)
    const inLeaf = products.filter(({ product }) => product.categories[0] === leaf)
    const first = firstVisible(visitor, inLeaf) ?? firstVisible(visitor, products)
    return first ? [{ ...category, card: toCard(visitor, first) }] : []
  })
}

/** The id of the category reached from a branch by always taking the first one below. */
function firstLeaf(visitor: ShopVisitor, code: string): string | undefined {
  const id = findByCode(visitor.prepared.store.category, code)?.id
  const [below] = id === undefined ? [] : childrenOf(visitor, id)
  return below ? firstLeaf(visitor, below.code) : id
}

/**
 * A product's page as a visitor sees it.
 *
 * Errors  `null` when no product has the code, or none of it is offered to them.
 */
export function loadShopProduct(visitor: ShopVisitor, code: string): ShopProduct | null {
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
    variants: variants.map((variant) => toShopVariant(visitor, product, variant)),
  }
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
  if (hidden) return { ...NO_PRICE, hidden, total: null }
  const number = visitor.prepared.index.numberOf.get(variant.id) as number
  const { unit, total, basis, was } = answer
  return {
    ...shownPrice(visitor, number, { own: based(unit, basis), was }),
    total: shownPrice(visitor, number, { own: based(total, basis), was: null }).own,
  }
}

function based(amount: Decimal | null, basis: BasedAmount['basis']): BasedAmount | null {
  return amount && { amount, basis }
}

function answerFor(
  { prepared, buyerContext }: ShopVisitor,
  variant: string,
  quantity: Decimal,
  extras: readonly string[],
): Answer | null {
  const asked = answer(prepared, { ...buyerContext, variant, quantity, extras, basket: [] })
  return asked.ok ? asked.value : null
}

function toShopVariant(visitor: ShopVisitor, product: Product, variant: Variant): ShopVariant {
  const number = visitor.prepared.index.numberOf.get(variant.id) as number
  const answer = answerFor(visitor, variant.id, decimal(1), [])
  const hidden = answer ? hiddenPrice(answer.access) : 'not-shown'
  const show = (own: BasedAmount | null, was: BasedAmount | null) => shownPrice(visitor, number, { own, was })
  return {
    sku: variant.sku,
    name: variantName(product, variant),
    options: variant.options,
    price: hidden
      ? { ...NO_PRICE, hidden }
      : show(answer && based(answer.unit, answer.basis), answer?.was ?? null),
    breaks: hidden
      ? []
      : (answer?.breaks ?? []).map(({ from, unit, basis }) => ({
          from,
          unit: show({ amount: unit, basis }, null).own as Decimal,
        })),
    extras: hidden ? [] : extrasFor(visitor, variant.id),
    limits: shopLimits(findLimits(visitor.prepared, visitor.pricingContext, number), product.unit),
    stock: stockSentence(variant.stock),
    notForSale: answer ? notForSale(answer) : 'This is not for sale.',
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

function toCard(visitor: ShopVisitor, { product, variants }: ProductWithVariants): ShopCard {
  const all = variants.map(({ id }) => cardPrice(visitor, id))
  const [first] = all
  const prices = all.filter(({ own }) => own !== null)
  prices.sort((left, right) => compare(left.own as Decimal, right.own as Decimal))
  return {
    code: product.code,
    name: product.name,
    picture: product.picture,
    about: product.description,
    price: prices[0] ?? first ?? NO_PRICE,
    from: prices.length > 1 && prices[0]?.own !== prices.at(-1)?.own,
  }
}

function childrenOf(visitor: ShopVisitor, parent: string | null): readonly ShopCategoryLink[] {
  const reachable = reachableCategories(visitor)
  return [...visitor.prepared.store.category.values()]
    .filter((category) => category.parent === parent && category.status === 'active')
    .filter(({ id }) => reachable?.has(id) ?? true)
    .sort((left, right) => left.position - right.position)
    .map(({ code, name }) => ({ code, name }))
}

function pathLinks(store: Store, category: string): readonly ShopCategoryLink[] {
  return pathToRoot(store.category, category)
    .map(({ code, name }) => ({ code, name }))
    .reverse()
}
