import type { Issue } from '../issue/issue'
import type { Steps } from '../steps/steps'
import { checkInSteps } from '../store/check-changes'
import { labelOf } from '../store/references'
import { meansTheSame } from '../store/same-meaning'
import { rebase, type RebaseConflict } from '../store/rebase'
import { applyInSteps, type Change, type Store } from '../store/store'
import type { DraftChange } from './amend'

/** Why a change of a draft cannot go live as it is. */
export type DraftConflict =
  | { readonly change: DraftChange; readonly because: RebaseConflict }
  /** It does not fit the store as it is by now: left out until it does. */
  | { readonly change: DraftChange; readonly because: { readonly code: 'invalid'; readonly issue: Issue } }

/** A draft laid over a store. */
export interface LaidOver {
  /** The store with the draft in. */
  readonly store: Store
  /** From the store to the one with the draft in; where both changed a field, to what the draft says. */
  readonly changes: readonly Change[]
  readonly conflicts: readonly DraftConflict[]
}

/**
 * Lays a draft over a store: what live changed beside it merges, what both changed is told, and what cannot stand there at
 * all any more (a line of a list that is gone) is left out and told.
 */
export function* layOver(draft: readonly DraftChange[], live: Store): Steps<LaidOver> {
  const conflicts: DraftConflict[] = []
  let standing: { readonly known: DraftChange; readonly change: Change }[] = []
  for (const [at, { change, conflict }] of rebase(draft, live).entries()) {
    const known = draft[at] as DraftChange
    if (conflict) conflicts.push({ change: known, because: conflict })
    if (!meansTheSame(change.before, change.after)) standing.push({ known, change })
  }
  for (;;) {
    const changes = standing.map(({ change }) => change)
    const store = yield* applyInSteps(live, changes)
    const issues = yield* checkInSteps(store, changes)
    if (issues.length === 0) return { store, changes, conflicts }
    const wrong = new Map(standing.flatMap((each) => (each ? faultOf(each.change, issues) : [])))
    // An issue that names none of the changes leaves no way to tell which of them it comes from.
    const isNamed = wrong.size > 0
    for (const { known, change } of standing) {
      const issue = isNamed ? wrong.get(change) : issues[0]
      if (issue) conflicts.push({ change: known, because: { code: 'invalid', issue } })
    }
    standing = isNamed ? standing.filter(({ change }) => !wrong.has(change)) : []
  }
}

function faultOf(change: Change, issues: readonly Issue[]): readonly (readonly [Change, Issue])[] {
  const record = change.after ?? change.before
  const label = record ? labelOf(change.kind, record) : change.id
  const issue = issues.find((each) => each.kind === change.kind && each.label === label)
  return issue ? [[change, issue]] : []
}
