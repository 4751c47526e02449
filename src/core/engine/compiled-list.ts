import {
  type ItemFacts,
  isVolatile,
  matchWhat,
  PRODUCT_SPECIFICITY,
  VARIANT_SPECIFICITY,
  type What,
  type WhatTerm,
} from '../predicates/what'
import { type CompiledSchedule, compileSchedule } from '../predicates/when'
import { compareLines, type PriceLine, type PriceList } from '../price/price-list'
import { listsReferredTo } from '../price/price-references'
import { getSettings, priceDigitsOf, type Store } from '../store/store'
import { attributeKey, type CatalogueIndex, factsOf } from './catalogue-index'
import { compileLine, type CompiledLine } from './compiled-line'

/** Below every line that says what it is for. */
export const DEFAULT_LINE_SPECIFICITY = -1

/** A row of candidate lines for each key: those of key k stand at `starts[k]` up to `starts[k + 1]`. */
export interface CandidateRows {
  readonly starts: Int32Array
  readonly lines: Int32Array
  readonly specificities: Int32Array
}

/**
 * A price list made ready for looking up: which of its lines reach an item, most specific first. Lines for
 * categories, families and attributes are decided once a signature (the *plan*); items a line names itself have
 * a row of their own, after which the plan goes on, unless the row is complete.
 */
export class CompiledList {
  /** Of items with a row of their own: their numbers, rising, and the rows. */
  readonly named: Int32Array
  readonly namedRows: CandidateRows
  /** Positions in `named` whose rows say everything; `null` where none does. */
  readonly complete: Uint8Array | null
  readonly digits: number
  readonly schedule: CompiledSchedule
  /** Schedules of single lines. */
  readonly lineSchedules: readonly CompiledSchedule[]
  /** Ids of the lists its prices are computed from. */
  readonly referredTo: ReadonlySet<string>
  /** Whether some of it must be made anew when prices or stock of an item change. */
  readonly isVolatile: boolean
  /** Whether the quantity bought matters. */
  readonly hasBreaks: boolean
  /** Positions of lines with a term above the product. */
  private readonly broad: readonly number[]
  private readonly compiledLines: (CompiledLine | undefined)[] = []
  private planRows: CandidateRows | null = null
  private scopeMask: Uint8Array | null = null

  constructor(
    readonly list: PriceList,
    /** In the order they are asked when equally specific. */
    readonly lines: readonly PriceLine[],
    private readonly store: Store,
    private readonly index: CatalogueIndex,
  ) {
    const { timeZone } = getSettings(store)
    this.digits = priceDigitsOf(store, list.currency)
    this.schedule = compileSchedule(list.schedule, timeZone)
    this.lineSchedules = lines.flatMap(({ schedule }) =>
      schedule ? [compileSchedule(schedule, timeZone)] : [],
    )
    this.referredTo = listsReferredTo(list, lines)
    this.isVolatile = [list.scope, ...lines.map(({ scope }) => scope)].some(
      ({ include, exclude }) => include.some(isVolatile) || exclude.some(isVolatile),
    )
    this.hasBreaks = [...lines, ...(list.defaultLine ? [list.defaultLine] : [])].some(
      ({ breaks }) => breaks.length > 1 || breaks[0]?.from !== '0',
    )
    const found = nameItems(lines, store, index)
    this.broad = found.broad
    this.named = found.named
    const completed = found.complete.length === 0 ? null : this.completeRows(found)
    this.namedRows = completed?.rows ?? found.rows
    this.complete = completed?.flags ?? null
  }

  /** A line by its position; the default line stands behind the last. */
  line(position: number): CompiledLine {
    return (this.compiledLines[position] ??= compileLine(this.list, this.lines[position], this.store))
  }

  /** Candidates of each signature, made when first asked for. */
  plan(): CandidateRows {
    return (this.planRows ??= this.makePlan())
  }

  /** Where an item's own row stands in `named`; −1 without one. */
  findNamed(number: number): number {
    const { named } = this
    let low = 0
    let high = named.length - 1
    while (low <= high) {
      const middle = (low + high) >> 1
      const found = named[middle] as number
      if (found === number) return middle
      if (found < number) low = middle + 1
      else high = middle - 1
    }
    return -1
  }

