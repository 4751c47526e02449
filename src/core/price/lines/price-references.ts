import type { PriceLine, PriceList } from './price-list'
import type { Breaks } from './price-method'

/** Ids of the lists a list's prices are computed from. */
export function listsReferredTo(list: PriceList, lines: Iterable<PriceLine>): ReadonlySet<string> {
  const found = new Set<string>()
  const gather = ({ breaks }: Breaks) => {
    for (const { method } of breaks)
      if ('reference' in method && method.reference.kind === 'list') found.add(method.reference.list)
  }
  if (list.defaultLine) gather(list.defaultLine)
  for (const line of lines) gather(line)
  return found
}

/**
 * The circle a list closes through the lists it refers to, as ids from it back to it; `null` without one.
 * `referredTo` gives the lists one list refers to.
 */
export function findReferenceCycle(
  start: string,
  referredTo: (list: string) => Iterable<string>,
): readonly string[] | null {
  const done = new Set<string>()
  const walk = (id: string, path: readonly string[]): readonly string[] | null => {
    for (const next of referredTo(id)) {
      if (next === start) return [...path, next]
      if (done.has(next)) continue
      done.add(next)
      const found = walk(next, [...path, next])
      if (found) return found
    }
    return null
  }
  return walk(start, [start])
}
