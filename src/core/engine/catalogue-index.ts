import { itemFacts } from '../catalogue/item-facts'
import { resolveValue } from '../catalogue/product'
import type { ItemFacts } from '../predicates/what'
import { getSettings, type Store } from '../store/store'
import { toUnits } from './price-step'

/**
 * The catalogue numbered for sweeping: variants that no rule can tell apart above the product (the same
 * categories, attributes and options) have one *signature* and stand next to each other.
 */
export interface CatalogueIndex {
  /** Ids by number. */
  readonly variants: readonly string[]
  readonly numberOf: ReadonlyMap<string, number>
  readonly numbersOfProduct: ReadonlyMap<string, readonly number[]>
  /** Facts of each variant, by number. */
  readonly facts: readonly ItemFacts[]
  /** Signature of each variant, by number. */
  readonly signatureOf: Int32Array
  /** The first variant of each signature, and the number of variants at the end. */
  readonly signatureStarts: Int32Array
}

export function indexCatalogue(store: Store): CatalogueIndex {
  const entries: { id: string; product: string; facts: ItemFacts; signature: string }[] = []
  for (const variant of store.variant.values()) {
    const product = store.product.get(variant.product)
    if (!product) throw new RangeError(`variant ${variant.id} has no product`)
    const facts = itemFacts(store.category, product, variant)
    entries.push({ id: variant.id, product: product.id, facts, signature: signatureText(facts) })
  }
  entries.sort((left, right) =>
    left.signature < right.signature ? -1 : left.signature > right.signature ? 1 : 0,
  )

  const signatureOf = new Int32Array(entries.length)
  const starts: number[] = []
  const numbersOfProduct = new Map<string, number[]>()
  entries.forEach(({ product, signature }, number) => {
    if (number === 0 || signature !== entries[number - 1]?.signature) starts.push(number)
    signatureOf[number] = starts.length - 1
    const numbers = numbersOfProduct.get(product)
    if (numbers) numbers.push(number)
    else numbersOfProduct.set(product, [number])
  })

  return {
    variants: entries.map(({ id }) => id),
    numberOf: new Map(entries.map(({ id }, number) => [id, number])),
    numbersOfProduct,
    facts: entries.map(({ facts }) => facts),
    signatureOf,
    signatureStarts: Int32Array.from([...starts, entries.length]),
  }
}

/** Base price of each variant in smallest units, by number; NaN where there is none. */
export function baseUnits(store: Store, index: CatalogueIndex): Float64Array {
  const { priceDigits } = getSettings(store)
  const units = new Float64Array(index.variants.length)
  index.variants.forEach((id, number) => {
    units[number] = baseUnitsOf(store, id, priceDigits)
  })
  return units
}

export function baseUnitsOf(store: Store, variantId: string, digits: number): number {
  const variant = store.variant.get(variantId)
  const product = variant && store.product.get(variant.product)
  if (!variant || !product) return Number.NaN
  const { value } = resolveValue(product, variant, 'basePrice')
  return value === null ? Number.NaN : toUnits(value, digits)
}

function signatureText({ categories, attributes }: ItemFacts): string {
  const branches = [...categories].map(([id, distance]) => `${id}:${distance}`).sort()
  const values = Object.entries(attributes)
    .map(([name, value]) => `${name}=${value}`)
    .sort()
  return JSON.stringify([branches, values])
}
