import 'server-only'

import { itemName } from '@/core/catalogue/product'
import { inTreeOrder } from '@/core/catalogue/category'
import { writeWhat } from '@/core/notation/what-text'
import type { What, WhatTerm } from '@/core/predicates/what'
import type { Store } from '@/core/store/store'
import { Slices } from '@/server/doors/slices'
import { shownProducts } from '@/server/engine/catalogue-order'
import type { RequestContext } from '@/server/engine/request-context'
import { soldVariants } from '@/server/engine/sold-variants'
import { whatPhrase } from '@/ui/format/rule-phrases'
import type { FoundItem, VariantFound, WhatChoice, WhatChoices } from '@/ui/picker/what/what-choices'

export function toChoice(store: Store, term: WhatTerm, name = whatPhrase(term, store)): WhatChoice {
  return { term, name, text: writeWhat(store, { include: [term], exclude: [] }) }
}

export function namedTerms(store: Store, { include, exclude }: What): readonly WhatChoice[] {
  return [...include, ...exclude].map((term) => toChoice(store, term))
}

/** What a rule can be for that stands in a list of its own; single products are found by typing. */
export async function whatChoices({ prepared }: RequestContext, initial: What): Promise<WhatChoices> {
  const { store } = prepared
  const counts = new Map<string, number>()
  const slices = new Slices()
  for (const { branches } of await soldVariants(prepared)) {
    if (slices.isDue()) await slices.rest()
    for (const id of branches) counts.set(id, (counts.get(id) ?? 0) + 1)
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
    others: [
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

const MOST_FOUND = 12

/** Variants whose SKU, or whose product's name, holds some words: "Frame nails, 500 g". */
export function findVariants({ prepared }: RequestContext, words: string): readonly VariantFound[] {
  const text = words.trim()
  if (text === '') return []
  return shownProducts(prepared.store, { category: null, text })
    .flatMap(({ product, variants }) =>
      variants.map((variant) => ({
        sku: variant.sku,
        name: itemName(product, variant),
      })),
    )
    .slice(0, MOST_FOUND)
}

/** Products whose name, code or SKU holds some words, and their variants where the words name one. */
export async function findItems({ prepared }: RequestContext, words: string): Promise<readonly FoundItem[]> {
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
