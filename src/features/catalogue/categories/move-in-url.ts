import { type Branch, isWithin } from '@/core/catalogue/move-category'
import type { PendingMove } from './category-tree-view'

interface Coded extends Branch {
  readonly code: string
}

/** What stands in an address for no category: no code is one sign. */
const NONE = '-'

/**
 * A move that is being weighed stands in the address, so that neither a reload nor a link loses it.
 *
 * Holds  `moveFromUrl(moveToUrl(move, categories), categories)` is `move`.
 */
export function moveFromUrl(
  fields: { get(name: string): string | null },
  categories: readonly Coded[],
): PendingMove | null {
  const idOf = (name: string): string | null | undefined => {
    const code = fields.get(name)
    return code === NONE ? null : categories.find((each) => each.code === code)?.id
  }
  const [id, parent, before] = [idOf('move'), idOf('into'), idOf('before')]
  if (!id || parent === undefined || before === undefined) return null
  // The tree may have changed since the address was written.
  const byId = new Map(categories.map((each) => [each.id, each]))
  if (isWithin(byId, parent, id) || before === id) return null
  if (before !== null && byId.get(before)?.parent !== parent) return null
  return { id, place: { parent, before }, keepsPrices: fields.get('keep') === 'prices' }
}

/** The fields of an address that say so; empty without a move. */
export function moveToUrl(move: PendingMove | null, categories: readonly Coded[]): Record<string, string> {
  if (!move) return {}
  const codeOf = (id: string | null) => categories.find((each) => each.id === id)?.code ?? NONE
  return {
    move: codeOf(move.id),
    into: codeOf(move.place.parent),
    before: codeOf(move.place.before),
    ...(move.keepsPrices ? { keep: 'prices' } : {}),
  }
}
