'use server'

import { NUMBER, TEXT, thingWith, TYPED, TYPED_FIELDS } from '@/server/session/argument-shapes'
import { merchantAction } from '@/server/session/permit'
import type { Vantage } from '@/core/engine/context/vantage'
import { labelOf } from '@/core/store/references'
import type { Store } from '@/core/store/store'
import { checkVantages } from '@/server/changes/check-amount-edits'
import { commit } from '@/server/changes/commit'
import type { CommitOutcome } from '@/server/changes/commit-outcome'
import type { ChangeRequest } from '@/server/changes/weigh'
import { formerRecord, undo, undoNote } from '@/server/changes/history'
import { revisionOf, type View } from '@/server/views/view'
import { toRefusal } from '@/server/changes/to-refusal'
import { currentInstant } from '@/server/clock'
import { currentView } from '@/server/views/current-view'
import { currentAuthor } from '@/server/session/author'
import { refusalSentence } from '@/ui/format/refusal-sentence'
import { recordHref } from '@/ui/frame/record-href'
import Joi from 'joi'
import { refresh } from 'next/cache'
import { randomUUID } from 'node:crypto'
import type { Fields } from '../../fields/field-rule'
import { RECORD_FIELDS } from '../../fields/record-fields'
import { findRecord, isPutAway } from '../find-record'
import { withTexts } from '../load-sheet'
import { asCopy, beginning, requestsToMake } from '../new-record'
import { EDITABLE_KINDS, type EditableKind, findSection, sectionOf } from '../sections'

/** The sheet something was typed on. */
export interface SheetReference {
  readonly kind: EditableKind
  readonly id: string
  readonly label: string
  readonly revision: number | null
  readonly vantage: Vantage
  readonly copyOf: string | null
}

type Texts = Readonly<Record<string, string>>

const KIND = Joi.valid(...EDITABLE_KINDS)
const SHEET = thingWith({
  ...{ kind: KIND, id: TYPED, label: TYPED },
  ...{ revision: NUMBER.allow(null), vantage: Joi.object().unknown() },
  copyOf: TYPED.allow(null),
})

/** A field that somebody else changed meanwhile: both values, to choose from. */
interface FieldConflict {
  readonly field: string
  readonly name: string
  readonly theirs: string
  readonly mine: string
}

export type SaveOutcome =
  | { readonly ok: true; readonly href: string; readonly changeSet: number }
  | {
      readonly ok: false
      readonly problem: string
      readonly problems?: Readonly<Record<string, string>>
      readonly conflicts?: readonly FieldConflict[]
      /** The revision that both values are of. */
      readonly revision?: number | null
    }

/** Reads what was typed in one field, with nothing saved; resolves to what is wrong, or `null`. */
export const readField = merchantAction(
  'prices:look',
  [SHEET, TYPED_FIELDS, TEXT],
  async ({ kind, id, copyOf }: SheetReference, texts: Texts, field: string): Promise<string | null> => {
    const { store } = (await currentView()).prepared
    const start = startOf(store, kind, id, copyOf)
    return start ? (withTexts(store, kind, start, texts).problems[field] ?? null) : goneSentence(kind)
  },
)

/** Saves what was typed in a record's fields as one change set. */
export const saveRecord = merchantAction(
  'drafts:edit',
  [SHEET, TYPED_FIELDS],
  async (sheet: SheetReference, texts: Texts): Promise<SaveOutcome> => {
    const wrong = checkVantages([sheet.vantage])
    if (wrong) return { ok: false, problem: wrong }
    const view = await currentView()
    const { store } = view.prepared
    const { kind, id } = sheet
    const stored = currentOf(store, kind, id)
    if (!stored) return { ok: false, problem: goneSentence(kind) }
    const { record, problems } = withTexts(store, kind, stored, texts)
    if (Object.keys(problems).length > 0)
      return { ok: false, problem: Object.values(problems).join(' '), problems }
    const conflicts = await conflictsOf(view, sheet, stored, texts)
    const current = revisionOf(view, kind, id)
    if (conflicts.length > 0)
      return { ok: false, problem: conflictSentence(conflicts), conflicts, revision: current }
    const names = RECORD_FIELDS[kind]
      .filter(({ field }) => field in texts)
      .map(({ name }) => name.toLowerCase())
    const request = { kind, id, seen: current, after: record } as unknown as ChangeRequest
    const outcome = await commit(
      view,
      [request],
      await note(`${String(stored['name'] ?? sheet.label)}: ${names.join(', ')} changed`),
    )
    if (!outcome.ok && outcome.code === 'nothing-to-change')
      return { ok: true, href: hrefOf(kind, stored), changeSet: view.asOf }
    return saved(outcome, hrefOf(kind, record))
  },
)

