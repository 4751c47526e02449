import { RECORD_DEFAULTS } from '@/core/store/record-defaults'
import type { ChangeRequest } from '@/server/changes/weigh'
import { type Steppe } from '@/server/engine/steppe'
import { liveView, liveTarget, revisionOf } from '@/server/views/view'

type Fields = Readonly<Record<string, unknown>>

/** A record that does not exist yet. */
export function newRecord(kind: keyof typeof RECORD_DEFAULTS, id: string, fields: Fields): ChangeRequest {
  const after = { ...RECORD_DEFAULTS[kind], id, code: id, name: id, ...fields }
  return { kind, id, seen: null, after } as unknown as ChangeRequest
}

export function newProducts(count: number): readonly ChangeRequest[] {
  return Array.from({ length: count }, (_, at) =>
    newRecord('product', `many-${at}`, { categories: ['category-hives'], basePrice: '1' }),
  )
}

/** A record as it is, with some fields changed; `null` removes it. */
export function edited(
  steppe: Steppe,
  kind: 'product' | 'category',
  id: string,
  fields: Fields | null,
): ChangeRequest {
  const record = liveView(steppe).prepared.store[kind].get(id) as object
  const after = fields && { ...record, ...fields }
  return { kind, id, seen: revisionOf(liveTarget(steppe), kind, id), after } as unknown as ChangeRequest
}

/** Every one of the many products at a price, and under another code. */
export function repriced(steppe: Steppe, count: number, price: string): readonly ChangeRequest[] {
  return Array.from({ length: count }, (_, at) =>
    edited(steppe, 'product', `many-${at}`, { basePrice: price, code: `many-${at}-at-${price}` }),
  )
}
