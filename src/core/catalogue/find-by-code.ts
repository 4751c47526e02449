import { findNearest, findNearestFew, type ReadyCandidates, readyCandidates } from '../issue/issue'
import { layersOf } from '../maps/layered-map'
import { sharedMemory } from '../maps/shared-memory'
import type { Variant } from './product'

type Entry<Item> = readonly [id: string, record: Item]

/** Codes in lower case against records; as long as the records, which are never changed in place. */
const INDEXES = sharedMemory('codes', () => new WeakMap<object, ReadonlyMap<string, Entry<unknown>>>())

/**
 * The record with a code. Two codes that differ only in case are the same: people type them either way. What was changed
 * since the records were indexed lies in a layer of its own, so that no edit costs a new index.
 */
function find<Item>(
  records: ReadonlyMap<string, Item>,
  wanted: string,
  codeOf: (record: Item) => string,
): Entry<Item> | null {
  const layers = layersOf(records)
  if (layers) {
    for (const [id, record] of layers.layer)
      if (record !== null && codeOf(record).toLowerCase() === wanted) return [id, record]
    const below = find(layers.below, wanted, codeOf)
    return below && layers.layer.has(below[0]) ? null : below
  }
  let index = INDEXES.get(records) as Map<string, Entry<Item>> | undefined
  if (!index) {
    index = new Map()
    for (const entry of records) {
      const code = codeOf(entry[1]).toLowerCase()
      if (!index.has(code)) index.set(code, entry)
    }
    INDEXES.set(records, index)
  }
  return index.get(wanted) ?? null
}

/** Errors  `null` when no record of the kind has the code. */
export function findByCode<Coded extends { readonly code: string }>(
  records: ReadonlyMap<string, Coded>,
  code: string,
): Coded | null {
  return find(records, code.toLowerCase(), (record) => record.code)?.[1] ?? null
}

/** Errors  `null` when no variant has the SKU. */
export function findBySku(variants: ReadonlyMap<string, Variant>, sku: string): Variant | null {
  return find(variants, sku.toLowerCase(), (variant) => variant.sku)?.[1] ?? null
}

/** SKUs ready to be looked through; as long as the variants, which are never changed in place. */
const SKUS = sharedMemory('skus', () => new WeakMap<object, ReadyCandidates>())

/** The SKU most like what was typed; `null` when none is like it at all. */
export function nearestSku(variants: ReadonlyMap<string, Variant>, typed: string): string | null {
  return findNearest(typed, readySkus(variants))
}

/** What SKUs are made of, mostly. */
const SIGNS = [...'abcdefghijklmnopqrstuvwxyz0123456789-._/']

/** Two signs swapped, or one too many: few enough to be tried first. */
function* shortSlips(text: string): Generator<string> {
  for (let at = 0; at + 1 < text.length; at += 1)
    yield `${text.slice(0, at)}${text[at + 1]}${text[at]}${text.slice(at + 2)}`
  for (let at = 0; at < text.length; at += 1) yield text.slice(0, at) + text.slice(at + 1)
}

/** Another sign, or one missing. */
function* longSlips(text: string): Generator<string> {
  for (let at = 0; at <= text.length; at += 1)
    for (const sign of SIGNS) {
      if (at < text.length) yield text.slice(0, at) + sign + text.slice(at + 1)
      yield text.slice(0, at) + sign + text.slice(at)
    }
}

/** Longer is no SKU whose slips are worth trying. */
const LONGEST_SLIP = 40

/**
 * The SKUs one slip away from what was typed, of those that are accepted: quick however many there are, as each is looked up by
 * its name.
 */
export function skusOneSlipAway(
  variants: ReadonlyMap<string, Variant>,
  typed: string,
  most: number,
  accepts: (sku: string) => boolean,
): readonly string[] {
  if (typed.length > LONGEST_SLIP) return []
  const found = new Set<string>()
  for (const slips of [shortSlips, longSlips]) {
    for (const slip of slips(typed.toLowerCase())) {
      const sku = findBySku(variants, slip)?.sku
      if (sku === undefined || found.has(sku) || !accepts(sku)) continue
      found.add(sku)
      if (found.size === most) break
    }
    if (found.size > 0) break
  }
  return [...found]
}

/** The SKUs most like what was typed, the nearest first, of those that are accepted: goes through every SKU. */
export function nearestSkus(
  variants: ReadonlyMap<string, Variant>,
  typed: string,
  most: number,
  accepts: (sku: string) => boolean,
): readonly string[] {
  return findNearestFew(typed, readySkus(variants), most, accepts)
}

function readySkus(variants: ReadonlyMap<string, Variant>): ReadyCandidates {
  let skus = SKUS.get(variants)
  if (!skus) {
    skus = readyCandidates([...variants.values()].map(({ sku }) => sku))
    SKUS.set(variants, skus)
  }
  return skus
}
