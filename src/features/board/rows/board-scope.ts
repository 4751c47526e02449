import 'server-only'

import { sharedMemory } from '@/core/maps/shared-memory'
import { findByCode } from '@/core/catalogue/find-by-code'
import type { PreparedStore } from '@/core/engine/context/prepared-store'
import { scopeMatcher } from '@/core/engine/items/scope-matcher'
import { readWhat } from '@/core/notation/what-text'
import { EVERYTHING, type What } from '@/core/predicates/what'
import type { Store } from '@/core/store/store'
import { type ProductWithVariants, shownProducts } from '@/server/engine/catalogue-order'
import type { BoardFilter } from './board-url'

interface BoardScope {
  readonly what: What
  /** Why nothing is shown, where the address says something the store does not know; empty otherwise. */
  readonly problem: string
}

const NOTHING: What = { include: [], exclude: [] }

/** What of the catalogue the board shows, as its address says. */
export function boardScope(store: Store, { category, of }: BoardFilter): BoardScope {
  if (of !== '') {
    const read = readWhat(store, of)
    return read.ok ? { what: read.value, problem: '' } : { what: NOTHING, problem: read.problem }
  }
  if (category === null) return { what: EVERYTHING, problem: '' }
  const found = findByCode(store.category, category)
  if (!found) return { what: NOTHING, problem: `There is no category “${category}”.` }
  const term = { kind: 'category', category: found.id, descendants: true } as const
  return { what: { include: [term], exclude: [] }, problem: '' }
}

/** So many filters are kept for each state of the store: a board is read in many pieces. */
const MOST_KEPT = 8
const KEPT = sharedMemory(
  'board-scopes',
  () => new WeakMap<PreparedStore, Map<string, readonly ProductWithVariants[]>>(),
)

/** The products the board shows, with those of their variants that it shows. */
export function productsOfBoard(
  prepared: PreparedStore,
  filter: BoardFilter,
): readonly ProductWithVariants[] {
  const { category, of, text } = filter
  const { store } = prepared
  if (of === '') return shownProducts(store, { category, text })
  const kept = KEPT.get(prepared) ?? new Map<string, readonly ProductWithVariants[]>()
  KEPT.set(prepared, kept)
  const key = JSON.stringify([of, text])
  const known = kept.get(key)
  if (known) return known
  const found = inScope(prepared, boardScope(store, filter).what, text)
  const [oldest] = kept.keys()
  if (kept.size >= MOST_KEPT && oldest !== undefined) kept.delete(oldest)
  kept.set(key, found)
  return found
}

function inScope(prepared: PreparedStore, what: What, text: string): readonly ProductWithVariants[] {
  const { store, index } = prepared
  const isIn = scopeMatcher(prepared, what)
  return shownProducts(store, { category: null, text }).flatMap(({ product, variants }) => {
    const held = variants.filter(({ id }) => isIn(index.numberOf.get(id) as number))
    return held.length === 0 ? [] : [{ product, variants: held }]
  })
}
