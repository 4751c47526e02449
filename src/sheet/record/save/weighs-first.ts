import type { EditableKind } from '../sections'

/** Kinds whose records say what others see or pay: what a change of them would move is shown before it is saved. */
const WEIGHED: ReadonlySet<EditableKind> = new Set<EditableKind>([
  'access-rule',
  'adjustment',
  'contract',
  'currency',
  'limit',
  'price-list',
  'promotion',
  'proof',
  'region',
  'settings',
])

/** Whether a change of such a record is tried first; others are saved word by word. */
export function weighsFirst(kind: EditableKind): boolean {
  return WEIGHED.has(kind)
}

const SWITCHED: ReadonlySet<EditableKind> = new Set<EditableKind>([
  'access-rule',
  'adjustment',
  'limit',
  'price-list',
  'promotion',
])

/** Whether records of a kind are switched on and off. */
export function isSwitched(kind: EditableKind): boolean {
  return SWITCHED.has(kind)
}
