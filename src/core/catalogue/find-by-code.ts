import type { Variant } from './product'

/** Two codes that differ only in case are the same: people type them either way. */
function isSame(left: string, right: string): boolean {
  return left.toLowerCase() === right.toLowerCase()
}

/** Errors  `null` when no record of the kind has the code. */
export function findByCode<Coded extends { readonly code: string }>(
  records: ReadonlyMap<string, Coded>,
  code: string,
): Coded | null {
  for (const record of records.values()) if (isSame(record.code, code)) return record
  return null
}

/** Errors  `null` when no variant has the SKU. */
export function findBySku(variants: ReadonlyMap<string, Variant>, sku: string): Variant | null {
  for (const variant of variants.values()) if (isSame(variant.sku, sku)) return variant
  return null
}
