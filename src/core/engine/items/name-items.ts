import {
  isVolatile,
  matchWhat,
  PRODUCT_SPECIFICITY,
  VARIANT_SPECIFICITY,
  type What,
} from '../../predicates/what'
import type { PriceLine } from '../../price/lines/price-list'
import type { Store } from '../../store/store'
import type { CandidateRows } from './candidate-rows'
import { type CatalogueIndex, factsOf } from './catalogue-index'

/** All that one pass over a list's lines can tell. */
export interface NamedItems {
  readonly named: Int32Array
  readonly rows: CandidateRows
  /** Numbers of items whose row must be complete. */
  readonly complete: readonly number[]
  /** Positions of the lines that name each of these items. */
  readonly lines: ReadonlyMap<number, readonly number[]>
  readonly broad: readonly number[]
  readonly isVolatile: boolean
}

/** Whether what a scope reaches changes with prices or stock. */
export function isVolatileScope({ include, exclude }: What): boolean {
  return include.some(isVolatile) || exclude.some(isVolatile)
}

/**
 * The lines for single variants, products and extras, by item; and which lines say more than that. This is where
 * preparing a large store spends its time: nearly every line is for one variant.
 */
export function nameItems(
  lines: readonly PriceLine[],
  numbers: readonly number[],
  store: Store,
  index: CatalogueIndex,
): NamedItems {
  const broad: number[] = []
  const complete = new Set<number>()
  const linesOf = new Map<number, number[]>()
  // Number, then whether it is only named through its product, then the line: one number that sorts like all three.
  const width = lines.length + 1
  const keys = new GrowingNumbers(lines.length)
  let volatile = false
  for (let at = 0; at < lines.length; at += 1) {
    const only = numbers[at] as number
    if (only >= 0) {
      keys.push(only * 2 * width + at)
      continue
    }
    const { scope } = lines[at] as PriceLine
    let isBroad = false
    for (const term of scope.include) {
      if (term.kind === 'variant' || term.kind === 'extra') {
        const number = index.numberOf.get(term.kind === 'variant' ? term.variant : term.extra)
        if (number !== undefined) keys.push(number * 2 * width + at)
      } else if (term.kind === 'product') {
        for (const number of index.numbersOfProduct.get(term.product) ?? [])
          keys.push((number * 2 + 1) * width + at)
      } else isBroad = true
    }
    if (isBroad) broad.push(at)
    const isSpecial = scope.exclude.length > 0 || isVolatileScope(scope)
    if (!isSpecial) continue
    volatile ||= isVolatileScope(scope)
    for (const number of specialItems(scope, store, index)) {
      complete.add(number)
      const known = linesOf.get(number)
      if (known) known.push(at)
      else linesOf.set(number, [at])
    }
  }
  for (const number of complete) keys.push(number * 2 * width + width - 1)
  return {
    ...rowsOf(keys.sorted(), width, complete, linesOf),
    complete: [...complete],
    lines: linesOf,
    broad,
    isVolatile: volatile,
  }
}

/** A list of numbers that is sorted once. */
class GrowingNumbers {
  private values: Float64Array
  private length = 0

  constructor(expected: number) {
    this.values = new Float64Array(expected + 16)
  }

  push(value: number): void {
    if (this.length === this.values.length) {
      const larger = new Float64Array(this.length * 2)
      larger.set(this.values)
      this.values = larger
    }
    this.values[this.length] = value
    this.length += 1
  }

  sorted(): Float64Array {
    return this.values.subarray(0, this.length).sort()
  }
}

function isAmong(values: Int32Array, from: number, to: number, wanted: number): boolean {
  for (let at = from; at < to; at += 1) if (values[at] === wanted) return true
  return false
}

function rowsOf(
  keys: Float64Array,
  width: number,
  complete: ReadonlySet<number>,
  linesOf: ReadonlyMap<number, number[]>,
): Pick<NamedItems, 'named' | 'rows'> {
  const named = new Int32Array(keys.length)
  const starts = new Int32Array(keys.length + 1)
  const lines = new Int32Array(keys.length)
  const specificities = new Int32Array(keys.length)
  let items = 0
  let candidates = 0
  let last = -1
  for (let key = 0; key < keys.length; key += 1) {
    const value = keys[key] as number
    const half = Math.floor(value / width)
    const at = value - half * width
    const number = half >> 1
    if (number !== last) {
      last = number
      named[items] = number
      starts[items] = candidates
      items += 1
    }
    if (at === width - 1) continue
    // A line that names an item and its product stands once, by the nearer of the two.
    if (isAmong(lines, starts[items - 1] as number, candidates, at)) continue
    lines[candidates] = at
    specificities[candidates] = (half & 1) === 0 ? VARIANT_SPECIFICITY : PRODUCT_SPECIFICITY
    candidates += 1
    if (complete.size > 0 && complete.has(number)) linesOf.get(number)?.push(at)
  }
  starts[items] = candidates
  return {
    named: named.slice(0, items),
    rows: {
      starts: starts.slice(0, items + 1),
      lines: lines.slice(0, candidates),
      specificities: specificities.slice(0, candidates),
    },
  }
}

/**
 * Items a scope leaves out by name or, with anything to leave out, speaks of by name; and those in reach of its
 * price ranges and stock states.
 */
function specialItems(scope: What, store: Store, index: CatalogueIndex): readonly number[] {
  const terms = scope.exclude.length === 0 ? [] : [...scope.exclude, ...scope.include]
  const found = terms.flatMap((term): readonly number[] => {
    if (term.kind === 'product') return index.numbersOfProduct.get(term.product) ?? []
    if (term.kind !== 'variant' && term.kind !== 'extra') return []
    const number = index.numberOf.get(term.kind === 'variant' ? term.variant : term.extra)
    return number === undefined ? [] : [number]
  })
  const volatile = [...scope.include, ...scope.exclude].filter(isVolatile)
  if (volatile.length === 0) return found
  const reached: number[] = []
  for (let number = 0; number < index.variantCount; number += 1) {
    const facts = factsOf(store, index, number)
    if (matchWhat({ include: volatile, exclude: [] }, facts).matches) reached.push(number)
  }
  return [...found, ...reached]
}
