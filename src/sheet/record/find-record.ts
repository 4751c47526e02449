import 'server-only'

import { findByCode, findBySku } from '@/core/catalogue/find-by-code'
import { labelOf } from '@/core/store/references'
import { getSettings, type RecordOfKind, type Store } from '@/core/store/store'
import type { Fields } from '../fields/field-rule'
import type { EditableKind } from './sections'

/** A record by what it goes by in addresses; `null` where there is none. */
export function findRecord(store: Store, kind: EditableKind, label: string): Fields | null {
  // There is one store, whatever it is called.
  if (kind === 'settings') return getSettings(store) as unknown as Fields
  const found =
    kind === 'variant'
      ? findBySku(store.variant, label)
      : findByCode(store[kind] as ReadonlyMap<string, { readonly code: string }>, label)
  return found as unknown as Fields | null
}

export function recordsOf(store: Store, kind: EditableKind): readonly Fields[] {
  return [
    ...(store[kind] as ReadonlyMap<string, RecordOfKind[EditableKind]>).values(),
  ] as unknown as readonly Fields[]
}

export function nameOf(kind: EditableKind, record: Fields): string {
  return String(record['name'] ?? labelOf(kind, record as never))
}

/** Whether a record is kept without taking part: archived, or a contract that has been ended. */
export function isPutAway(kind: EditableKind, record: Fields): boolean {
  return kind === 'contract' ? record['state'] === 'ended' : record['status'] === 'archived'
}
