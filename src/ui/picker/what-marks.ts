import { type What, type WhatTerm, whatTermKey } from '@/core/predicates/what'
import type { Mark } from './mark'
import type { BranchChoice, FoundItem } from './what-choices'

const isSame = (left: WhatTerm, right: WhatTerm) => whatTermKey(left) === whatTermKey(right)
const without = (terms: readonly WhatTerm[], term: WhatTerm) => terms.filter((each) => !isSame(each, term))
const has = (terms: readonly WhatTerm[], term: WhatTerm) => terms.some((each) => isSame(each, term))

/** Takes a term in, or out again where it was chosen itself. "Everything" and single things do not stand side by side. */
export function takeInWhat({ include, exclude }: What, term: WhatTerm): What {
  if (has(include, term)) return { include: without(include, term), exclude }
  const others = term.kind === 'everything' ? [] : include.filter(({ kind }) => kind !== 'everything')
  return { include: [...others, term], exclude: without(exclude, term) }
}

/** Leaves a term out, or no longer. */
export function leaveOutWhat({ include, exclude }: What, term: WhatTerm): What {
  return {
    include: without(include, term),
    exclude: has(exclude, term) ? without(exclude, term) : [...exclude, term],
  }
}

/** Without its last word: what is left out stands behind what is taken in. */
export function withoutLastWhat({ include, exclude }: What): What {
  return exclude.length > 0
    ? { include, exclude: exclude.slice(0, -1) }
    : { include: include.slice(0, -1), exclude }
}

function ownMark({ include, exclude }: What, term: WhatTerm): Mark | null {
  if (has(exclude, term)) return 'out'
  return has(include, term) ? 'chosen' : null
}

const isBranch = (term: WhatTerm, ids: ReadonlySet<string>) =>
  term.kind === 'category' && term.descendants && ids.has(term.category)

/** How a branch of the tree stands: through those above it, and for a part through those below it. */
export function branchMark(branch: BranchChoice, what: What, branches: readonly BranchChoice[]): Mark {
  const own = ownMark(what, branch.term)
  const above = new Set<string>()
  for (let id = branch.parent; id !== null;) {
    above.add(id)
    id = branches.find((each) => each.id === id)?.parent ?? null
  }
  const below = new Set(
    branches
      .filter((each) => each.id !== branch.id && isBelow(each, branch.id, branches))
      .map(({ id }) => id),
  )
  const speaksBelow = (terms: readonly WhatTerm[]) =>
    terms.some((term) => term.kind === 'category' && below.has(term.category))
  if (own === 'out') return 'out'
  // What is chosen and left out through something above is out: leaving out comes first.
  if (what.exclude.some((term) => term.kind === 'everything' || isBranch(term, above))) return 'out-through'
  if (own === 'chosen') return 'chosen'
  const isIn = what.include.some((term) => term.kind === 'everything' || isBranch(term, above))
  if (isIn) return speaksBelow(what.exclude) ? 'part' : 'through'
  return speaksBelow(what.include) ? 'part' : 'none'
}

function isBelow(branch: BranchChoice, id: string, branches: readonly BranchChoice[]): boolean {
  for (let at = branch.parent; at !== null;) {
    if (at === id) return true
    at = branches.find((each) => each.id === at)?.parent ?? null
  }
  return false
}

/** How a product or variant stands, as far as branches and its own term decide. */
export function itemMark({ term, branches }: FoundItem, what: What): Mark {
  const own = ownMark(what, term)
  if (own) return own
  const within = new Set(branches)
  const speaks = (each: WhatTerm) => each.kind === 'everything' || isBranch(each, within)
  if (what.exclude.some(speaks)) return 'out-through'
  return what.include.some(speaks) ? 'through' : 'none'
}

/** How anything else stands: by itself, or because everything is in. */
export function plainMark(term: WhatTerm, what: What): Mark {
  return ownMark(what, term) ?? 'none'
}
