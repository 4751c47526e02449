import 'server-only'

import { inTreeOrder } from '@/core/catalogue/category'
import { findByCode, findBySku } from '@/core/catalogue/find-by-code'
import type { What } from '@/core/predicates/what'
import type { Who } from '@/core/predicates/who'
import { labelOf } from '@/core/store/references'
import { getSettings, type RecordOfKind, type Store } from '@/core/store/store'
import { latestChangesOf, revisionOf } from '@/server/changes/history'
import type { Outlook } from '@/server/engine/look-from'
import { RECORD_DEFAULTS } from '@/core/store/record-defaults'
import { toHistoryLines } from '@/ui/format/history-line'
import type { Fields } from './field-rule'
import { RECORD_FIELDS } from './record-fields'
import { flagOf, linksOf, rateChart, relatedOf } from './record-story'
import { COLUMNS } from './record-columns'
import type { FieldView, RecordTableView, RecordView } from './record-view'
import type { EditableKind } from './sections'

const SHOWN_CHANGES = 8

/** Every record of a kind: categories as they hang on their tree, others by name, those put away last. */
export function loadRecords(outlook: Outlook, kind: EditableKind): RecordTableView {
  const { store } = outlook.prepared
  const columns = COLUMNS[kind].map((column) => {
    if ('cell' in column) return column
    const counts = column.count(outlook)
    return { title: column.title, cell: ({ id }: { readonly id: string }) => String(counts.get(id) ?? 0) }
  })
  const branches = kind === 'category' ? inTreeOrder(store.category) : []
  const places = new Map(branches.map(({ category, depth }, at) => [category.id, { at, depth }]))
  return {
    columns: columns.map(({ title }) => title),
    rows: recordsOf(store, kind)
      .map((record) => ({
        label: labelOf(kind, record as never),
        name: nameOf(kind, record),
        cells: columns.map(({ cell }) => cell(record as never, outlook)),
        flag: flagOf(outlook, kind, record),
        archived: isPutAway(kind, record),
        depth: places.get(record['id'] as string)?.depth ?? 0,
        at: places.get(record['id'] as string)?.at ?? 0,
      }))
      .sort(
        (left, right) =>
          Number(left.archived) - Number(right.archived) ||
          left.at - right.at ||
          (left.name < right.name ? -1 : 1),
      )
      .map(({ at: _at, ...row }) => row),
    live: outlook.live,
  }
}

/**
 * Everything a record's sheet shows.
 *
 * Errors  `null` when no record of the kind goes by the label.
 */
export async function loadRecord(
  outlook: Outlook,
  kind: EditableKind,
  label: string,
): Promise<RecordView | null> {
  const { store } = outlook.prepared
  const record = findRecord(store, kind, label)
  if (!record) return null
  const { steppe } = outlook
  const id = record['id'] as string
  const { timeZone } = getSettings(store)
  return {
    ...viewOf(outlook, kind, record),
    id,
    label: labelOf(kind, record as never),
    title: nameOf(kind, record),
    flag: flagOf(outlook, kind, record),
    related: relatedOf(outlook, kind, record),
    links: linksOf(store, kind, record),
    chart: kind === 'currency' ? rateChart(store, id) : null,
    archived: isPutAway(kind, record),
    revision: revisionOf(steppe, kind, id),
    history: toHistoryLines(await latestChangesOf(steppe, kind, id, SHOWN_CHANGES), timeZone),
  }
}

/** The sheet of a record nobody has made yet, as it would begin. */
export function loadNewRecord(outlook: Outlook, kind: EditableKind, copyOf: string | null): RecordView {
  const { store } = outlook.prepared
  const source = copyOf === null ? null : findRecord(store, kind, copyOf)
  return {
    ...viewOf(outlook, kind, source ? asCopy(kind, source) : beginning(store, kind)),
    id: '',
    label: copyOf ?? '',
    title: '',
    flag: '',
    related: [],
    links: [],
    chart: null,
    archived: false,
    revision: null,
    history: [],
  }
}

function viewOf(outlook: Outlook, kind: EditableKind, record: Fields) {
  const { store } = outlook.prepared
  return {
    kind,
    fields: RECORD_FIELDS[kind].map((rule): FieldView => {
      const text = rule.write(record, store)
      return {
        field: rule.field,
        name: rule.name,
        hint: rule.hint,
        control: rule.control,
        who: rule.control === 'who' ? (record[rule.field] as Who) : null,
        what: rule.control === 'what' ? (record[rule.field] as What) : null,
        options: rule.options?.(store) ?? [],
        text,
        phrase: rule.phrase?.(record, store) ?? text,
      }
    }),
    live: outlook.live,
    vantage: outlook.vantage,
    asOf: outlook.steppe.lastChangeSet,
  }
}

/** What a new record says before anybody says anything. */
export function beginning(store: Store, kind: EditableKind): Fields {
  const { currency } = getSettings(store)
  const named =
    kind === 'variant'
      ? { sku: '', product: null }
      : kind === 'currency'
        ? { code: '' }
        : { code: '', name: '' }
  return {
    ...named,
    ...RECORD_DEFAULTS[kind],
    ...(kind === 'price-list' && { currency }),
    // As many as ISO 4217 says.
    ...(kind === 'currency' && { priceDigits: null }),
    ...(kind === 'product' && { categories: [] }),
    ...(kind === 'contract' && { state: 'draft' }),
    // What the form shows first; in a document a rule has to say it.
    ...(kind === 'access-rule' && { effect: 'hide' }),
    ...(kind === 'adjustment' && { state: 'off', method: { kind: 'percent', percent: '-10' } }),
    ...('position' in RECORD_DEFAULTS[kind] && { position: store[kind].size }),
  }
}

/** A copy keeps everything but its name; what starts something begins put away. */
export function asCopy(kind: EditableKind, source: Fields): Fields {
  const { id: _id, ...fields } = source
  return {
    ...fields,
    ...(kind === 'variant' ? { sku: '' } : { code: '' }),
    ...('name' in fields && { name: `${String(fields['name'])}, copy` }),
    ...(kind === 'contract' && { state: 'draft' }),
    ...((kind === 'adjustment' || kind === 'price-list') && { state: 'off' }),
  }
}

export function findRecord(store: Store, kind: EditableKind, label: string): Fields | null {
  // There is one store, whatever it is called.
  if (kind === 'settings') return getSettings(store) as unknown as Fields
  const found =
    kind === 'variant'
      ? findBySku(store.variant, label)
      : findByCode(store[kind] as ReadonlyMap<string, { readonly code: string }>, label)
  return found as unknown as Fields | null
}

function recordsOf(store: Store, kind: EditableKind): readonly Fields[] {
  return [
    ...(store[kind] as ReadonlyMap<string, RecordOfKind[EditableKind]>).values(),
  ] as unknown as readonly Fields[]
}

function nameOf(kind: EditableKind, record: Fields): string {
  return String(record['name'] ?? labelOf(kind, record as never))
}

/** Whether a record is kept without taking part: archived, or a contract that has been ended. */
export function isPutAway(kind: EditableKind, record: Fields): boolean {
  return kind === 'contract' ? record['state'] === 'ended' : record['status'] === 'archived'
}