/** Makes a record; fields nothing is typed in begin as they would, or as those of the record that is copied. */
export const createRecord = merchantAction(
  'drafts:edit',
  [KIND, TYPED_FIELDS, TEXT.allow(null)],
  async (kind: EditableKind, texts: Texts, copyOf: string | null): Promise<SaveOutcome> => {
    if (!findSection(sectionOf(kind)?.path ?? ''))
      return { ok: false, problem: 'Nothing of that kind can be made here.' }
    const view = await currentView()
    const { store } = view.prepared
    const source = copyOf === null ? null : findRecord(store, kind, copyOf)
    const { record, problems } = withTexts(
      store,
      kind,
      source ? asCopy(kind, source) : beginning(store, kind),
      texts,
    )
    if (Object.keys(problems).length > 0)
      return { ok: false, problem: Object.values(problems).join(' '), problems }
    if (kind === 'variant' && !record['product'])
      return {
        ok: false,
        problem: 'Choose the product it belongs to.',
        problems: { product: 'Choose a product.' },
      }
    const requests = requestsToMake(store, kind, record, source, randomUUID())
    const made = requests[0].after as unknown as Fields
    const outcome = await commit(
      view,
      requests,
      await note(`New ${sectionOf(kind).singular} ${String(made['name'] ?? made['sku'] ?? made['code'])}`),
    )
    return saved(outcome, hrefOf(kind, made))
  },
)

/** Puts a record away, or brings it back. */
export const archiveRecord = merchantAction(
  'drafts:edit',
  [SHEET],
  async (sheet: SheetReference): Promise<SaveOutcome> => {
    const { kind, id, label } = sheet
    const stored = currentOf((await currentView()).prepared.store, kind, id)
    if (!stored) return { ok: false, problem: goneSentence(kind) }
    const back = isPutAway(kind, stored)
    const change =
      kind === 'contract' ? { state: back ? 'draft' : 'ended' } : { status: back ? 'active' : 'archived' }
    return setFields(sheet, stored, change, `${label} ${back ? 'restored' : 'archived'}`)
  },
)

/** Switches a rule or list on or off, puts a contract into force or suspends it. */
export const switchRecord = merchantAction(
  'drafts:edit',
  [SHEET],
  async (sheet: SheetReference): Promise<SaveOutcome> => {
    const stored = currentOf((await currentView()).prepared.store, sheet.kind, sheet.id)
    if (!stored) return { ok: false, problem: goneSentence(sheet.kind) }
    const name = String(stored['name'])
    if (sheet.kind === 'contract') {
      const isActive = stored['state'] === 'active'
      const change = { state: isActive ? 'suspended' : 'active' }
      return setFields(sheet, stored, change, `${name} ${isActive ? 'suspended' : 'put into force'}`)
    }
    const state = stored['state'] === 'on' ? 'off' : 'on'
    return setFields(sheet, stored, { state }, `${name} switched ${state}`)
  },
)

