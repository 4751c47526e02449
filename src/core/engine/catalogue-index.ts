import { categoriesOf, itemFacts } from '../catalogue/item-facts'
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
  /** Signatures below each category, and with each `name=value` of an attribute. */
  readonly signaturesOf: ReadonlyMap<string, readonly number[]>
}

export function indexCatalogue(store: Store): CatalogueIndex {
  const entries: { id: string; product: string; facts: ItemFacts; signature: string }[] = []
  const branches = new Map<string, { categories: ReadonlyMap<string, number>; text: string }>()
  for (const variant of store.variant.values()) {
    const product = store.product.get(variant.product)
    if (!product) throw new RangeError(`variant ${variant.id} has no product`)
    let branch = branches.get(product.id)
    if (!branch) {
      const categories = categoriesOf(store.category, product)
      branches.set(product.id, (branch = { categories, text: branchText(categories) }))
    }
    const facts = itemFacts(product, variant, branch.categories)
    const signature = `${branch.text}
${attributeText(facts.attributes)}`
    entries.push({ id: variant.id, product: product.id, facts, signature })
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
    signaturesOf: gatherSignatures(starts.map((start) => (entries[start] as (typeof entries)[0]).facts)),
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

/** The key of an attribute's value in `signaturesOf`. */
export function attributeKey(name: string, value: string): string {
  return JSON.stringify([name, value])
}

function gatherSignatures(facts: readonly ItemFacts[]): ReadonlyMap<string, readonly number[]> {
  const gathered = new Map<string, number[]>()
  facts.forEach(({ categories, attributes }, signature) => {
    const keys = [
      ...categories.keys(),
      ...Object.entries(attributes).map(([name, value]) => attributeKey(name, value)),
    ]
    for (const key of keys) {
      const known = gathered.get(key)
      if (known) known.push(signature)
      else gathered.set(key, [signature])
    }
  })
  return gathered
}

function branchText(categories: ReadonlyMap<string, number>): string {
  return JSON.stringify([...categories].map(([id, distance]) => `${id}:${distance}`).sort())
}

function attributeText(attributes: ItemFacts['attributes']): string {
  return JSON.stringify(Object.entries(attributes).sort(([left], [right]) => (left < right ? -1 : 1)))
}
