import 'server-only'

import { itemName, type Product, type Variant } from '@/core/catalogue/product'
import { decimal } from '@/core/decimal/decimal'
import { answer } from '@/core/engine/ask'
import type { Answer } from '@/core/engine/explain/trace'
import { listedBasis, listedPrices } from '@/core/engine/listed-prices'
import { buyerContext } from '@/core/engine/context/buyer-context'
import type { PreparedStore } from '@/core/engine/context/prepared-store'
import type { PricingContext } from '@/core/engine/context/pricing-context'
import { openPricingContext } from '@/core/engine/price/open-pricing-context'
import { NO_FACTS } from '@/core/promotions/facts'
import { Slices } from '../doors/slices'
import { ownAddress } from '../doors/own-address'
import { findShownProduct, type ProductWithVariants, shownProducts } from '../engine/catalogue-order'

/** What somebody who has not signed in may see, as it stands at an instant (epoch milliseconds). */
interface GuestLook {
  readonly prepared: PreparedStore
  readonly at: number
}

type Opened = GuestLook & { readonly context: PricingContext }

function open(look: GuestLook): Opened | null {
  const opened = openPricingContext(look.prepared, buyerContext({ kind: 'guest' }, look.at))
  return opened.ok ? { ...look, context: opened.value } : null
}

/** Data of schema.org as JSON-LD (JSON-LD 1.1). */
export type LinkedData = Readonly<Record<string, unknown>>

/** What a guest may see of a product, for its page; `null` where that is nothing. */
export function productData(look: GuestLook, code: string): LinkedData | null {
  const opened = open(look)
  const found = findShownProduct(look.prepared.store, code)
  const told = opened && found && dataOf(opened, found)
  if (!told) return null
  return { '@context': 'https://schema.org', ...told }
}

/** Everything a guest may see, in pieces, as a feed of schema.org's products (DataFeed). */
export async function* feedText(look: GuestLook, name: string): AsyncGenerator<string> {
  const opened = open(look)
  const slices = new Slices()
  const head = JSON.stringify({
    ...{ '@context': 'https://schema.org', '@type': 'DataFeed', name, url: `${ownAddress()}/shop` },
    dateModified: new Date(look.at).toISOString(),
  })
  yield `${head.slice(0, -1)},"dataFeedElement":[`
  let isFirst = true
  for (const product of opened ? shownProducts(look.prepared.store, { category: null, text: '' }) : []) {
    const told = opened && dataOf(opened, product)
    await slices.rest()
    if (!told) continue
    yield `${isFirst ? '' : ','}\n${JSON.stringify(told)}`
    isFirst = false
  }
  yield '\n]}\n'
}

/** Addresses of the pages of products a guest may see. */
export async function guestPages(look: GuestLook): Promise<readonly string[]> {
  const opened = open(look)
  if (!opened) return []
  const products = await new Slices().map(
    shownProducts(look.prepared.store, { category: null, text: '' }),
    (product) => (dataOf(opened, product) ? [addressOf(product.product)] : []),
  )
  return products.flat()
}

function addressOf({ code }: Product): string {
  return `${ownAddress()}/shop/product/${encodeURIComponent(code)}`
}

/** Of one variant a Product with its offer, of several a ProductGroup; `null` where none may be seen. */
function dataOf(opened: Opened, { product, variants }: ProductWithVariants): LinkedData | null {
  const items = variants.flatMap((variant) => {
    const told = itemOf(opened, product, variant)
    return told ? [told] : []
  })
  const [first] = items
  if (!first || product.status !== 'active') return null
  const shared = {
    url: addressOf(product),
    ...(product.description !== '' && { description: product.description }),
  }
  if (variants.length === 1) return { ...first, ...shared }
  return {
    ...{ '@type': 'ProductGroup', productGroupID: product.code, name: product.name },
    ...{ ...shared, hasVariant: items },
  }
}

function itemOf(opened: Opened, product: Product, variant: Variant): LinkedData | null {
  const asked = answer(opened.prepared, {
    ...buyerContext({ kind: 'guest' }, opened.at),
    ...{ variant: variant.id, quantity: decimal(1), extras: [], basket: [], promotions: NO_FACTS },
  })
  if (variant.status !== 'active' || !asked.ok || !asked.value.see) return null
  const number = opened.prepared.index.numberOf.get(variant.id) as number
  const prices = listedPrices(opened.prepared, opened.context, number, asked.value)
  return {
    ...{ '@type': 'Product', name: itemName(product, variant), sku: variant.sku },
    ...(variant.gtin !== null && { gtin: variant.gtin }),
    ...(prices && { offers: offerOf(opened, variant, asked.value, prices) }),
  }
}

function offerOf(
  { prepared, context }: Opened,
  variant: Variant,
  asked: Answer,
  [one, ...more]: NonNullable<ReturnType<typeof listedPrices>>,
): LinkedData {
  const { currency } = context
  const priced = {
    ...{ '@type': 'UnitPriceSpecification', priceCurrency: currency },
    valueAddedTaxIncluded: listedBasis(prepared, context) === 'gross',
  }
  return {
    ...{ '@type': 'Offer', price: one.price, priceCurrency: currency },
    ...availabilityOf(prepared, variant, asked),
    priceSpecification: [
      { ...priced, price: one.price },
      ...more.map(({ from, price }) => ({
        ...{ ...priced, price },
        eligibleQuantity: { '@type': 'QuantitativeValue', minValue: from },
      })),
    ],
  }
}

/** Where it may not be bought as it stands, only asked for, nothing is said of it. */
function availabilityOf({ store }: PreparedStore, { id, product }: Variant, { buy }: Answer): LinkedData {
  if (!buy) return {}
  const isOut = store.outOfStock.has(id)
  const word = isOut ? (store.product.get(product)?.backOrder ? 'BackOrder' : 'OutOfStock') : 'InStock'
  return { availability: `https://schema.org/${word}` }
}
