import { categoriesOf, extraFacts, itemFacts, ownFacts } from '../../catalogue/item-facts'
import type { Product } from '../../catalogue/product'
import type { ItemFacts } from '../../predicates/what'
import { eachInSteps, type Steps } from '../../steps/steps'
import type { Store } from '../../store/store'

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
  /** What rules above the product know of each signature of variants. */
  readonly signatureFacts: readonly ItemFacts[]
}

export function* indexCatalogue(store: Store): Steps<CatalogueIndex> {
  const ids: string[] = []
  const products: (string | null)[] = []
  const signatures: number[] = []
  const firsts: string[] = []
  const branches = new Branches()
  let product: Product | undefined
  let branch: Branch | undefined
  yield* eachInSteps(store.variant.values(), (variant) => {
    // Variants of one product mostly come one after the other.
    if (product === undefined || product.id !== variant.product) {
      product = store.product.get(variant.product)
      if (!product) throw new RangeError(`variant ${variant.id} has no product`)
      branch = branches.of(product)
    }
    const known = (branch as Branch).signatures(variant.family ?? product.family, variant.options)
    let signature = known.map.get(known.key)
    if (signature === undefined) {
      signature = firsts.length
      known.map.set(known.key, signature)
      firsts.push(variant.id)
    }
    ids.push(variant.id)
    products.push(product.id)
    signatures.push(signature)
  })
  const variantCount = ids.length
  let signature = firsts.length
  for (const id of store.extra.keys()) {
    ids.push(id)
    products.push(null)
    signatures.push(signature++)
  }
  return yield* numberItems({ ids, products, signatures }, variantCount, signature, {
    ...gatherSignatures(store, firsts),
    variantSignatures: firsts.length,
  })
}

/** All items in the order they came in, a column a fact. */
interface FoundItems {
  readonly ids: readonly string[]
  /** `null` for an extra. */
  readonly products: readonly (string | null)[]
  readonly signatures: readonly number[]
}

/** Products filed alike share the signatures of their variants. */
class Branches {
  private readonly byText = new Map<string, Branch>()

  of(product: Product): Branch {
    const text = branchText(product)
    const known = this.byText.get(text) ?? new Branch()
    this.byText.set(text, known)
    return known
  }
}

/** The signatures of variants of products filed alike. */
class Branch {
  /** By the name of the one option axis, as nearly all have. */
  private readonly byAxis = new Map<string, Map<string, number>>()
  private readonly others = new Map<string, number>()

  signatures(family: string | null, options: Readonly<Record<string, string>>) {
    const [axis, second] = Object.keys(options)
    if (family !== null || axis === undefined || second !== undefined)
      return { map: this.others, key: `${family ?? ''}\n${optionText(options)}` }
    let map = this.byAxis.get(axis)
    if (!map) this.byAxis.set(axis, (map = new Map()))
    return { map, key: options[axis] ?? '' }
  }
}

/** Counting sort by signature: items of one keep the order they came in. */
function* numberItems(
  { ids, products, signatures }: FoundItems,
  variantCount: number,
  count: number,
  facts: Pick<CatalogueIndex, 'signaturesOf' | 'variantSignatures' | 'signatureFacts'>,
): Steps<CatalogueIndex> {
  const signatureStarts = new Int32Array(count + 1)
  for (const signature of signatures) (signatureStarts[signature + 1] as number) += 1
  for (let at = 0; at < count; at += 1) (signatureStarts[at + 1] as number) += signatureStarts[at] as number
  const next = Int32Array.from(signatureStarts)
  const items = new Array<string>(ids.length)
  const signatureOf = new Int32Array(ids.length)
  const numberOf = new Map<string, number>()
  const numbersOfProduct = new Map<string, number[]>()
  let last: string | null = null
  let numbers: number[] = []
  yield* eachInSteps(ids.keys(), (at) => {
    const id = ids[at] as string
    const signature = signatures[at] as number
    const number = next[signature] as number
    next[signature] = number + 1
    items[number] = id
    signatureOf[number] = signature
    numberOf.set(id, number)
    const product = products[at] as string | null
    if (product === null) return
    if (product !== last) {
      last = product
      numbers = numbersOfProduct.get(product) ?? []
      if (numbers.length === 0) numbersOfProduct.set(product, numbers)
    }
    numbers.push(number)
  })
  return { items, variantCount, numberOf, numbersOfProduct, signatureStarts, signatureOf, ...facts }
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
  // What its signature shares need not be gathered again.
  const shared = index.signatureFacts[index.signatureOf[number] as number] as ItemFacts
  const own = ownFacts(product, variant, store)
  return {
    variant: own.variant,
    product: own.product,
    categories: shared.categories,
    attributes: shared.attributes,
    family: shared.family,
    basePrice: own.basePrice,
    stock: own.stock,
    extra: null,
  }
}

/** The key of an attribute's value in `signaturesOf`. */
export function attributeKey(name: string, value: string): string {
  return JSON.stringify([name, value])
}

function gatherSignatures(
  store: Store,
  firsts: readonly string[],
): Pick<CatalogueIndex, 'signaturesOf' | 'signatureFacts'> {
  const signaturesOf = new Map<string, number[]>()
  const signatureFacts = firsts.map((id, signature) => {
    const variant = store.variant.get(id)
    const product = variant && store.product.get(variant.product)
    if (!variant || !product) throw new RangeError(`there is no variant ${id}`)
    const facts = itemFacts(product, variant, categoriesOf(store.category, product), store)
    const keys = [
      ...facts.categories.keys(),
      ...(facts.family === null ? [] : [facts.family]),
      ...Object.entries(facts.attributes).map(([name, value]) => attributeKey(name, value)),
    ]
    for (const key of keys) {
      const known = signaturesOf.get(key)
      if (known) known.push(signature)
      else signaturesOf.set(key, [signature])
    }
    return unnamed(facts)
  })
  return { signaturesOf, signatureFacts }
}

/** Facts no term that names an item, or looks at its price or stock, matches. */
function unnamed(facts: ItemFacts): ItemFacts {
  return { ...facts, variant: '', product: '', basePrice: null, stock: '' as ItemFacts['stock'] }
}

function branchText({ categories, attributes }: Product): string {
  const filed = categories.length === 1 ? categories[0] : [...categories].sort().join('\t')
  return `${filed}\n${optionText(attributes)}`
}

/** A record read back from a database may name the same values in another order. */
function optionText(values: Readonly<Record<string, string>>): string {
  const names = Object.keys(values)
  if (names.length < 2) {
    const [only] = names
    return only === undefined ? '' : `${only}=${values[only] ?? ''}`
  }
  return names
    .sort()
    .map((name) => `${name}=${values[name] ?? ''}`)
    .join('\t')
}
