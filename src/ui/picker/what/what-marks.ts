import { type What, type WhatTerm, whatTermKey } from '@/core/predicates/what'
import type { Mark } from '../mark'
import { termMoves } from '../term-sets'
import type { AttributeChoice, BranchChoice, FoundItem } from './what-choices'

type AttributeValue = AttributeChoice['values'][number]

const moves = termMoves(whatTermKey)
const { has } = moves
export const leaveOutWhat = moves.leaveOut

/** Takes a term in, or out again where it was chosen itself. "Everything" and single things do not stand side by side. */
export function takeInWhat(what: What, term: WhatTerm): What {
  const isAlone = has(what.include, term) || term.kind === 'everything'
  const include = isAlone ? what.include : what.include.filter(({ kind }) => kind !== 'everything')
  return moves.takeIn({ ...what, include }, term)
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

/** How a value of an attribute stands: by itself, or because everything or some of what has it is in. */
export function attributeMark({ term, variants, matched }: AttributeValue, what: What): Mark {
  const own = ownMark(what, term)
  if (own || matched === 0) return own ?? 'none'
  return matched < variants ? 'part' : 'through'
}

/** How anything else stands: by itself, or because everything is in. */
export function plainMark(term: WhatTerm, what: What): Mark {
  return ownMark(what, term) ?? 'none'
}
