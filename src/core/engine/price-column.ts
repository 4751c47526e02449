import { buyerKey, type BuyerReference } from '../buyers/buyer'
import type { Decimal } from '../decimal/decimal'
import { type CompiledList, findRow } from './compiled-list'
import { findLadder } from './prepare'
import type { LadderList, PreparedStore, PriceColumn } from './prepared-store'
import { type PriceStep, runPriceStep, toPrice } from './price-step'

/** A price found by looking up, without its trace. */
export interface FoundPrice {
  /** In smallest units; NaN where there is no price. */
  readonly units: number
  /** Id of the list that decided; `null` for the base price (or none). */
  readonly list: string | null
}

/** A line's price and how specific the line is; the same object is used again by every call. */
const scratch = { units: Number.NaN, specificity: 0 }

/**
 * What one buyer pays for one variant.
 *
 * Errors  `null` when the buyer or the variant does not exist.
 */
export function findPrice(
  prepared: PreparedStore,
  buyer: BuyerReference,
  variant: string,
): FoundPrice | null {
  const ladder = findLadder(prepared, buyer)
  const number = prepared.index.numberOf.get(variant)
  if (!ladder || number === undefined) return null
  for (const lists of ladder) {
    const won = bestOfStep(prepared, lists, number)
    if (won) return { units: scratch.units, list: won.compiled.list.id }
  }
  return { units: prepared.base[number] as number, list: null }
}

/** A price found by looking up, as an amount. */
interface LookedUpPrice {
  /** In currency units; `null` without a price. */
  readonly unit: Decimal | null
  /** Id of the list that decided; `null` for the base price (or none). */
  readonly list: string | null
}

/**
 * What one buyer pays for one variant, as an amount.
 *
 * Errors  `null` when the buyer or the variant does not exist.
 */
export function lookUpPrice(
  prepared: PreparedStore,
  buyer: BuyerReference,
  variant: string,
): LookedUpPrice | null {
  const found = findPrice(prepared, buyer, variant)
  return found && { unit: toPrice(found.units, prepared.digits), list: found.list }
}

/**
 * What one buyer pays for every variant. Kept until the store changes.
 *
 * Errors  `null` when the buyer does not exist.
 */
export function priceColumn(prepared: PreparedStore, buyer: BuyerReference): PriceColumn | null {
  const key = buyerKey(buyer)
  const known = prepared.columns.get(key)
  if (known) return known
  const column = computeColumn(prepared, buyer)
  if (column) prepared.columns.set(key, column)
  return column
}

/** The same without looking for a kept column or keeping it. */
export function computeColumn(prepared: PreparedStore, buyer: BuyerReference): PriceColumn | null {
  const ladder = findLadder(prepared, buyer)
  if (!ladder) return null
  const { base } = prepared
  const prices = new Float64Array(base.length).fill(Number.NaN)
  const sources = new Int16Array(base.length).fill(-1)
  const lists: string[] = []
  let open = base.length
  for (const step of ladder) {
    if (open === 0) break
    const source = lists.length
    lists.push(...step.map(({ compiled }) => compiled.list.id))
    open -=
      step.length === 1
        ? fillFromList(prepared, (step[0] as LadderList).compiled, source, prices, sources)
        : fillFromStep(prepared, step, source, prices, sources)
  }
  if (open > 0) fillFromBase(base, prices, sources)
  return { prices, sources, lists }
}

/** Fills the open cells a single list has a price for, and tells how many. */
function fillFromList(
  prepared: PreparedStore,
  compiled: CompiledList,
  source: number,
  prices: Float64Array,
  sources: Int16Array,
): number {
  const { index, base } = prepared
  const { exceptions, plan, steps } = compiled
  let filled = 0
  let next = 0
  for (let signature = 0; signature + 1 < index.signatureStarts.length; signature += 1) {
    const from = index.signatureStarts[signature] as number
    const to = index.signatureStarts[signature + 1] as number
    const candidate = plan.starts[signature] as number
    if (candidate === plan.starts[signature + 1]) {
      while (next < exceptions.length && (exceptions[next] as number) < to) {
        filled += fillCell(prepared, compiled, exceptions[next] as number, source, prices, sources)
        next += 1
      }
      continue
    }
    const step = steps[plan.lines[candidate] as number] as PriceStep
    for (let start = from; start < to;) {
      const exception =
        next < exceptions.length && (exceptions[next] as number) < to ? (exceptions[next] as number) : to
      filled += sweep(step, base, start, exception, source, prices, sources)
      // What the first line could not price, a less specific one may.
      for (let number = start; number < exception; number += 1) {
        if (sources[number] === -1) filled += fillCell(prepared, compiled, number, source, prices, sources)
      }
      if (exception < to) {
        filled += fillCell(prepared, compiled, exception, source, prices, sources)
        next += 1
      }
      start = exception + 1
    }
  }
  return filled
}

/** The hot loop: one compiled step over neighbouring variants. */
function sweep(
  step: PriceStep,
  base: Float64Array,
  from: number,
  to: number,
  source: number,
  prices: Float64Array,
  sources: Int16Array,
): number {
  let filled = 0
  for (let number = from; number < to; number += 1) {
    if (sources[number] !== -1) continue
    const units = runPriceStep(step, base[number] as number)
    if (units !== units) continue
    prices[number] = units
    sources[number] = source
    filled += 1
  }
  return filled
}

function fillCell(
  prepared: PreparedStore,
  compiled: CompiledList,
  number: number,
  source: number,
  prices: Float64Array,
  sources: Int16Array,
): number {
  if (sources[number] !== -1 || !findInList(prepared, compiled, number)) return 0
  prices[number] = scratch.units
  sources[number] = source
  return 1
}

function fillFromStep(
  prepared: PreparedStore,
  lists: readonly LadderList[],
  source: number,
  prices: Float64Array,
  sources: Int16Array,
): number {
  let filled = 0
  for (let number = 0; number < prices.length; number += 1) {
    if (sources[number] !== -1) continue
    const won = bestOfStep(prepared, lists, number)
    if (!won) continue
    prices[number] = scratch.units
    sources[number] = source + lists.indexOf(won)
    filled += 1
  }
  return filled
}

function fillFromBase(base: Float64Array, prices: Float64Array, sources: Int16Array): void {
  for (let number = 0; number < prices.length; number += 1) {
    if (sources[number] === -1) prices[number] = base[number] as number
  }
}

/** Which of the lists that share rung and rank decides; its price is left in `scratch`. */
function bestOfStep(
  prepared: PreparedStore,
  lists: readonly LadderList[],
  number: number,
): LadderList | null {
  let best: LadderList | null = null
  let units = Number.NaN
  let specificity = Number.NEGATIVE_INFINITY
  for (const list of lists) {
    if (!findInList(prepared, list.compiled, number) || scratch.specificity <= specificity) continue
    best = list
    units = scratch.units
    specificity = scratch.specificity
  }
  scratch.units = units
  scratch.specificity = specificity
  return best
}

/** Whether a list has a price for a variant; it is left in `scratch`. */
function findInList(prepared: PreparedStore, compiled: CompiledList, number: number): boolean {
  const { rows, key } = findRow(compiled, prepared.index, number)
  const source = prepared.base[number] as number
  const end = rows.starts[key + 1] as number
  for (let at = rows.starts[key] as number; at < end; at += 1) {
    const units = runPriceStep(compiled.steps[rows.lines[at] as number] as PriceStep, source)
    if (units !== units) continue
    scratch.units = units
    scratch.specificity = rows.specificities[at] as number
    return true
  }
  return false
}