/** Removes a record for good, where no other needs it. */
export const removeRecord = merchantAction(
  'drafts:edit',
  [SHEET],
  async (sheet: SheetReference): Promise<SaveOutcome> => {
    const view = await currentView()
    const { store } = view.prepared
    const rates =
      sheet.kind === 'currency'
        ? [...store['exchange-rate'].values()].filter(({ currency }) => currency === sheet.id)
        : []
    const requests = [
      ...rates.map(({ id }) => removal(revisionOf(view, 'exchange-rate', id), 'exchange-rate', id)),
      removal(sheet.revision, sheet.kind, sheet.id),
    ]
    return saved(
      await commit(view, requests, await note(`${sheet.label} removed`)),
      `/${sectionOf(sheet.kind).path}`,
    )
  },
)

/** Takes a change of the record's history back. */
export const undoOnRecord = merchantAction(
  'drafts:edit',
  [SHEET, NUMBER],
  async (sheet: SheetReference, changeSet: number): Promise<SaveOutcome> => {
    const view = await currentView()
    const outcome = await undo(view, changeSet, await note(await undoNote(view, changeSet)))
    if (!outcome.ok) return { ok: false, problem: refusalSentence(toRefusal(outcome)) }
    const now = currentOf(view.prepared.store, sheet.kind, sheet.id)
    return saved(outcome as CommitOutcome, now ? hrefOf(sheet.kind, now) : `/${sectionOf(sheet.kind).path}`)
  },
)

function startOf(store: Store, kind: EditableKind, id: string, copyOf: string | null): Fields | null {
  if (id !== '') return currentOf(store, kind, id)
  const source = copyOf === null ? null : findRecord(store, kind, copyOf)
  return source ? asCopy(kind, source) : beginning(store, kind)
}

/** The fields that are typed over here and were changed elsewhere since the sheet was read. */
async function conflictsOf(
  view: View,
  { kind, id, revision }: SheetReference,
  stored: Fields,
  texts: Texts,
): Promise<readonly FieldConflict[]> {
  if (revision === null || revisionOf(view, kind, id) === revision) return []
  const { store } = view.prepared
  const seen = await formerRecord(view, kind, id, revision)
  return RECORD_FIELDS[kind].flatMap((rule) => {
    const mine = texts[rule.field]
    if (mine === undefined) return []
    const theirs = rule.write(stored, store)
    const was = seen && rule.write(seen as unknown as Fields, store)
    return theirs === was || theirs === mine ? [] : [{ field: rule.field, name: rule.name, theirs, mine }]
  })
}

function conflictSentence(conflicts: readonly FieldConflict[]): string {
  const [first] = conflicts
  return `${first?.name} was changed meanwhile to “${first?.theirs}”. You typed “${first?.mine}”.`
}

async function setFields(
  sheet: SheetReference,
  stored: Fields,
  change: Fields,
  text: string,
): Promise<SaveOutcome> {
  const after = { ...stored, ...change }
  const request = { kind: sheet.kind, id: sheet.id, seen: sheet.revision, after } as unknown as ChangeRequest
  return saved(await commit(await currentView(), [request], await note(text)), hrefOf(sheet.kind, after))
}

/** What the door said; the page, and the menu with its counts, are drawn anew. */
function saved(outcome: CommitOutcome, href: string): SaveOutcome {
  if (!outcome.ok) return { ok: false, problem: refusalSentence(toRefusal(outcome)) }
  refresh()
  return { ok: true, href, changeSet: outcome.changeSet }
}

function hrefOf(kind: EditableKind, record: Fields): string {
  return recordHref(sectionOf(kind).path, labelOf(kind, record as never))
}

function removal(seen: number | null, kind: ChangeRequest['kind'], id: string): ChangeRequest {
  return { kind, id, seen, after: null } as ChangeRequest
}

async function note(text: string) {
  return { author: await currentAuthor(), note: text, at: currentInstant() }
}

function currentOf(store: Store, kind: EditableKind, id: string): Fields | null {
  return (store[kind].get(id) as Fields | undefined) ?? null
}

function goneSentence(kind: EditableKind): string {
  return `There is no such ${sectionOf(kind).singular} any more.`
}
