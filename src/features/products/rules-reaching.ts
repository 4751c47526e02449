import 'server-only'

import type { Variant } from '@/core/catalogue/product'
import { factsOf } from '@/core/engine/items/catalogue-index'
import type { PreparedStore } from '@/core/engine/context/prepared-store'
import { matchWhat, type WhatTerm } from '@/core/predicates/what'

/** Tells the terms that reach some variants through what they are part of; those that name them, or everything, do not. */
export function reachesOtherwise(
  { store, index }: PreparedStore,
  variants: readonly Variant[],
  own: WhatTerm['kind'],
): (term: WhatTerm) => boolean {
  const items = variants.flatMap(({ id }) => {
    const number = index.numberOf.get(id)
    return number === undefined ? [] : [factsOf(store, index, number)]
  })
  const named = new Set(variants.flatMap(({ id, product }) => [id, product]))
  return (term) => {
    if (term.kind === own) return false
    switch (term.kind) {
      // Most lines name items, which an id settles.
      case 'variant':
        return named.has(term.variant)
      case 'product':
        return named.has(term.product)
      case 'everything':
      case 'extra':
        return false
      default:
        return items.some((item) => matchWhat({ include: [term], exclude: [] }, item).matches)
    }
  }
}
