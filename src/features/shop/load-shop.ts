import 'server-only'

import type { BuyerReference } from '@/core/buyers/buyer'
import { pathToRoot } from '@/core/catalogue/category'
import { findByCode } from '@/core/catalogue/find-by-code'
import { variantName } from '@/core/catalogue/product'
import { compare, type Decimal } from '@/core/decimal/decimal'
import { lookUpPrice } from '@/core/engine/price-column'
import type { PreparedStore } from '@/core/engine/prepared-store'
import { getSettings, type Store } from '@/core/store/store'
import { findShownProduct, type ProductWithVariants, shownProducts } from '@/server/engine/catalogue-order'
import type { ShopCard, ShopCategoryLink, ShopListing, ShopMoney, ShopPrice, ShopProduct } from './shop-view'

/** The branches at the top of the tree. */
export function topCategories(store: Store): readonly ShopCategoryLink[] {
  return childrenOf(store, null)
}

export function shopMoney(store: Store): ShopMoney {
  const { currency, priceDigits } = getSettings(store)
  return { currency, digits: priceDigits }
}

/**
 * A category's page as a visitor sees it.
 *
 * Errors  `null` when no category has the code.
 */
export function loadListing(
  prepared: PreparedStore,
  buyer: BuyerReference,
  code: string,
): ShopListing | null {
  const { store } = prepared
  const category = findByCode(store.category, code)
  if (!category) return null
  return {
    title: category.name,
    path: pathLinks(store, category.id),
    children: childrenOf(store, category.id),
    cards: shownProducts(store, { category: code, text: '' }).map((each) => toCard(prepared, buyer, each)),
  }
}

/** What a visitor finds for some words. */
export function searchShop(
  prepared: PreparedStore,
  buyer: BuyerReference,
  text: string,
): readonly ShopCard[] {
  if (text.trim() === '') return []
  return shownProducts(prepared.store, { category: null, text }).map((each) => toCard(prepared, buyer, each))
}

/** Each branch with a product that is typical of it: the first one of its first leaf. */
export function loadFront(
  prepared: PreparedStore,
  buyer: BuyerReference,
): readonly (ShopCategoryLink & { card: ShopCard })[] {
  return topCategories(prepared.store).flatMap((category) => {
    const products = shownProducts(prepared.store, { category: category.code, text: '' })
    const leaf = firstLeaf(prepared.store, category.code)
    const first = products.find(({ product }) => product.categories[0] === leaf) ?? products[0]
    return first ? [{ ...category, card: toCard(prepared, buyer, first) }] : []
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
 * Errors  `null` when no product has the code.
 */
export function loadShopProduct(
  prepared: PreparedStore,
  buyer: BuyerReference,
  code: string,
): ShopProduct | null {
  const found = findShownProduct(prepared.store, code)
  if (!found) return null
  const { product, variants } = found
  return {
    code: product.code,
    name: product.name,
    picture: product.picture,
    description: product.description,
    unit: product.unit,
    path: pathLinks(prepared.store, product.categories[0] ?? ''),
    axes: product.axes,
    facts: Object.entries(product.attributes),
    variants: variants.map((variant) => ({
      sku: variant.sku,
      name: variantName(product, variant),
      price: shopPrice(prepared, buyer, variant.id),
    })),
  }
}

function toCard(
  prepared: PreparedStore,
  buyer: BuyerReference,
  { product, variants }: ProductWithVariants,
): ShopCard {
  const prices = variants.map(({ id }) => shopPrice(prepared, buyer, id)).filter(({ own }) => own !== null)
  prices.sort((left, right) => compare(left.own as Decimal, right.own as Decimal))
  return {
    code: product.code,
    name: product.name,
    picture: product.picture,
    about: product.description,
    price: prices[0] ?? { own: null, public: null },
    from: prices.length > 1 && prices[0]?.own !== prices.at(-1)?.own,
  }
}

function shopPrice(prepared: PreparedStore, buyer: BuyerReference, variant: string): ShopPrice {
  const amount = (who: BuyerReference): Decimal | null => lookUpPrice(prepared, who, variant)?.unit ?? null
  const own = amount(buyer)
  const all = buyer.kind === 'guest' ? own : amount({ kind: 'guest' })
  return { own, public: own !== null && all !== null && compare(all, own) > 0 ? all : null }
}

function childrenOf(store: Store, parent: string | null): readonly ShopCategoryLink[] {
  return [...store.category.values()]
    .filter((category) => category.parent === parent)
    .sort((left, right) => left.position - right.position)
    .map(({ code, name }) => ({ code, name }))
}

function pathLinks(store: Store, category: string): readonly ShopCategoryLink[] {
  return pathToRoot(store.category, category)
    .map(({ code, name }) => ({ code, name }))
    .reverse()
}
