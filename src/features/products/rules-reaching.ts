import 'server-only'

import type { Variant } from '@/core/catalogue/product'
import { factsOf } from '@/core/engine/catalogue-index'
import type { PreparedStore } from '@/core/engine/prepared-store'
import { matchWhat, type WhatTerm } from '@/core/predicates/what'
import { type Mention, mentionsOfItem } from '@/sheet/effect/mentions'

/** Rules for what some variants are part of; those for everything, and those that name them, left out. */
export function reachedOtherwise(
  { store, index }: PreparedStore,
  variants: readonly Variant[],
  own: WhatTerm['kind'],
): readonly Mention[] {
  const items = variants.flatMap(({ id }) => {
    const number = index.numberOf.get(id)
    return number === undefined ? [] : [factsOf(store, index, number)]
  })
  return mentionsOfItem(
    store,
    (term) =>
      term.kind !== 'everything' &&
      term.kind !== own &&
      items.some((item) => matchWhat({ include: [term], exclude: [] }, item).matches),
  )
}
