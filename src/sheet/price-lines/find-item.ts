import 'server-only'

import { findByCode, findBySku } from '@/core/catalogue/find-by-code'
import type { WhatTerm } from '@/core/predicates/what'
import type { Store } from '@/core/store/store'

/** What a typed text names: a product's code, a SKU, or a category's code or name, in that order. */
export function findItem(store: Store, typed: string): WhatTerm | null {
  const text = typed.trim().toLowerCase()
  const is = (candidate: string) => candidate.toLowerCase() === text
  const variant = findBySku(store.variant, text)
  const product = findByCode(store.product, text)
  // A product with one variant often shares its SKU: the product is what people mean.
  if (product) return { kind: 'product', product: product.id }
  if (variant) return { kind: 'variant', variant: variant.id }
  const category = [...store.category.values()].find(({ code, name }) => is(code) || is(name))
  return category ? { kind: 'category', category: category.id, descendants: true } : null
}

const SUGGESTIONS = 12

/** Things whose code or name holds what was typed, to choose from. */
export function suggestItems(
  store: Store,
  typed: string,
): readonly { readonly value: string; readonly about: string }[] {
  const text = typed.trim().toLowerCase()
  if (text === '') return []
  const holds = (...texts: readonly string[]) => texts.some((each) => each.toLowerCase().includes(text))
  return [
    ...[...store.category.values()]
      .filter(({ name, code }) => holds(name, code))
      .map(({ name }) => ({ value: name, about: 'category' })),
    ...[...store.product.values()]
      .filter(({ name, code }) => holds(name, code))
      .map(({ name, code }) => ({ value: code, about: name })),
    ...[...store.variant.values()]
      .filter(({ sku, product }) => holds(sku, store.product.get(product)?.name ?? ''))
      .map(({ sku, options }) => ({ value: sku, about: Object.values(options).join(', ') })),
  ].slice(0, SUGGESTIONS)
}
