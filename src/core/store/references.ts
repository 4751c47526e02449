import type { WhatTerm } from '../predicates/what'
import type { WhoTerm } from '../predicates/who'
import type { RecordKind } from '../issue/issue'
import type { Change, RecordOfKind, Store } from './store'

/** That one record speaks of another. */
export interface Reference {
  readonly field: string
  readonly kind: RecordKind
  readonly id: string
}

type AnyRecord = RecordOfKind[RecordKind]

/** Everything a record speaks of, so that it can be checked and followed. */
export function referencesOf(kind: RecordKind, record: AnyRecord): readonly Reference[] {
  switch (kind) {
    case 'settings':
    case 'group':
      return []
    case 'category': {
      const { parent } = record as RecordOfKind['category']
      return parent === null ? [] : [{ field: 'parent', kind: 'category', id: parent }]
    }
    case 'product':
      return (record as RecordOfKind['product']).categories.map((id) => ({
        field: 'categories',
        kind: 'category',
        id,
      }))
    case 'variant':
      return [{ field: 'product', kind: 'product', id: (record as RecordOfKind['variant']).product }]
    case 'account':
      return (record as RecordOfKind['account']).groups.map((id) => ({ field: 'groups', kind: 'group', id }))
    case 'price-list': {
      const { audience } = record as RecordOfKind['price-list']
      return [...audience.include, ...audience.exclude].flatMap(whoReference)
    }
    case 'price-line': {
      const { list, scope } = record as RecordOfKind['price-line']
      return [
        { field: 'list', kind: 'price-list', id: list },
        ...[...scope.include, ...scope.exclude].flatMap(whatReference),
      ]
    }
  }
}

/** What people call a record. */
export function labelOf(kind: RecordKind, record: AnyRecord): string {
  if (kind === 'variant') return (record as RecordOfKind['variant']).sku
  if (kind === 'price-line') return `line ${(record as RecordOfKind['price-line']).position + 1}`
  if (kind === 'settings') return (record as RecordOfKind['settings']).name
  return (record as RecordOfKind['product']).code
}

/** The records that speak of this one, as far as they would be left without it. */
export function findDependants(store: Store, { kind, id }: Pick<Change, 'kind' | 'id'>): readonly string[] {
  const found: string[] = []
  for (const [otherKind, records] of Object.entries(store) as [
    RecordKind,
    ReadonlyMap<string, AnyRecord>,
  ][]) {
    for (const record of records.values()) {
      if (
        referencesOf(otherKind, record).some((reference) => reference.kind === kind && reference.id === id)
      ) {
        found.push(labelOf(otherKind, record))
      }
    }
  }
  return found
}

function whoReference(term: WhoTerm): readonly Reference[] {
  if (term.kind === 'group') return [{ field: 'audience', kind: 'group', id: term.group }]
  if (term.kind === 'account') return [{ field: 'audience', kind: 'account', id: term.account }]
  return []
}

function whatReference(term: WhatTerm): readonly Reference[] {
  if (term.kind === 'category') return [{ field: 'scope', kind: 'category', id: term.category }]
  if (term.kind === 'product') return [{ field: 'scope', kind: 'product', id: term.product }]
  if (term.kind === 'variant') return [{ field: 'scope', kind: 'variant', id: term.variant }]
  return []
}
