import 'server-only'

import type { Assortment } from '@/core/access/assortment'
import type { What } from '@/core/predicates/what'
import type { Where } from '@/core/predicates/where'
import type { Who } from '@/core/predicates/who'
import { labelOf } from '@/core/store/references'
import { getSettings, type Store } from '@/core/store/store'
import { type ChangeRequest, weigh } from '@/server/changes/weigh'
import { latestChangesOf } from '@/server/changes/history'
import { revisionOf } from '@/server/views/view'
import { toRefusal } from '@/server/changes/to-refusal'
import { type RequestContext, toRequestContext } from '@/server/engine/request-context'
import { toHistoryLines } from '@/ui/format/history-line'
import { refusalSentence } from '@/ui/format/refusal-sentence'
import type { ReactNode } from 'react'
import { assortmentAsScope } from '../fields/assortment-text'
import { fieldPhrase, type Fields } from '../fields/field-rule'
import { RECORD_FIELDS } from '../fields/record-fields'
import { findRecord, isPutAway, nameOf } from './find-record'
import { asCopy, beginning, requestsToMake } from './new-record'
import { type EditableKind, sectionOf } from './sections'
import type { FieldView, Sentence, SheetView } from './sheet-view'

const SHOWN_CHANGES = 8
/** The id of a record that nobody has saved yet, while it is weighed. */
const UNSAVED = 'unsaved'

/** A record on its sheet, as it stands and as it would be with what is typed. */
export interface LoadedSheet {
  readonly view: SheetView
  /** As it would be; it need not be one that could be saved. */
  readonly record: Fields
  readonly stored: Fields | null
  readonly id: string
  readonly before: RequestContext
  /** The store with it in; `null` where nothing is typed, or what is typed could not be saved. */
  readonly after: RequestContext | null
}

/** How the sheet of one kind of record is drawn. */
export interface SheetOfKind {
  readonly sentence: (record: Fields, store: Store) => Sentence
  readonly details: (record: Fields, store: Store) => Sentence
  /** Behind the title, in small, after the kind. */
  readonly about?: (record: Fields, requestContext: RequestContext) => string
  readonly flag?: (record: Fields, requestContext: RequestContext) => string
  /** What the record brings about, beside and under the sentence. */
  readonly effect: (loaded: LoadedSheet) => Promise<SheetEffect> | SheetEffect
}

export interface SheetEffect {
  readonly main: ReactNode
  readonly side: ReactNode
  /** Links of the kind, before Copy and Archive. */
  readonly actions?: ReactNode
  readonly hasOwnHistory?: boolean
  /** What saving would bring about, in one line. */
  readonly summary?: string
}

export interface SheetWanted {
  /** What the record goes by; `null` for one that is being made. */
  readonly label: string | null
  readonly copyOf: string | null
  /** What is typed and not saved, by field. */
  readonly texts: Readonly<Record<string, string>>
}

/**
 * Everything a record's sheet shows.
 *
 * Errors  `null` when no record of the kind goes by the label.
 */
export async function loadSheet(
  requestContext: RequestContext,
  kind: EditableKind,
  wanted: SheetWanted,
  sheet: SheetOfKind,
): Promise<LoadedSheet | null> {
  const { view: from, prepared } = requestContext
  const { store } = prepared
  const stored = wanted.label === null ? null : findRecord(store, kind, wanted.label)
  if (wanted.label !== null && !stored) return null
  const source = wanted.copyOf === null ? null : findRecord(store, kind, wanted.copyOf)
  const start = stored ?? (source ? asCopy(kind, source) : beginning(store, kind))
  const { record, problems } = withTexts(store, kind, start, wanted.texts)
  const id = stored ? String(stored['id']) : UNSAVED
  const isTried = Object.keys(wanted.texts).length > 0 || !stored
  const requests = stored
    ? ([{ kind, id, seen: revisionOf(from, kind, id), after: record }] as unknown as readonly ChangeRequest[])
    : requestsToMake(store, kind, record, source, UNSAVED)
  const weighed = isTried && requestContext.live ? await weigh(from, requests) : null
  const after = weighed?.ok
    ? toRequestContext({ ...from, prepared: weighed.after }, requestContext.vantage, requestContext.now)
    : null
  const refused = weighed && !weighed.ok && weighed.code !== 'nothing-to-change' ? weighed : null
  const { singular } = sectionOf(kind)
  const view: SheetView = {
    kind,
    id: stored ? id : '',
    label: stored ? labelOf(kind, stored as never) : '',
    title: nameOf(kind, record),
    about: [singular, sheet.about?.(record, requestContext)].filter(Boolean).join(' · '),
    flag: stored ? (sheet.flag?.(record, requestContext) ?? '') : '',
    sentence: sheet.sentence(record, store),
    details: sheet.details(record, store),
    fields: fieldViews(store, kind, record, stored),
    texts: wanted.texts,
    problems,
    refusal: refused ? refusalSentence(toRefusal(refused)) : '',
    copyOf: wanted.copyOf,
    archived: stored !== null && isPutAway(kind, stored),
    revision: stored ? revisionOf(from, kind, id) : null,
    live: requestContext.live,
    vantage: requestContext.vantage,
    asOf: from.asOf,
    history: stored
      ? toHistoryLines(await latestChangesOf(from, kind, id, SHOWN_CHANGES), getSettings(store).timeZone)
      : [],
  }
  // A currency is known by its code, once it has one.
  const drawnId = !stored && kind === 'currency' ? String(record['code']) : id
  return { view, record, stored, id: drawnId, before: requestContext, after }
}

/** A record with what is typed in its fields; what cannot be read leaves its field as it was. */
export function withTexts(
  store: Store,
  kind: EditableKind,
  start: Fields,
  texts: Readonly<Record<string, string>>,
): { readonly record: Fields; readonly problems: Readonly<Record<string, string>> } {
  let record = start
  const problems: Record<string, string> = {}
  for (const rule of RECORD_FIELDS[kind]) {
    const text = texts[rule.field]
    if (text === undefined || text === rule.write(record, store)) continue
    const read = rule.read(text, record, store)
    if (read.ok) record = { ...record, ...read.value }
    else problems[rule.field] = read.problem
  }
  return { record, problems }
}

function fieldViews(
  store: Store,
  kind: EditableKind,
  record: Fields,
  stored: Fields | null,
): readonly FieldView[] {
  return RECORD_FIELDS[kind].map((rule): FieldView => {
    const text = rule.write(record, store)
    const isChanged = stored !== null && rule.write(stored, store) !== text
    return {
      field: rule.field,
      name: rule.name,
      hint: rule.hint,
      control: rule.control,
      chooses: rule.chooses ?? null,
      who: rule.control === 'who' ? (record[rule.field] as Who) : null,
      what:
        rule.control === 'what'
          ? (record[rule.field] as What)
          : rule.control === 'assortment'
            ? assortmentAsScope(record[rule.field] as Assortment | null)
            : null,
      where: rule.control === 'where' ? (record[rule.field] as Where) : null,
      options: rule.options?.(store) ?? [],
      text,
      phrase: fieldPhrase(rule, record, store),
      before: isChanged ? fieldPhrase(rule, stored, store) || 'nothing' : null,
    }
  })
}
