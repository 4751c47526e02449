import { meansTheSame } from './same-meaning'
import type { Change, Store } from './store'

type Fields = Readonly<Record<string, unknown>>

/** A field that was changed on both sides, to different values. */
interface FieldConflict {
  readonly field: string
  /** What both started from. */
  readonly before: unknown
  readonly mine: unknown
  readonly theirs: unknown
}

/** What stands between a change and the record as it is by now. */
export type RebaseConflict =
  | { readonly code: 'fields'; readonly fields: readonly FieldConflict[] }
  /** It was made on one side after it had been made on the other. */
  | { readonly code: 'exists' }
  /** It is changed here, and gone there. */
  | { readonly code: 'gone' }
  /** It is removed here, and has been changed there. */
  | { readonly code: 'changed' }

/** A change laid over another state of its record. */
export interface Rebased {
  /** From what the record is by now; where both sides changed a field, to what this one made of it. */
  readonly change: Change
  /** `null` where the change fits. */
  readonly conflict: RebaseConflict | null
}

/** The fields a change gives another value; of a record that is made or removed, all it has. */
export function touchedFields({ before, after }: Change): readonly string[] {
  const [from, to] = [before, after] as unknown as readonly (Fields | null)[]
  if (!from || !to) return Object.keys(from ?? to ?? {})
  return [...new Set([...Object.keys(from), ...Object.keys(to)])].filter(
    (field) => !meansTheSame(from[field], to[field]),
  )
}

/**
 * Changes that were made on one store, as they would be made on another: fields that only one side changed merge.
 *
 * Holds   on the store they were made on, every change is itself and none conflicts.
 */
export function rebase(changes: readonly Change[], onto: Store): readonly Rebased[] {
  return changes.map((change) =>
    rebaseChange(change, (onto[change.kind].get(change.id) as Fields | undefined) ?? null),
  )
}

function rebaseChange(change: Change, current: Fields | null): Rebased {
  const [base, mine] = [change.before, change.after] as unknown as readonly (Fields | null)[]
  const over = (after: Fields | null, conflict: RebaseConflict | null = null): Rebased => ({
    change: { ...change, before: current, after } as unknown as Change,
    conflict,
  })
  if (!mine) return over(null, current && !meansTheSame(current, base) ? { code: 'changed' } : null)
  if (!current) return over(mine, base ? { code: 'gone' } : null)
  if (!base) return over(mine, meansTheSame(current, mine) ? null : { code: 'exists' })
  const merged: Record<string, unknown> = { ...current }
  const fields: FieldConflict[] = []
  for (const field of touchedFields(change)) {
    const [before, wanted, theirs] = [base[field], mine[field], current[field]]
    merged[field] = wanted
    if (!meansTheSame(theirs, before) && !meansTheSame(theirs, wanted))
      fields.push({ field, before, mine: wanted, theirs })
  }
  return over(merged, fields.length > 0 ? { code: 'fields', fields } : null)
}
