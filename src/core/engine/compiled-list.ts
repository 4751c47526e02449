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
import type { Breaks } from '../price/price-method'
import { listsReferredTo } from '../price/price-references'
import { getSettings, priceDigitsOf, type Store } from '../store/store'
import { attributeKey, type CatalogueIndex, factsOf } from './catalogue-index'
import { compileLine, type CompiledLine } from './compiled-line'

/** Below every line that says what it is for. */
const DEFAULT_LINE_SPECIFICITY = -1

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
  /** Whether some of it must be made anew when prices or stock of an item change. */
  readonly isVolatile: boolean
  /** Whether it speaks of every variant. */
  readonly isUnlimited: boolean
  /** Positions of lines with a term above the product. */
  private readonly broad: readonly number[]
  private readonly compiledLines: (CompiledLine | undefined)[] = []
  private contents: Contents | null = null
  private planRows: CandidateRows | null = null
  private plannedSignatures: Int32Array | null = null
  private scopeMask: Uint8Array | null = null

  constructor(
    readonly list: PriceList,
    /** In the order they are asked when equally specific. */
    readonly lines: readonly PriceLine[],
    private readonly store: Store,
    private readonly index: CatalogueIndex,
    /** The number of the one variant each line is for; −1 for lines that say anything else. */
    numbers: readonly number[],
  ) {
    const { timeZone } = getSettings(store)
    this.digits = priceDigitsOf(store, list.currency)
    this.schedule = compileSchedule(list.schedule, timeZone)
    const { include, exclude } = list.scope
    this.isUnlimited = exclude.length === 0 && include.some(({ kind }) => kind === 'everything')
    const found = nameItems(lines, numbers, store, index)
    this.isVolatile = found.isVolatile || isVolatileScope(list.scope)
    this.broad = found.broad
    this.named = found.named
    const completed = found.complete.length === 0 ? null : this.completeRows(found)
    this.namedRows = completed?.rows ?? found.rows
    this.complete = completed?.flags ?? null
  }

  /** Schedules of single lines. */
  get lineSchedules(): readonly CompiledSchedule[] {
    return this.readContents().lineSchedules
  }

  /** Ids of the lists its prices are computed from. */
  get referredTo(): ReadonlySet<string> {
    return this.readContents().referredTo
  }

  /** Whether the quantity bought matters. */
  get hasBreaks(): boolean {
    return this.readContents().hasBreaks
  }

  /** What only matters once somebody stands before the list: not read while a large store is prepared. */
  private readContents(): Contents {
    if (this.contents) return this.contents
    const { list, lines, store } = this
    const { timeZone } = getSettings(store)
    return (this.contents = {
      lineSchedules: lines.flatMap(({ schedule }) => (schedule ? [compileSchedule(schedule, timeZone)] : [])),
      referredTo: listsReferredTo(list, lines),
      hasBreaks: lines.some(minds) || (list.defaultLine !== null && minds(list.defaultLine)),
    })
  }

  /** A line by its position; the default line stands behind the last. */
  line(position: number): CompiledLine {
    return (this.compiledLines[position] ??= compileLine(this.list, this.lines[position], this.store))
  }

  /** Whether any line, or the default line, speaks of more than single items. */
  get hasPlan(): boolean {
    return this.broad.length > 0 || this.list.defaultLine !== null
  }

  /** Candidates of each signature, made when first asked for. */
  plan(): CandidateRows {
    return (this.planRows ??= this.makePlan())
  }

  /** The signatures the plan says anything of, rising. */
  planned(): Int32Array {
    if (this.plannedSignatures) return this.plannedSignatures
    const { starts } = this.plan()
    const found: number[] = []
    for (let signature = 0; signature + 1 < starts.length; signature += 1)
      if (starts[signature] !== starts[signature + 1]) found.push(signature)
    return (this.plannedSignatures = Int32Array.from(found))
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
    if (this.hasPlan && number < this.index.variantCount)
      gather(this.plan(), this.index.signatureOf[number] as number)
    return found
  }

  /** Whether the list speaks of the item at all. */
  holds(number: number): boolean {
    if (this.isUnlimited) return number < this.index.variantCount || this.findNamed(number) >= 0
    return this.mask()[number] === 1
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
    const { index, lines, list } = this
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
      const facts = index.signatureFacts[signature] as ItemFacts
      const candidates = among ? matching(lines, among, facts) : []
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

interface Contents {
  readonly lineSchedules: readonly CompiledSchedule[]
  readonly referredTo: ReadonlySet<string>
  readonly hasBreaks: boolean
}

/** A line that reaches an item. */
interface Candidate {
  readonly line: number
  readonly specificity: number
}

/** All that one pass over a list's lines can tell. */
interface NamedItems {
  readonly named: Int32Array
  readonly rows: CandidateRows
  /** Numbers of items whose row must be complete. */
  readonly complete: readonly number[]
  /** Positions of the lines that name each of these items. */
  readonly lines: ReadonlyMap<number, readonly number[]>
  readonly broad: readonly number[]
  readonly isVolatile: boolean
}

/** Whether the quantity bought matters. */
function minds({ breaks }: Breaks): boolean {
  return breaks.length > 1 || breaks[0]?.from !== '0'
}

function isVolatileScope({ include, exclude }: What): boolean {
  return include.some(isVolatile) || exclude.some(isVolatile)
}

/**
 * The lines for single variants, products and extras, by item; and which lines say more than that. This is where
 * preparing a large store spends its time: nearly every line is for one variant.
 */
function nameItems(
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

/** The lines among some that reach an item, most specific first. */
function matching(lines: readonly PriceLine[], among: readonly number[], facts: ItemFacts): Candidate[] {
  const found: Candidate[] = []
  for (const line of among) {
    const match = matchWhat((lines[line] as PriceLine).scope, facts)
    if (match.matches) found.push({ line, specificity: match.specificity })
  }
  return found.sort((left, right) => right.specificity - left.specificity || left.line - right.line)
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

/** The lines of a list as they come in, with the variant each is for. */
class ListLines {
  readonly lines: PriceLine[] = []
  readonly numbers: number[] = []
  private isOrdered = true

  /** Lines mostly come in their order already. */
  add(line: PriceLine, number: number): void {
    const last = this.lines.length > 0 ? (this.lines[this.lines.length - 1] as PriceLine) : null
    if (last && (last.position > line.position || (last.position === line.position && last.id > line.id)))
      this.isOrdered = false
    this.lines.push(line)
    this.numbers.push(number)
  }

  compile(list: PriceList, store: Store, index: CatalogueIndex): CompiledList {
    if (this.isOrdered) return new CompiledList(list, this.lines, store, index, this.numbers)
    const order = [...this.lines.keys()].sort((left, right) =>
      compareLines(this.lines[left] as PriceLine, this.lines[right] as PriceLine),
    )
    return new CompiledList(
      list,
      order.map((at) => this.lines[at] as PriceLine),
      store,
      index,
      order.map((at) => this.numbers[at] as number),
    )
  }
}

/** The number of the one variant a line is for; −1 for a line that says anything else. */
function onlyVariant({ scope }: PriceLine, index: CatalogueIndex): number {
  const { include, exclude } = scope
  const only = include[0]
  if (only?.kind !== 'variant' || include.length !== 1 || exclude.length !== 0) return -1
  return index.numberOf.get(only.variant) ?? -1
}

export function compileList(
  list: PriceList,
  lines: readonly PriceLine[],
  store: Store,
  index: CatalogueIndex,
): CompiledList {
  const gathered = new ListLines()
  for (const line of lines) gathered.add(line, onlyVariant(line, index))
  return gathered.compile(list, store, index)
}

/** All lists of a store, in one pass over its lines as they lie in memory. */
export function compileLists(store: Store, index: CatalogueIndex): ReadonlyMap<string, CompiledList> {
  const gathered = new Map<string, ListLines>()
  for (const list of store['price-list'].values()) gathered.set(list.id, new ListLines())
  for (const line of store['price-line'].values())
    gathered.get(line.list)?.add(line, onlyVariant(line, index))
  const compiled = new Map<string, CompiledList>()
  for (const list of store['price-list'].values())
    compiled.set(list.id, (gathered.get(list.id) as ListLines).compile(list, store, index))
  return compiled
}
