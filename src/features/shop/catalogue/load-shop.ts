import 'server-only'

import { pathToRoot } from '@/core/catalogue/category'
import { findByCode } from '@/core/catalogue/find-by-code'
import { itemName } from '@/core/catalogue/product'
import { compare, type Decimal } from '@/core/decimal/decimal'
import { findMinorDigits } from '@/core/currency/iso-4217'
import { displayOf } from '@/core/engine/rules/find-tax'
import { currenciesTaken, type Store } from '@/core/store/store'
import { orderedProducts, type ProductWithVariants, shownProducts } from '@/server/engine/catalogue-order'
import { Slices } from '@/server/doors/slices'
import { pricingContextOf } from '@/server/engine/request-context'
import type { ShopVisitor } from '@/server/session/shop-session'
import { taxWordsOf } from '../frame/shop-sentences'
import { countryName } from '@/ui/format/place-names'
import { cardPrice, NO_PRICE } from '../frame/shop-prices'
import type {
  ShopCard,
  ShopCategoryLink,
  ShopChoices,
  ShopFound,
  ShopListing,
  ShopMoney,
  ShopSuggestion,
} from '../frame/shop-view'
import { pageOf } from '../frame/pages'
import { badges } from './shop-promotions'
import { firstVisible, reachableCategories, visible } from '../frame/visible'

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
  const badge = badges(visitor)
  return { ...pages, cards: shown.map((each) => toCard(visitor, each, badge)) }
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
export async function shopFeed(visitor: ShopVisitor, page: number) {
  const { shown, ...pages } = pageOf(
    visible(visitor, orderedProducts(visitor.prepared.store)),
    page,
    PRODUCTS_ON_A_PAGE,
  )
  const products = await new Slices().map(shown, ({ product, variants }) =>
    variants.map((variant) => ({
      sku: variant.sku,
      product: product.code,
      name: itemName(product, variant),
      price: cardPrice(visitor, variant.id),
    })),
  )
  return { ...pages, products: products.flat() }
}

/** Each branch with a product that is typical of it: the first one of its first leaf. */
export function loadFront(visitor: ShopVisitor): readonly (ShopCategoryLink & { card: ShopCard })[] {
  const { store } = visitor.prepared
  const badge = badges(visitor)
  return topCategories(visitor).flatMap((category) => {
    const products = shownProducts(store, { category: category.code, text: '' })
    const leaf = firstLeaf(visitor, category.code)
    const inLeaf = products.filter(({ product }) => product.categories[0] === leaf)
    const first = firstVisible(visitor, inLeaf) ?? firstVisible(visitor, products)
    return first ? [{ ...category, card: toCard(visitor, first, badge) }] : []
  })
}

/** The id of the category reached from a branch by always taking the first one below. */
function firstLeaf(visitor: ShopVisitor, code: string): string | undefined {
  const id = findByCode(visitor.prepared.store.category, code)?.id
  const [below] = id === undefined ? [] : childrenOf(visitor, id)
  return below ? firstLeaf(visitor, below.code) : id
}

function toCard(
  visitor: ShopVisitor,
  { product, variants }: ProductWithVariants,
  badge: ReturnType<typeof badges>,
): ShopCard {
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
    byQuote: (prices[0] ?? first)?.hidden === 'quote' ? (variants[0]?.sku ?? null) : null,
    badge: badge(variants.map(({ id }) => visitor.prepared.index.numberOf.get(id) as number)),
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

export function pathLinks(store: Store, category: string): readonly ShopCategoryLink[] {
  return pathToRoot(store.category, category)
    .map(({ code, name }) => ({ code, name }))
    .reverse()
}
