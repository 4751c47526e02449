import 'server-only'

import { amountAt, referenceAmounts, shownAmounts } from '@/core/engine/amounts/amounts'
import type { Amounts } from '@/core/engine/context/prepared-amounts'
import { currencyViewInto } from '@/core/engine/context/currency-view'
import type { CurrencyView } from '@/core/engine/context/pricing-context'
import type { PreparedStore } from '@/core/engine/context/prepared-store'
import { toPrice } from '@/core/engine/lists/price-step'
import { scopeMatcher } from '@/core/engine/items/scope-matcher'
import type { PricingContext } from '@/core/engine/context/pricing-context'
import { type ItemFacts, type What, type WhatTerm, whatTermKey } from '@/core/predicates/what'
import { marginPercent } from '@/core/price/margin'
import { getSettings, priceDigitsOf } from '@/core/store/store'
import { Slices } from '@/server/doors/slices'
import type { RequestContext } from '@/server/engine/request-context'
import { soldVariants } from '@/server/engine/sold-variants'
import { formatPercent, rangeText } from '@/ui/format/amount'
import { withoutPriceSpan, withoutStock } from '@/ui/picker/what/narrowed'
import type { AttributeChoice, WhatMatched } from '@/ui/picker/what/what-choices'
import { histogramOf } from './histogram'
import { toChoice } from './what-choices'

const MOST_ROWS = 12
/** Of one attribute. */
const MOST_VALUES = 60
const MOST_NOTED = 3

/** What a scope matches of what can be sold, the products with the lowest margin first. */
export async function matchedBy(
  { prepared, pricingContext }: RequestContext,
  what: What,
): Promise<WhatMatched> {
  const { store, index } = prepared
  const items = await soldVariants(prepared)
  const sweep = new Sweep(
    prepared,
    items,
    what,
    currencyViewInto(prepared, pricingContext.currencyView, getSettings(store).currency),
  )
  const rows = new MatchedProducts(prepared, pricingContext)
  const slices = new Slices()
  for (const item of items) {
    if (slices.isDue()) await slices.rest()
    if (sweep.isIn(item)) rows.add(item)
  }
  const isIn = scopeMatcher(prepared, what)
  return {
    variants: sweep.variants,
    products: rows.count,
    extras: [...store.extra.values()].filter(
      ({ id, status }) => status === 'active' && isIn(index.numberOf.get(id) as number),
    ).length,
    rows: rows.lowestFirst(),
    ...sweep.byFiling(),
    prices: histogramOf(sweep.prices, 'by-ratio', priceDigitsOf(store, getSettings(store).currency)),
    margins: histogramOf(rows.margins, 'even'),
    stock: sweep.stock,
    currency: getSettings(store).currency,
    notes: sweep.notes(),
  }
}

type Item = Awaited<ReturnType<typeof soldVariants>>[number]

/** One pass over the variants that can be sold: which the scope holds, and what is among them to choose from. */
class Sweep {
  variants = 0
  /** Stored base prices of what the scope holds at any price; for a drawing. */
  readonly prices: number[] = []
  readonly stock = { inStock: 0, outOfStock: 0 }
  private readonly matched: Int32Array
  private readonly sold: Int32Array
  private readonly holds: (number: number) => boolean
  private readonly takesIn: (number: number) => boolean
  /** `null` where the scope says nothing of prices, or of stock: then what it holds is held anyway. */
  private readonly holdsAtAnyPrice: ((number: number) => boolean) | null
  private readonly holdsWithAnyStock: ((number: number) => boolean) | null
  private readonly base: Amounts
  private readonly unit: number
  private readonly leftOut: ReadonlySet<string>
  private readonly outThroughBranch = new Set<string>()

  constructor(
    private readonly prepared: PreparedStore,
    items: readonly Item[],
    private readonly what: What,
    home: CurrencyView,
  ) {
    const { variantSignatures } = prepared.index
    this.base = referenceAmounts(prepared, 'basePrice', home)
    this.unit = 10 ** home.digits
    this.matched = new Int32Array(variantSignatures)
    this.sold = soldBySignature(prepared, items)
    this.holds = scopeMatcher(prepared, what)
    this.takesIn = scopeMatcher(prepared, { ...what, exclude: [] })
    const loosened = (to: What) => {
      const isSame = to.include.length === what.include.length && to.exclude.length === what.exclude.length
      return isSame && what.include.length > 0 ? null : scopeMatcher(prepared, orEverything(to))
    }
    this.holdsAtAnyPrice = loosened(withoutPriceSpan(what))
    this.holdsWithAnyStock = loosened(withoutStock(what))
    this.leftOut = new Set(what.exclude.flatMap((term) => (term.kind === 'category' ? [term.category] : [])))
  }

  isIn({ number, product, variant, branches }: Item): boolean {
    const signature = this.prepared.index.signatureOf[number] as number
    const isHeld = this.holds(number)
    if (this.holdsWithAnyStock?.(number) ?? isHeld)
      this.stock[this.prepared.store.outOfStock.has(variant.id) ? 'outOfStock' : 'inStock'] += 1
    if (this.holdsAtAnyPrice?.(number) ?? isHeld) {
      const price = amountAt(this.base, number)
      if (!Number.isNaN(price)) this.prices.push(price / this.unit)
    }
    if (isHeld) {
      this.variants += 1
      this.matched[signature] = (this.matched[signature] as number) + 1
      return true
    }
    if (this.leftOut.size > 0 && product.categories.length > 1 && this.takesIn(number))
      if (branches.some((id) => this.leftOut.has(id))) this.outThroughBranch.add(product.name)
    return false
  }

