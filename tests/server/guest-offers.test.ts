import { decimal } from '@/core/decimal/decimal'
import { answer } from '@/core/engine/ask'
import { buyerContext } from '@/core/engine/context/buyer-context'
import { NO_FACTS } from '@/core/promotions/facts'
import { currentInstant } from '@/server/clock'
import { feedText, guestPages, type LinkedData, productData } from '@/server/exchange/guest-offers'
import { sitemap } from '@/server/exchange/sitemap'
import { liveView } from '@/server/views/view'
import { XMLParser, XMLValidator } from 'fast-xml-parser'
import { demoSteppe } from './demo-steppe'

const demo = demoSteppe()
const at = currentInstant().getTime()
const look = () => ({ prepared: liveView(demo.current).prepared, at })

/** Properties of schema.org's classes, those of their parents included (checks.md, 7.5: X80–X82; the rest from memory). */
const KNOWN: Readonly<Record<string, readonly string[]>> = {
  DataFeed: ['@context', 'name', 'url', 'dateModified', 'dataFeedElement'],
  Product: ['@context', 'name', 'sku', 'gtin', 'description', 'url', 'offers'],
  ProductGroup: ['@context', 'productGroupID', 'name', 'description', 'url', 'hasVariant'],
  Offer: ['price', 'priceCurrency', 'availability', 'priceSpecification'],
  UnitPriceSpecification: ['price', 'priceCurrency', 'valueAddedTaxIncluded', 'eligibleQuantity'],
  QuantitativeValue: ['minValue'],
}

/** Every thing in a document, with its class. */
function thingsIn(value: unknown): readonly LinkedData[] {
  if (Array.isArray(value)) return value.flatMap(thingsIn)
  if (typeof value !== 'object' || value === null) return []
  return [value as LinkedData, ...Object.values(value).flatMap(thingsIn)]
}

async function feed() {
  let text = ''
  for await (const piece of feedText(look(), 'Steppe')) text += piece
  return JSON.parse(text) as { readonly dataFeedElement: readonly LinkedData[] }
}

test('the feed names schema.org’s properties alone, and amounts as it writes them', async () => {
  const things = thingsIn(await feed())
  for (const thing of things) {
    const { '@type': type, ...rest } = thing
    expect([type, Object.keys(rest).filter((key) => !KNOWN[String(type)]?.includes(key))]).toEqual([type, []])
    if ('price' in rest) expect(String(rest['price'])).toMatch(/^\d+(\.\d+)?$/)
  }
  expect(things.filter((thing) => thing['@type'] === 'Offer').length).toBeGreaterThan(100)
})

test('it holds what a guest may see and nothing else, at what a guest pays', async () => {
  const { prepared } = look()
  const items = thingsIn((await feed()).dataFeedElement).filter((thing) => thing['@type'] === 'Product')
  const told = new Map(items.map((item) => [String(item['sku']), item]))
  for (const variant of prepared.store.variant.values()) {
    const asked = answer(prepared, {
      ...buyerContext({ kind: 'guest' }, at),
      ...{ variant: variant.id, quantity: decimal(1), extras: [], basket: [], promotions: NO_FACTS },
    })
    if (!asked.ok) throw new Error(variant.sku)
    const { see, seePrice, tax, promoted } = asked.value
    expect([variant.sku, told.has(variant.sku)]).toEqual([variant.sku, see && variant.status === 'active'])
    const offer = told.get(variant.sku)?.['offers'] as LinkedData | undefined
    if (!see) continue
    expect(offer !== undefined).toBe(seePrice && tax !== null)
    if (offer && tax && !promoted) expect(offer['price']).toBe(tax.gross)
  }
})

test('a product’s page says the same of it; what is hidden has nothing', () => {
  const { store } = look().prepared
  const told = productData(look(), 'FR-BR')
  expect(told).toMatchObject({
    ...{ '@context': 'https://schema.org', '@type': 'ProductGroup', productGroupID: 'FR-BR' },
    url: 'http://127.0.0.1:4000/shop/product/FR-BR',
  })
  expect(JSON.stringify(told)).not.toContain('13.1')
  expect(productData(look(), 'nowhere')).toBeNull()
  const nuclei = [...store.category.values()].find(({ code }) => code === 'nuclei')!
  const hidden = [...store.product.values()].find(({ categories }) => categories.includes(nuclei.id))!
  expect(JSON.stringify(productData(look(), hidden.code))).not.toContain('price')
})

test('the sitemap leads to every page a guest may open; a large one is an index of its parts', async () => {
  const pages = await guestPages(look())
  const text = sitemap(pages, 0)
  expect(XMLValidator.validate(text)).toBe(true)
  const read = new XMLParser({ isArray: (name) => name === 'url' }).parse(text) as {
    readonly urlset: { readonly url: readonly { readonly loc: string }[] }
  }
  expect(read.urlset.url.map(({ loc }) => loc)).toEqual(pages)
  expect(new Set(pages).size).toBe(pages.length)
  const many = Array.from({ length: 120_000 }, (_, number) => `http://x/${number}`)
  expect(sitemap(many, 0).match(/<loc>/g)).toHaveLength(3)
  const parts = [1, 2, 3].map((part) => sitemap(many, part).match(/http:\/\/x\/\d+/g)?.length)
  expect(parts).toEqual([50_000, 50_000, 20_000])
})
