import { categoriesOf, extraFacts, itemFacts } from '../catalogue/item-facts'
import type { Product } from '../catalogue/product'
import type { ItemFacts } from '../predicates/what'
import type { Store } from '../store/store'

/**
 * Everything that has a price, numbered for sweeping: variants that no rule can tell apart above the product
 * (the same categories, family, attributes and options) have one *signature* and stand next to each other.
 * Extras come after all variants.
 */
export interface CatalogueIndex {
  /** Ids by number: variants first, then extras. */
  readonly items: readonly string[]
  /** How many of them are variants. */
  readonly variantCount: number
  readonly numberOf: ReadonlyMap<string, number>
  readonly numbersOfProduct: ReadonlyMap<string, readonly number[]>
  /** The first item of each signature, and the number of items at the end. */
  readonly signatureStarts: Int32Array
  /** Signature of each item, by number. */
  readonly signatureOf: Int32Array
  /** Signatures below each category, of each family, and with each `name=value` of an attribute. */
  readonly signaturesOf: ReadonlyMap<string, readonly number[]>
  /** Signatures of variants; those of extras come after them. */
  readonly variantSignatures: number
}

export function indexCatalogue(store: Store): CatalogueIndex {
  const numbering = new SignatureNumbering()
  const variants: string[] = []
  const signatures: number[] = []
  const branches = new Map<string, string>()
  for (const variant of store.variant.values()) {
    const product = store.product.get(variant.product)
    if (!product) throw new RangeError(`variant ${variant.id} has no product`)
    let branch = branches.get(product.id)
    if (branch === undefined) branches.set(product.id, (branch = branchText(product)))
    const family = variant.family ?? product.family ?? ''
    variants.push(variant.id)
    signatures.push(
      numbering.numberOf(`${branch}\n${family}\n${optionText(variant.options)}`, variant.id),
    )
  }

  const variantSignatures = numbering.firsts.length
  const extras = [...store.extra.keys()]
  extras.forEach((id, at) => signatures.push(variantSignatures + at))
  return numberItems(store, [...variants, ...extras], variants.length, signatures, numbering.firsts)
}

class SignatureNumbering {
  /** The first variant found with each signature. */
  readonly firsts: string[] = []
  private readonly known = new Map<string, number>()

  numberOf(text: string, variant: string): number {
    const known = this.known.get(text)
    if (known !== undefined) return known
    const signature = this.firsts.length
    this.known.set(text, signature)
    this.firsts.push(variant)
    return signature
  }
}

/** Counting sort by signature: items of one keep the order they came in. */
function numberItems(
  store: Store,
  found: readonly string[],
  variantCount: number,
  signatures: readonly number[],
  firsts: readonly string[],
): CatalogueIndex {
  const count = firsts.length + found.length - variantCount
  const signatureStarts = new Int32Array(count + 1)
  for (const signature of signatures) (signatureStarts[signature + 1] as number) += 1
  for (let at = 0; at < count; at += 1)
    (signatureStarts[at + 1] as number) += signatureStarts[at] as number
  const next = Int32Array.from(signatureStarts)
  const items = new Array<string>(found.length)
  const signatureOf = new Int32Array(found.length)
  const numberOf = new Map<string, number>()
  const numbersOfProduct = new Map<string, number[]>()
  found.forEach((id, at) => {
    const signature = signatures[at] as number
    const number = next[signature] as number
    next[signature] = number + 1
    items[number] = id
    signatureOf[number] = signature
    numberOf.set(id, number)
    if (at >= variantCount) return
    const product = (store.variant.get(id) as { product: string }).product
    const numbers = numbersOfProduct.get(product)
    if (numbers) numbers.push(number)
    else numbersOfProduct.set(product, [number])
  })
  return {
    items,
    variantCount,
    numberOf,
    numbersOfProduct,
    signatureStarts,
    signatureOf,
    signaturesOf: gatherSignatures(store, firsts),
    variantSignatures: firsts.length,
  }
}

/**
 * What predicates need to know about an item, by its number.
 *
 * Errors  throws `RangeError` for a number that is none.
 */
export function factsOf(store: Store, index: CatalogueIndex, number: number): ItemFacts {
  const id = index.items[number] ?? ''
  if (number >= index.variantCount) {
    const extra = store.extra.get(id)
    if (!extra) throw new RangeError(`there is no item ${number}`)
    return extraFacts(extra)
  }
  const variant = store.variant.get(id)
  const product = variant && store.product.get(variant.product)
  if (!variant || !product) throw new RangeError(`there is no item ${number}`)
  return itemFacts(product, variant, categoriesOf(store.category, product))
}

/** The key of an attribute's value in `signaturesOf`. */
export function attributeKey(name: string, value: string): string {
  return JSON.stringify([name, value])
}

function gatherSignatures(store: Store, firsts: readonly string[]): ReadonlyMap<string, readonly number[]> {
  const gathered = new Map<string, number[]>()
  firsts.forEach((id, signature) => {
    const variant = store.variant.get(id)
    const product = variant && store.product.get(variant.product)
    if (!variant || !product) return
    const { categories, attributes, family } = itemFacts(
      product,
      variant,
      categoriesOf(store.category, product),
    )
    const keys = [
      ...categories.keys(),
      ...(family === null ? [] : [family]),
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

function branchText({ categories, attributes }: Product): string {
  return `${[...categories].sort().join('\t')}\n${optionText(attributes)}`
}

/** A record read back from a database may name the same values in another order. */
function optionText(values: Readonly<Record<string, string>>): string {
  const names = Object.keys(values)
  if (names.length === 0) return ''
  if (names.length > 1) names.sort()
  let text = ''
  for (const name of names) text += `${name}=${values[name] ?? ''}\t`
  return text
}