  byFiling(): Pick<WhatMatched, 'branches' | 'attributes'> {
    const branches: Record<string, number> = {}
    const values = new Map<string, Map<string, { variants: number; matched: number }>>()
    const { signatureFacts } = this.prepared.index
    this.sold.forEach((sold, signature) => {
      if (sold === 0) return
      const { categories, attributes } = signatureFacts[signature] as ItemFacts
      const matched = this.matched[signature] as number
      if (matched > 0) for (const id of categories.keys()) branches[id] = (branches[id] ?? 0) + matched
      for (const [name, value] of Object.entries(attributes)) {
        const known = values.get(name) ?? new Map<string, { variants: number; matched: number }>()
        values.set(name, known)
        const count = known.get(value) ?? { variants: 0, matched: 0 }
        known.set(value, { variants: count.variants + sold, matched: count.matched + matched })
      }
    })
    const attributes = [...values]
      .sort(([left], [right]) => (left < right ? -1 : 1))
      .map(([name, of]) => this.attribute(name, of))
    return { branches, attributes: attributes.filter(({ values: shown }) => shown.length > 0) }
  }

  private attribute(
    name: string,
    counts: ReadonlyMap<string, { readonly variants: number; readonly matched: number }>,
  ): AttributeChoice {
    const named = new Set([...this.what.include, ...this.what.exclude].map(whatTermKey))
    const term = (value: string): WhatTerm => ({ kind: 'attribute', name, value })
    return {
      name,
      values: [...counts]
        .filter(
          ([value, { matched }]) => this.variants === 0 || matched > 0 || named.has(whatTermKey(term(value))),
        )
        .slice(0, MOST_VALUES)
        .map(([value, count]) => ({ ...toChoice(this.prepared.store, term(value)), value, ...count })),
    }
  }

  /** What is left out in one branch is out in its others too, which is easily forgotten. */
  notes(): WhatMatched['notes'] {
    const names = [...this.outThroughBranch]
    if (names.length === 0) return []
    return [
      `${names.slice(0, MOST_NOTED).join(', ')} ${names.length === 1 ? 'is' : 'are'} in other branches too. Left out here, they are out there as well.`,
    ]
  }
}

/** How many variants that can be sold have each signature; kept as long as they stay the same. */
const SOLD = new WeakMap<readonly Item[], Int32Array>()

function soldBySignature({ index }: PreparedStore, items: readonly Item[]): Int32Array {
  let sold = SOLD.get(items)
  if (!sold) {
    sold = new Int32Array(index.variantSignatures)
    for (const { number } of items) {
      const signature = index.signatureOf[number] as number
      sold[signature] = (sold[signature] as number) + 1
    }
    SOLD.set(items, sold)
  }
  return sold
}

function orEverything({ include, exclude }: What): What {
  return { include: include.length === 0 ? [{ kind: 'everything' }] : include, exclude }
}

interface MatchedProduct {
  readonly id: string
  readonly name: string
  variants: number
  /** The least and the most, in the smallest units of the currency looked at. */
  low: number
  high: number
  /** The largest share of a price that its cost takes, below 0 without any; and whose it is. */
  costShare: number
  worst: number
}

class MatchedProducts {
  /** At the base price in percent, of every variant with both amounts; for a drawing. */
  readonly margins: number[] = []
  private readonly products = new Map<string, MatchedProduct>()
  private latest: MatchedProduct | null = null
  private readonly base
  private readonly cost
  private readonly digits: number

  constructor(prepared: PreparedStore, { currencyView }: PricingContext) {
    this.base = referenceAmounts(prepared, 'basePrice', currencyView)
    this.cost = shownAmounts(prepared, 'cost', currencyView)
    this.digits = currencyView.digits
  }

  get count(): number {
    return this.products.size
  }

  add({ number, product }: Item): void {
    // Variants of one product come one after the other.
    const known = this.latest?.id === product.id ? this.latest : this.begin(product, number)
    known.variants += 1
    const price = amountAt(this.base, number)
    if (!(price > 0)) return
    known.low = Math.min(known.low, price)
    known.high = Math.max(known.high, price)
    const costShare = amountAt(this.cost, number) / price
    if (!(costShare >= 0)) return
    this.margins.push((1 - costShare) * 100)
    if (costShare > known.costShare) {
      known.costShare = costShare
      known.worst = number
    }
  }

  private begin({ id, name }: Item['product'], number: number): MatchedProduct {
    const known = this.products.get(id)
    if (known) return (this.latest = known)
    const begun = { id, name, variants: 0, low: Infinity, high: -Infinity, costShare: -1, worst: number }
    this.products.set(id, begun)
    return (this.latest = begun)
  }

  lowestFirst(): WhatMatched['rows'] {
    return [...this.products.values()]
      .sort((left, right) => right.costShare - left.costShare)
      .slice(0, MOST_ROWS)
      .map((row) => ({
        name: row.name,
        variants: row.variants,
        base: Number.isFinite(row.low)
          ? rangeText([toPrice(row.low, this.digits), toPrice(row.high, this.digits)], this.digits)
          : '',
        margin: row.costShare < 0 ? '' : this.marginAt(row.worst),
      }))
  }

  private marginAt(number: number): string {
    const price = toPrice(amountAt(this.base, number), this.digits)
    const cost = toPrice(amountAt(this.cost, number), this.digits)
    const margin = price === null || cost === null ? null : marginPercent(price, cost)
    return margin === null ? '' : formatPercent(margin)
  }
}
