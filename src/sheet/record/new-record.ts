import 'server-only'

import { codeFromName } from '@/core/store/code-from-name'
import { RECORD_DEFAULTS } from '@/core/store/record-defaults'
import { getSettings, type Store } from '@/core/store/store'
import type { ChangeRequest } from '@/server/changes/weigh'
import type { Fields } from '../fields/field-rule'
import { copiedLines, copiedLists } from './copy-record'
import { findRecord } from './find-record'
import type { EditableKind } from './sections'

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
    ...(kind === 'promotion' && {
      value: { kind: 'item-price', saving: { kind: 'percent', percent: '10' }, closes: false },
    }),
    ...(kind === 'proof' && { claim: 'price-at-most' }),
    ...(kind === 'adjustment' && { state: 'off', method: { kind: 'percent', percent: '-10' } }),
    ...('position' in RECORD_DEFAULTS[kind] && { position: store[kind].size }),
  }
}

/** A copy keeps everything but its name; what takes effect at once begins switched off. */
export function asCopy(kind: EditableKind, source: Fields): Fields {
  const { id: _id, ...fields } = source
  return {
    ...fields,
    ...(kind === 'variant' ? { sku: '' } : { code: '' }),
    ...('name' in fields && { name: `${String(fields['name'])}, copy` }),
    ...(kind === 'contract' && { state: 'draft' }),
    ...((kind === 'adjustment' || kind === 'price-list' || kind === 'promotion') && { state: 'off' }),
  }
}

/** What making a record comes to: the record itself, and whatever a copy takes along that lies in records of its own. */
export function requestsToMake(
  store: Store,
  kind: EditableKind,
  record: Fields,
  source: Fields | null,
  newId: string,
): readonly [ChangeRequest, ...ChangeRequest[]] {
  const code =
    record['code'] === '' && record['name']
      ? codeFromName(String(record['name']), (each) => findRecord(store, kind, each) !== null, kind)
      : record['code']
  // Whom a list of a contract is for, the contract says.
  const isForNobody =
    kind === 'price-list' && record['purpose'] === 'contract' && !source && isForEveryone(record)
  // A currency is known by its code everywhere, so that is its id.
  const id = kind === 'currency' ? String(record['code']) : newId
  const made = {
    ...record,
    ...(code !== undefined && { code }),
    ...(isForNobody && { audience: { include: [], exclude: [] } }),
    id,
  }
  const copied = source ? copiedParts(store, kind, source, made) : null
  const request = { kind, id, seen: null, after: { ...made, ...copied?.fields } } as unknown as ChangeRequest
  return [request, ...(copied?.requests ?? [])]
}

function isForEveryone(record: Fields): boolean {
  const { include, exclude } = record['audience'] as { include: { kind: string }[]; exclude: unknown[] }
  return exclude.length === 0 && include.every(({ kind }) => kind === 'everyone')
}

function copiedParts(store: Store, kind: EditableKind, source: Fields, copy: Fields) {
  const [id, copyId] = [String(source['id']), String(copy['id'])]
  if (kind === 'price-list') return { fields: {}, requests: copiedLines(store, id, copyId) }
  if (kind !== 'contract') return null
  const lists = copy['lists'] as readonly string[]
  const copied = copiedLists(store, id, lists, String(copy['name']))
  return { fields: { lists: copied.lists }, requests: copied.requests }
}
