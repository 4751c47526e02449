import 'server-only'

import { inTreeOrder } from '@/core/catalogue/category'
import { compare, type Decimal } from '@/core/decimal/decimal'
import { factsOf } from '@/core/engine/catalogue-index'
import { amountAt, referenceAmounts } from '@/core/engine/amounts'
import { toPrice } from '@/core/engine/price-step'
import { writeWhat } from '@/core/notation/what-text'
import { matchWhat, type What, type WhatTerm } from '@/core/predicates/what'
import { marginPercent } from '@/core/price/margin'
import type { Store } from '@/core/store/store'
import { Slices } from '@/server/doors/slices'
import { shownProducts } from '@/server/engine/catalogue-order'
import type { Outlook } from '@/server/engine/look-from'
import { soldVariants } from '@/server/engine/sold-variants'
import { formatPercent, rangeText } from '@/ui/format/amount'
import { whatPhrase } from '@/ui/format/rule-phrases'
import type {
  AttributeChoice,
  FoundItem,
  WhatChoice,
  WhatChoices,
  WhatMatched,
} from '@/ui/picker/what/what-choices'

function toChoice(store: Store, term: WhatTerm, name = whatPhrase(term, store)): WhatChoice {
  return { term, name, text: writeWhat(store, { include: [term], exclude: [] }) }
}

export function namedTerms(store: Store, { include, exclude }: What): readonly WhatChoice[] {
  return [...include, ...exclude].map((term) => toChoice(store, term))
}

/** Everything of the catalogue a rule can name but single products, which are found by typing. */
export async function whatChoices({ prepared }: Outlook, initial: What): Promise<WhatChoices> {
  const { store } = prepared
  const counts = new Map<string, number>()
  const values = new Map<string, Map<string, number>>()
  const slices = new Slices()
  for (const { variant, product, branches } of await soldVariants(prepared)) {
    if (slices.isDue()) await slices.rest()
    for (const id of branches) counts.set(id, (counts.get(id) ?? 0) + 1)
    for (const [name, value] of Object.entries({ ...product.attributes, ...variant.options })) {
      const known = values.get(name) ?? new Map<string, number>()
      values.set(name, known.set(value, (known.get(value) ?? 0) + 1))
    }
  }
  return {
    branches: inTreeOrder(store.category)
      .filter(({ category }) => category.status === 'active')
      .map(({ category: { id, name, parent }, depth }) => ({
        ...toChoice(store, { kind: 'category', category: id, descendants: true }, name),
        id,
        parent,
        depth,
        variants: counts.get(id) ?? 0,
      })),
    attributes: [...values]
      .sort(([left], [right]) => (left < right ? -1 : 1))
      .map(([name, of]): AttributeChoice => ({
        name,
        values: [...of].slice(0, MOST_VALUES).map(([value, variants]) => ({
          ...toChoice(store, { kind: 'attribute', name, value }, value),
          variants,
        })),
      })),
    others: [
      { ...toChoice(store, { kind: 'stock', state: 'in-stock' }, 'In stock'), kind: 'Stock' },
      { ...toChoice(store, { kind: 'stock', state: 'out-of-stock' }, 'Out of stock'), kind: 'Stock' },
      ...[...store['price-family'].values()]
        .filter(({ status }) => status === 'active')
        .map(({ id, name }) => ({
          ...toChoice(store, { kind: 'family', family: id }, name),
          kind: 'Price families',
        })),
      ...[...store.extra.values()]
        .filter(({ status }) => status === 'active')
        .map(({ id, name }) => ({ ...toChoice(store, { kind: 'extra', extra: id }, name), kind: 'Extras' })),
    ],
    named: namedTerms(store, initial),
  }
}

/** Of one attribute. */
const MOST_VALUES = 60
const MOST_FOUND = 12

/** Products whose name, code or SKU holds some words, and their variants where the words name one. */
export async function findItems({ prepared }: Outlook, words: string): Promise<readonly FoundItem[]> {
  const { store } = prepared
  const text = words.trim()
  if (text === '') return []
  const branchesOf = new Map(
    (await soldVariants(prepared)).map(({ product, branches }) => [product.id, branches]),
  )
  return shownProducts(store, { category: null, text })
    .slice(0, MOST_FOUND)
    .flatMap(({ product, variants }): readonly FoundItem[] => {
      const branches = branchesOf.get(product.id) ?? []
      const isOfOne = variants.length === 1 && !product.name.toLowerCase().includes(text.toLowerCase())
      const own = {
        ...toChoice(store, { kind: 'product', product: product.id }),
        about: product.code,
        branches,
      }
      return isOfOne
        ? [
            own,
            ...variants.map(({ id, sku }) => ({
              ...toChoice(store, { kind: 'variant', variant: id }),
              about: sku,
              branches,
            })),
          ]
        : [own]
    })
}

const MOST_ROWS = 12

/** What a scope matches of what can be sold, the products with the lowest margin first. */
export async function matchedBy({ prepared, situation }: Outlook, what: What): Promise<WhatMatched> {
  const { store, index } = prepared
  const digits = situation.lens.digits
  const amount = (field: 'basePrice' | 'cost', number: number) =>
    toPrice(amountAt(referenceAmounts(prepared, field, situation.lens), number), digits)
  const products = new Map<string, { name: string; count: number; base: Decimal[]; margin: Decimal | null }>()
  const stillIn = new Set<string>()
  const slices = new Slices()
  let variants = 0
  const leftOut = new Set(what.exclude.flatMap((term) => (term.kind === 'category' ? [term.category] : [])))
  for (const { number, product } of await soldVariants(prepared)) {
    if (slices.isDue()) await slices.rest()
    const match = matchWhat(what, factsOf(store, index, number))
    if (!match.matches) {
      if (match.because === 'excluded' && match.by.kind === 'category' && product.categories.length > 1)
        stillIn.add(product.name)
      continue
    }
    variants += 1
    const known = products.get(product.id) ?? { name: product.name, count: 0, base: [], margin: null }
    products.set(product.id, known)
    known.count += 1
    const [base, cost] = [amount('basePrice', number), amount('cost', number)]
    if (base !== null) known.base.push(base)
    const margin = base === null || cost === null ? null : marginPercent(base, cost)
    if (margin !== null && (known.margin === null || compare(margin, known.margin) < 0)) known.margin = margin
  }
  const rows = [...products.values()].sort((left, right) =>
    left.margin === null ? 1 : right.margin === null ? -1 : compare(left.margin, right.margin),
  )
  return {
    variants,
    products: products.size,
    extras: [...store.extra.values()].filter(
      ({ id, status }) =>
        status === 'active' &&
        matchWhat(what, factsOf(store, index, index.numberOf.get(id) as number)).matches,
    ).length,
    rows: rows.slice(0, MOST_ROWS).map(({ name, count, base, margin }) => ({
      name,
      variants: count,
      base: rangeText(base, digits),
      margin: margin === null ? '' : formatPercent(margin),
    })),
    notes:
      leftOut.size > 0 && stillIn.size > 0
        ? [
            `${[...stillIn].slice(0, 3).join(', ')} ${stillIn.size === 1 ? 'is' : 'are'} in other branches too. Left out here, they are out there as well.`,
          ]
        : [],
  }
}
