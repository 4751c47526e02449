import 'server-only'

import { changedAncestors, isLeftBehind, movedTo } from '@/core/catalogue/move-category'
import type { PriceLine } from '@/core/price/lines/price-list'
import type { Store } from '@/core/store/store'
import type { ChangeRequest } from '@/server/changes/weigh'
import { revisionAsOf, revisionOf, type View } from '@/server/views/view'
import { Slices } from '@/server/doors/slices'
import type { PendingMove } from './category-tree-view'

/** The lines of price lists that reach a category only from above, and no longer would. */
export async function linesLeft(store: Store, move: PendingMove): Promise<readonly PriceLine[]> {
  const { left } = changedAncestors(store.category, move.id, move.place)
  const slices = new Slices()
  const lines: PriceLine[] = []
  for (const line of store['price-line'].values()) {
    if (slices.isDue()) await slices.rest()
    if (isLeftBehind(line.scope, move.id, left)) lines.push(line)
  }
  return lines
}

/**
 * What is asked of the store to make a move, on what stood there as of a change set.
 *
 * Errors  throws `RangeError` where the tree has no such place, or no such category.
 */
export async function requestsToMove(
  view: View,
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
        ? revisionAsOf(view, 'category', after.id, asOf)
        : revisionOf(view, 'category', after.id),
    after,
  }))
  if (!move.keepsPrices) return moved
  const kept = (await linesLeft(store, move)).map((line): ChangeRequest => ({
    kind: 'price-line',
    id: line.id,
    seen: revisionOf(view, 'price-line', line.id),
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
