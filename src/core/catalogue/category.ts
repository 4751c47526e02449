import type { Status } from '../issue/issue'

/** A branch of the catalogue's tree. */
export interface Category {
  readonly id: string
  readonly code: string
  readonly name: string
  /** The branch it hangs on; `null` at the top. */
  readonly parent: string | null
  /** Where it stands among its siblings. */
  readonly position: number
  readonly status: Status
}

/**
 * The way from a category up to the top of the tree, itself first.
 *
 * Errors  throws `RangeError` when the way goes round in a circle: a store never holds such a tree.
 */
export function pathToRoot(categories: ReadonlyMap<string, Category>, id: string): readonly Category[] {
  const path: Category[] = []
  for (let next: string | null = id; next !== null;) {
    const category = categories.get(next)
    if (!category) break
    if (path.length > categories.size) throw new RangeError(`category ${id} is inside itself`)
    path.push(category)
    next = category.parent
  }
  return path
}

/** The circle a category would close through its parents, as codes from it back to it; `null` without one. */
export function findCycle(categories: ReadonlyMap<string, Category>, id: string): readonly string[] | null {
  const codes: string[] = []
  const seen = new Set<string>()
  for (let next: string | null = id; next !== null;) {
    const category = categories.get(next)
    if (!category) return null
    codes.push(category.code)
    if (seen.has(next)) return next === id ? codes : null
    seen.add(next)
    next = category.parent
  }
  return null
}

/** How many levels a category lies down, itself counted; those above it are the store's business. */
export function depthOf(categories: ReadonlyMap<string, Category>, id: string): number {
  let depth = 0
  for (let next: string | null = id; next !== null && depth <= categories.size; depth += 1)
    next = categories.get(next)?.parent ?? null
  return depth
}

/** All categories reachable from the given ones, with the fewest steps up to each: 0 for a given one. */
export function distancesUp(
  categories: ReadonlyMap<string, Category>,
  from: readonly string[],
): ReadonlyMap<string, number> {
  const distances = new Map<string, number>()
  for (const id of from) {
    pathToRoot(categories, id).forEach((category, distance) => {
      const known = distances.get(category.id)
      if (known === undefined || distance < known) distances.set(category.id, distance)
    })
  }
  return distances
}

/** A category with its steps below the top. */
export interface BranchOfTree {
  readonly category: Category
  readonly depth: number
}

/** Every category that hangs on the tree, each right behind what it hangs on, neighbours by position. */
export function inTreeOrder(categories: ReadonlyMap<string, Category>): readonly BranchOfTree[] {
  const below = new Map<string | null, Category[]>()
  for (const category of categories.values()) {
    const known = below.get(category.parent)
    if (known) known.push(category)
    else below.set(category.parent, [category])
  }
  const branches = (parent: string | null, depth: number): readonly BranchOfTree[] =>
    (below.get(parent) ?? [])
      .sort((left, right) => left.position - right.position)
      .flatMap((category) => [{ category, depth }, ...branches(category.id, depth + 1)])
  return branches(null, 0)
}
