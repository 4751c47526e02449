import { meansTheSame } from '../store/same-meaning'
import { rebase, touchedFields } from '../store/rebase'
import type { Change, RecordOfKind, Store } from '../store/store'

type Fields = Readonly<Record<string, unknown>>
type AnyRecord = RecordOfKind[keyof RecordOfKind]

/**
 * What a draft does to one record: `before` is what was live when the draft last had a say about each of its fields,
 * `after` is what it wants. One for each record, whatever was edited in between.
 */
export type DraftChange = Change

/**
 * What a draft does to a record after one more edit. The edit goes from what the draft shows of the record to what it is
 * to be; whoever made it has seen what is live, so that only fields in conflict that it leaves alone stay so.
 *
 * `settled` names fields somebody has decided about, whether or not their value changes by it.
 *
 * Errors  `null` when the draft says nothing of the record any more.
 */
export function amend(
  known: DraftChange | null,
  edit: Change,
  live: Store,
  settled: readonly string[] = touchedFields(edit),
): DraftChange | null {
  const current = (live[edit.kind].get(edit.id) ?? null) as AnyRecord | null
  const after = edit.after
  const toChange = (before: AnyRecord | null): DraftChange | null =>
    meansTheSame(before, after)
      ? null
      : ({ kind: edit.kind, id: edit.id, before, after } as unknown as DraftChange)
  const conflict = known && rebase([known], live)[0]?.conflict
  // A record that was removed live, or made there too, stays in conflict until that is settled.
  if (known && conflict && conflict.code !== 'fields' && after !== null)
    return meansTheSame(current, after) ? null : ({ ...known, after } as DraftChange)
  if (conflict?.code !== 'fields' || after === null || !known?.before || !current) return toChange(current)
  const open = conflict.fields.map(({ field }) => field).filter((field) => !settled.includes(field))
  if (open.length === 0) return toChange(current)
  const was = known.before as unknown as Fields
  const before = { ...current, ...Object.fromEntries(open.map((field) => [field, was[field]])) }
  return { kind: edit.kind, id: edit.id, before, after } as unknown as DraftChange
}

/** How a conflict is settled. */
export type Settlement =
  | { readonly keep: 'mine' | 'live' }
  /** One field, by one of the two values or by another one. */
  | { readonly keep: 'mine' | 'live'; readonly field: string }
  | { readonly field: string; readonly value: unknown }

/**
 * A draft's change with a conflict settled.
 *
 * Errors  `null` when the draft says nothing of the record any more.
 */
export function settle(known: DraftChange, live: Store, settlement: Settlement): DraftChange | null {
  const rebased = rebase([known], live)[0]
  const current = (live[known.kind].get(known.id) ?? null) as AnyRecord | null
  if (!rebased) return known
  if (!('field' in settlement)) {
    if (settlement.keep === 'live' && rebased.conflict?.code !== 'fields') return null
    const fields = rebased.conflict?.code === 'fields' ? rebased.conflict.fields : []
    const theirs = settlement.keep === 'live' ? fields.map(({ field, theirs }) => [field, theirs]) : []
    return withValues(
      known,
      rebased.change,
      live,
      Object.fromEntries(theirs),
      fields.map(({ field }) => field),
    )
  }
  const { field } = settlement
  const value =
    'value' in settlement
      ? settlement.value
      : ((settlement.keep === 'live' ? current : rebased.change.after) as Fields | null)?.[field]
  return withValues(known, rebased.change, live, { [field]: value }, [field])
}

function withValues(
  known: DraftChange,
  shown: Change,
  live: Store,
  values: Fields,
  settled: readonly string[],
): DraftChange | null {
  const current = (live[known.kind].get(known.id) ?? null) as AnyRecord | null
  const after = shown.after && { ...shown.after, ...values }
  // Settled as a whole: what was live is known by now.
  if (rebase([known], live)[0]?.conflict?.code !== 'fields')
    return { kind: known.kind, id: known.id, before: current, after } as unknown as DraftChange
  return amend(known, { kind: known.kind, id: known.id, before: shown.after, after } as Change, live, settled)
}