  /** The lines that reach an item, in the order they are asked, each once. */
  candidates(number: number): readonly Candidate[] {
    const found: Candidate[] = []
    const gather = ({ starts, lines, specificities }: CandidateRows, key: number) => {
      for (let at = starts[key] as number; at < (starts[key + 1] as number); at += 1) {
        const line = lines[at] as number
        if (found.every((known) => known.line !== line))
          found.push({ line, specificity: specificities[at] as number })
      }
    }
    const at = this.findNamed(number)
    if (at >= 0) gather(this.namedRows, at)
    if (at >= 0 && this.complete?.[at] === 1) return found
    if (number < this.index.variantCount) gather(this.plan(), this.index.signatureOf[number] as number)
    return found
  }

  /** Whether the list speaks of the item at all. */
  holds(number: number): boolean {
    if (this.isUnlimited()) return number < this.index.variantCount || this.findNamed(number) >= 0
    return this.mask()[number] === 1
  }

  /** Whether it speaks of every variant. */
  isUnlimited(): boolean {
    const { include, exclude } = this.list.scope
    return exclude.length === 0 && include.some(({ kind }) => kind === 'everything')
  }

  private mask(): Uint8Array {
    if (this.scopeMask) return this.scopeMask
    const mask = new Uint8Array(this.index.items.length)
    for (let number = 0; number < mask.length; number += 1) {
      if (number >= this.index.variantCount) mask[number] = this.findNamed(number) >= 0 ? 1 : 0
      else mask[number] = matchWhat(this.list.scope, factsOf(this.store, this.index, number)).matches ? 1 : 0
    }
    return (this.scopeMask = mask)
  }

  private makePlan(): CandidateRows {
    const { index, store, lines, list } = this
    const bySignature = new Map<number, number[]>()
    const every = [...new Array(index.variantSignatures).keys()]
    for (const at of this.broad) {
      for (const term of (lines[at] as PriceLine).scope.include) {
        for (const signature of signaturesReached(term, index, every)) {
          const known = bySignature.get(signature)
          if (!known) bySignature.set(signature, [at])
          else if (known.at(-1) !== at) known.push(at)
        }
      }
    }
    return toRows(index.signatureStarts.length - 1, (signature) => {
      if (signature >= index.variantSignatures) return []
      const among = bySignature.get(signature)
      const first = index.signatureStarts[signature] as number
      const candidates = among ? matching(lines, among, unnamed(factsOf(store, index, first))) : []
      return list.defaultLine ? [...candidates, this.defaultCandidate()] : candidates
    })
  }

  /** Rows of items that a line leaves out by name or reaches by price or stock: every line is looked at. */
  private completeRows({ named, rows, complete, broad, lines }: NamedItems): {
    rows: CandidateRows
    flags: Uint8Array
  } {
    const flags = new Uint8Array(named.length)
    const again = new Set(complete)
    const found: Candidate[][] = []
    named.forEach((number, at) => {
      const from = rows.starts[at] as number
      const to = rows.starts[at + 1] as number
      if (!again.has(number)) {
        found.push(
          [...rows.lines.subarray(from, to)].map((line, offset) => ({
            line,
            specificity: rows.specificities[from + offset] as number,
          })),
        )
        return
      }
      flags[at] = 1
      const among = [...new Set([...broad, ...lines.get(number)!])].sort((left, right) => left - right)
      const row = matching(this.lines, among, factsOf(this.store, this.index, number))
      const isVariant = number < this.index.variantCount
      found.push(this.list.defaultLine && isVariant ? [...row, this.defaultCandidate()] : [...row])
    })
    return { rows: toRows(named.length, (at) => found[at] ?? []), flags }
  }

  private defaultCandidate(): Candidate {
    return { line: this.lines.length, specificity: DEFAULT_LINE_SPECIFICITY }
  }
}

/** A line that reaches an item. */
interface Candidate {
  readonly line: number
  readonly specificity: number
}

interface NamedItems {
  readonly named: Int32Array
  readonly rows: CandidateRows
  /** Numbers of items whose row must be complete. */
  readonly complete: readonly number[]
  /** Positions of the lines that name each of these items. */
  readonly lines: ReadonlyMap<number, readonly number[]>
  readonly broad: readonly number[]
}

