import type { What } from '../predicates/what'
import type { Category } from './category'

/** As much of a category as its place needs. */
export type Branch = Pick<Category, 'id' | 'parent' | 'position'>

/** Where a category stands among others. */
export interface TreePlace {
  /** Id of the category it hangs on; `null` at the top. */
  readonly parent: string | null
  /** Id of the sibling it stands before; `null` as the last one. */
  readonly before: string | null
}

/** One level or neighbour on: past a sibling, to its parent’s level, or into the sibling before it. */
export type TreeStep = 'up' | 'down' | 'out' | 'in'

/** What hangs on a category, or at the top, in its order. */
export function childrenOf<Kind extends Branch>(
  categories: ReadonlyMap<string, Kind>,
  parent: string | null,
): readonly Kind[] {
  return [...categories.values()]
    .filter((each) => each.parent === parent)
    .sort((left, right) => left.position - right.position)
}

/** Errors  throws `RangeError` for a category that is not there. */
export function placeOf(categories: ReadonlyMap<string, Branch>, id: string): TreePlace {
  const { parent } = branchOf(categories, id)
  const siblings = childrenOf(categories, parent)
  const at = siblings.findIndex((each) => each.id === id)
  return { parent, before: siblings[at + 1]?.id ?? null }
}

/** Whether a category is the other one or somewhere below it. */
export function isWithin(categories: ReadonlyMap<string, Branch>, id: string | null, above: string): boolean {
  return ancestorsOf(categories, id).has(above)
}

/** A place one step on from another one; `null` where there is none in that direction. */
export function stepped(
  categories: ReadonlyMap<string, Branch>,
  id: string,
  { parent, before }: TreePlace,
  step: TreeStep,
): TreePlace | null {
  const others = childrenOf(categories, parent).filter((each) => each.id !== id)
  const found = others.findIndex((each) => each.id === before)
  const at = found === -1 ? others.length : found
  switch (step) {
    case 'up':
      return at === 0 ? null : { parent, before: others[at - 1]?.id ?? null }
    case 'down':
      return at === others.length ? null : { parent, before: others[at + 1]?.id ?? null }
    case 'in': {
      const host = others[at - 1]
      return host ? { parent: host.id, before: null } : null
    }
    case 'out': {
      if (parent === null) return null
      const { parent: above, before: next } = placeOf(categories, parent)
      // Right behind what it hung on; where it stood there itself, what follows it.
      return { parent: above, before: next === id ? placeOf(categories, id).before : next }
    }
  }
}

/**
 * The categories that change when one moves: itself with its new parent, and all whose positions do not tell the new
 * order yet. Empty where nothing moves.
 *
 * Errors  throws `RangeError` for a place inside itself, or before a category that does not hang there.
 */
export function movedTo<Kind extends Branch>(
  categories: ReadonlyMap<string, Kind>,
  id: string,
  { parent, before }: TreePlace,
): readonly Kind[] {
  const category = branchOf(categories, id)
  if (parent !== null) branchOf(categories, parent)
  if (isWithin(categories, parent, id)) throw new RangeError(`category ${id} cannot be inside itself`)
  const others = childrenOf(categories, parent).filter((each) => each.id !== id)
  const at = before === null ? others.length : others.findIndex((each) => each.id === before)
  if (at === -1) throw new RangeError(`category ${before} does not hang there`)
  const now = placeOf(categories, id)
  if (now.parent === parent && now.before === before) return []
  const order = [...others.slice(0, at), { ...category, parent }, ...others.slice(at)]
  return order
    .map((each, position) => ({ ...each, position }))
    .filter((each) => each.id === id || categories.get(each.id)?.position !== each.position)
}

/** Ids of the categories a move takes one from under, and of those it brings it under. */
export function changedAncestors(
  categories: ReadonlyMap<string, Branch>,
  id: string,
  { parent }: TreePlace,
): { readonly left: ReadonlySet<string>; readonly entered: ReadonlySet<string> } {
  const before = ancestorsOf(categories, branchOf(categories, id).parent)
  const after = ancestorsOf(categories, parent)
  return {
    left: new Set([...before].filter((each) => !after.has(each))),
    entered: new Set([...after].filter((each) => !before.has(each))),
  }
}

/** Whether a scope reaches a category through one of those it leaves, and does not name it itself. */
export function isLeftBehind({ include, exclude }: What, id: string, left: ReadonlySet<string>): boolean {
  const names = (terms: What['include']) =>
    terms.some((term) => term.kind === 'category' && term.category === id)
  return (
    include.some((term) => term.kind === 'category' && term.descendants && left.has(term.category)) &&
    !names(include) &&
    !names(exclude)
  )
}

function ancestorsOf(categories: ReadonlyMap<string, Branch>, from: string | null): ReadonlySet<string> {
  const ids = new Set<string>()
  for (let next = from; next !== null && !ids.has(next); next = categories.get(next)?.parent ?? null)
    ids.add(next)
  return ids
}

function branchOf<Kind extends Branch>(categories: ReadonlyMap<string, Kind>, id: string): Kind {
  const found = categories.get(id)
  if (!found) throw new RangeError(`there is no category ${id}`)
  return found
}
