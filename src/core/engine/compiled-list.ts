import { type ItemFacts, matchWhat, type WhatTerm } from '../predicates/what'
import { compareLines, type PriceLine, type PriceList } from '../price/price-list'
import { attributeKey, type CatalogueIndex } from './catalogue-index'
import { compilePriceStep, type PriceStep } from './price-step'

/** Below every line that says what it is for. */
const DEFAULT_LINE_SPECIFICITY = -1

/** An item that no term naming a product or a variant reaches. */
const UNNAMED = { variant: '', product: '' }

/** A row of candidates for each key: those of key k stand at `starts[k]` up to `starts[k + 1]`. */
interface CandidateRows {
  readonly starts: Int32Array
  readonly lines: Int32Array
  readonly specificities: Int32Array
}

/**
 * A price list made ready for looking up: which of its lines reach a variant, most specific first.
 * Lines that speak of categories and attributes are decided once a signature (the *plan*); variants that a
 * line names itself are *exceptions*, each with its complete row.
 */
export interface CompiledList {
  readonly list: PriceList
  /** In the order of their position; the default line, if any, is behind them all. */
  readonly lines: readonly PriceLine[]
  /** Those that leave something out, in the same order. */
  readonly excluding: readonly PriceLine[]
  /** Of each line, and of the default line behind them. */
  readonly steps: readonly PriceStep[]
  readonly plan: CandidateRows
  /** Numbers of the variants with a row of their own, rising. */
  readonly exceptions: Int32Array
  readonly exceptionRows: CandidateRows
}

interface Candidate {
  readonly line: number
  readonly specificity: number
}

export function compileList(
  list: PriceList,
  unordered: readonly PriceLine[],
  index: CatalogueIndex,
  digits: number,
): CompiledList {
  const lines = [...unordered].sort(compareLines)
  const steps = lines.map((line) => compilePriceStep(line.method, line.rounding ?? list.rounding, digits))
  if (list.defaultLine) steps.push(compilePriceStep(list.defaultLine, list.rounding, digits))

  const broad = linesBySignature(lines, index)
  const named = linesByNamedVariant(lines, index)
  const exceptions = Int32Array.from([...named.keys()].sort((left, right) => left - right))

  const otherwise: readonly Candidate[] = list.defaultLine
    ? [{ line: lines.length, specificity: DEFAULT_LINE_SPECIFICITY }]
    : []
  const candidatesOf = (facts: ItemFacts, among: readonly number[]): readonly Candidate[] => {
    if (among.length === 0) return otherwise
    const found: Candidate[] = []
    for (const at of among) {
      const match = matchWhat((lines[at] as PriceLine).scope, facts)
      if (match.matches) found.push({ line: at, specificity: match.specificity })
    }
    found.sort((left, right) => right.specificity - left.specificity || left.line - right.line)
    return [...found, ...otherwise]
  }

  const signatures = index.signatureStarts.length - 1
  const factsOf = (number: number) => index.facts[number] as ItemFacts
  return {
    list,
    lines,
    excluding: lines.filter(({ scope }) => scope.exclude.length > 0),
    steps,
    plan: toRows(signatures, (signature) =>
      // Any variant of a signature stands for all, so the plan must not see which one it is.
      candidatesOf(
        { ...factsOf(index.signatureStarts[signature] as number), ...UNNAMED },
        broad.get(signature) ?? NO_LINES,
      ),
    ),
    exceptions,
    exceptionRows: toRows(exceptions.length, (at) => {
      const number = exceptions[at] as number
      const among = broad.get(index.signatureOf[number] as number) ?? NO_LINES
      return candidatesOf(factsOf(number), [...new Set([...among, ...(named.get(number) ?? NO_LINES)])])
    }),
  }
}

/** Where in a list's rows a variant stands: the row's first and last place, in plan or exceptions. */
export function findRow(compiled: CompiledList, index: CatalogueIndex, number: number) {
  const at = findException(compiled.exceptions, number)
  return at >= 0
    ? { rows: compiled.exceptionRows, key: at }
    : { rows: compiled.plan, key: index.signatureOf[number] as number }
}

/** The place of a number among rising numbers, or −1. */
function findException(exceptions: Int32Array, number: number): number {
  let low = 0
  let high = exceptions.length - 1
  while (low <= high) {
    const middle = (low + high) >>> 1
    const value = exceptions[middle] as number
    if (value === number) return middle
    if (value < number) low = middle + 1
    else high = middle - 1
  }
  return -1
}

const NO_LINES: readonly number[] = []

/** Lines that speak of more than single items, by the signatures they may reach. */
function linesBySignature(
  lines: readonly PriceLine[],
  index: CatalogueIndex,
): ReadonlyMap<number, readonly number[]> {
  const every = [...Array(index.signatureStarts.length - 1).keys()]
  const gathered = new Map<number, number[]>()
  lines.forEach(({ scope }, at) => {
    for (const term of scope.include) {
      for (const signature of signaturesReached(term, index, every)) {
        const known = gathered.get(signature)
        if (!known) gathered.set(signature, [at])
        else if (known.at(-1) !== at) known.push(at)
      }
    }
  })
  return gathered
}

function signaturesReached(
  term: WhatTerm,
  index: CatalogueIndex,
  every: readonly number[],
): readonly number[] {
  if (term.kind === 'everything') return every
  if (term.kind === 'category') return index.signaturesOf.get(term.category) ?? NO_LINES
  if (term.kind === 'attribute')
    return index.signaturesOf.get(attributeKey(term.name, term.value)) ?? NO_LINES
  return NO_LINES
}

/** Lines that name products or variants, included or excluded, by the variants they name. */
function linesByNamedVariant(
  lines: readonly PriceLine[],
  index: CatalogueIndex,
): ReadonlyMap<number, readonly number[]> {
  const named = new Map<number, number[]>()
  lines.forEach(({ scope }, at) => {
    for (const number of [...scope.include, ...scope.exclude].flatMap((term) => namedVariants(term, index))) {
      const known = named.get(number)
      if (!known) named.set(number, [at])
      else if (known.at(-1) !== at) known.push(at)
    }
  })
  return named
}

function namedVariants(term: WhatTerm, index: CatalogueIndex): readonly number[] {
  if (term.kind === 'product') return index.numbersOfProduct.get(term.product) ?? []
  const number = term.kind === 'variant' ? index.numberOf.get(term.variant) : undefined
  return number === undefined ? [] : [number]
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