/** The lines for single variants, products and extras, by item; and which lines say more than that. */
function nameItems(lines: readonly PriceLine[], store: Store, index: CatalogueIndex): NamedItems {
  const broad: number[] = []
  const complete = new Set<number>()
  const linesOf = new Map<number, number[]>()
  // number, then whether it is only named through its product, then the line: one number that sorts like all three
  const width = lines.length + 1
  const keys: number[] = []
  lines.forEach(({ scope }, at) => {
    let isBroad = false
    const [only] = scope.include
    if (scope.include.length === 1 && scope.exclude.length === 0 && only?.kind === 'variant') {
      const number = index.numberOf.get(only.variant)
      if (number !== undefined) keys.push(number * 2 * width + at)
      return
    }
    for (const term of scope.include) {
      if (term.kind === 'variant' || term.kind === 'extra') {
        const number = index.numberOf.get(term.kind === 'variant' ? term.variant : term.extra)
        if (number !== undefined) keys.push(number * 2 * width + at)
      } else if (term.kind === 'product') {
        for (const number of index.numbersOfProduct.get(term.product) ?? [])
          keys.push((number * 2 + 1) * width + at)
      } else isBroad = true
    }
    for (const number of specialItems(scope, store, index)) {
      complete.add(number)
      const known = linesOf.get(number)
      if (known) known.push(at)
      else linesOf.set(number, [at])
    }
    if (isBroad) broad.push(at)
  })
  for (const number of complete) keys.push(number * 2 * width + width - 1)
  const sorted = Float64Array.from(keys).sort()

  const named: number[] = []
  const starts: number[] = []
  const candidates: number[] = []
  const specificities: number[] = []
  for (const key of sorted) {
    const at = key % width
    const half = (key - at) / width
    const number = Math.floor(half / 2)
    if (named.at(-1) !== number) {
      named.push(number)
      starts.push(candidates.length)
    }
    if (at === width - 1) continue
    // A line that names an item and its product stands once, by the nearer of the two.
    if (candidates.indexOf(at, starts.at(-1)) >= 0) continue
    candidates.push(at)
    specificities.push(half % 2 === 0 ? VARIANT_SPECIFICITY : PRODUCT_SPECIFICITY)
    if (complete.has(number)) linesOf.get(number)?.push(at)
  }
  starts.push(candidates.length)
  return {
    named: Int32Array.from(named),
    rows: {
      starts: Int32Array.from(starts),
      lines: Int32Array.from(candidates),
      specificities: Int32Array.from(specificities),
    },
    complete: [...complete],
    lines: linesOf,
    broad,
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

/** The lines among some that reach an item, most specific first. */
function matching(lines: readonly PriceLine[], among: readonly number[], facts: ItemFacts): Candidate[] {
  const found: Candidate[] = []
  for (const line of among) {
    const match = matchWhat((lines[line] as PriceLine).scope, facts)
    if (match.matches) found.push({ line, specificity: match.specificity })
  }
  return found.sort((left, right) => right.specificity - left.specificity || left.line - right.line)
}

/** Facts no term that names an item, or looks at its price or stock, matches. */
function unnamed(facts: ItemFacts): ItemFacts {
  return { ...facts, variant: '', product: '', basePrice: null, stock: '' as ItemFacts['stock'] }
}

function signaturesReached(
  term: WhatTerm,
  index: CatalogueIndex,
  every: readonly number[],
): readonly number[] {
  switch (term.kind) {
    case 'everything':
      return every
    case 'category':
      return index.signaturesOf.get(term.category) ?? []
    case 'family':
      return index.signaturesOf.get(term.family) ?? []
    case 'attribute':
      return index.signaturesOf.get(attributeKey(term.name, term.value)) ?? []
    default:
      return []
  }
}

function toRows(count: number, rowOf: (key: number) => readonly Candidate[]): CandidateRows {
  const starts = new Int32Array(count + 1)
  const lines: number[] = []
  const specificities: number[] = []
  for (let key = 0; key < count; key += 1) {
    for (const { line, specificity } of rowOf(key)) {
      lines.push(line)
      specificities.push(specificity)
    }
    starts[key + 1] = lines.length
  }
  return { starts, lines: Int32Array.from(lines), specificities: Int32Array.from(specificities) }
}

export function compileList(
  list: PriceList,
  unordered: readonly PriceLine[],
  store: Store,
  index: CatalogueIndex,
): CompiledList {
  return new CompiledList(list, inOrder(unordered), store, index)
}

/** Lines mostly come in their order already. */
function inOrder(lines: readonly PriceLine[]): readonly PriceLine[] {
  for (let at = 1; at < lines.length; at += 1) {
    if (compareLines(lines[at - 1] as PriceLine, lines[at] as PriceLine) > 0)
      return [...lines].sort(compareLines)
  }
  return lines
}

