import 'server-only'

import { pathToRoot } from '@/core/catalogue/category'
import { movedTo } from '@/core/catalogue/move-category'
import type { PriceLine } from '@/core/price/price-list'
import type { Store } from '@/core/store/store'
import type { ChangeRequest } from '@/server/changes/commit'
import { revisionAsOf, revisionOf } from '@/server/changes/history'
import { Slices } from '@/server/doors/slices'
import type { Steppe } from '@/server/engine/steppe'
import type { PendingMove } from './category-tree-view'

/** Ids of the categories a move takes one from under, and of those it brings it under. */
export function abovesOf(
  store: Store,
  { id, place }: PendingMove,
): { readonly left: ReadonlySet<string>; readonly entered: ReadonlySet<string> } {
  const above = (from: string | null) =>
    new Set(from === null ? [] : pathToRoot(store.category, from).map((each) => each.id))
  const [before, after] = [above(store.category.get(id)?.parent ?? null), above(place.parent)]
  return {
    left: new Set([...before].filter((each) => !after.has(each))),
    entered: new Set([...after].filter((each) => !before.has(each))),
  }
}

/** The lines of price lists that reach a category only from above, and no longer would. */
export async function linesLeft(store: Store, move: PendingMove): Promise<readonly PriceLine[]> {
  const { left } = abovesOf(store, move)
  const slices = new Slices()
  const lines: PriceLine[] = []
  for (const line of store['price-line'].values()) {
    if (slices.isDue()) await slices.rest()
    if (leaves(line)) lines.push(line)
  }
  return lines

  function leaves({ scope }: PriceLine): boolean {
    const named = scope.include.filter((term) => term.kind === 'category')
    return (
      named.some(({ category, descendants }) => descendants && left.has(category)) &&
      ![...named, ...scope.exclude].some((term) => term.kind === 'category' && term.category === move.id)
    )
  }
}

/**
 * What is asked of the store to make a move, on what stood there as of a change set.
 *
 * Errors  throws `RangeError` where the tree has no such place, or no such category.
 */
export async function requestsToMove(
  steppe: Steppe,
  store: Store,
  move: PendingMove,
  asOf: number,
): Promise<readonly ChangeRequest[]> {
  const moved = movedTo(store.category, move.id, move.place).map((after): ChangeRequest => ({
    kind: 'category',
    id: after.id,
    // Siblings only make room, whatever else changed in them.
    seen:
      after.id === move.id
        ? revisionAsOf(steppe, 'category', after.id, asOf)
        : revisionOf(steppe, 'category', after.id),
    after,
  }))
  if (!move.keepsPrices) return moved
  const kept = (await linesLeft(store, move)).map((line): ChangeRequest => ({
    kind: 'price-line',
    id: line.id,
    seen: revisionOf(steppe, 'price-line', line.id),
    after: {
      ...line,
      scope: {
        ...line.scope,
        include: [...line.scope.include, { kind: 'category', category: move.id, descendants: true }],
      },
    },
  }))
  return [...moved, ...kept]
}
