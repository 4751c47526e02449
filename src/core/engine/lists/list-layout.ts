import { type ItemFacts, matchWhat, type WhatTerm } from '../../predicates/what'
import type { PriceLine, PriceList } from '../../price/lines/price-list'
import type { Store } from '../../store/store'
import { type Candidate, type CandidateRows, matching, toRows } from '../items/candidate-rows'
import { attributeKey, type CatalogueIndex, factsOf } from '../items/catalogue-index'
import { isVolatileScope, type NamedItems, nameItems } from '../items/name-items'

/** Below every line that says what it is for. */
const DEFAULT_LINE_SPECIFICITY = -1

/**
 * Which lines of a price list reach an item, most specific first, whatever they make of its price: it outlives edits
 * of figures. Lines for categories, families and attributes are decided once a signature (the *plan*); items a line
 * names itself have a row of their own, after which the plan goes on, unless the row is complete.
 */
export class ListLayout {
  /** Of items with a row of their own: their numbers, rising, and the rows. */
  readonly named: Int32Array
  readonly namedRows: CandidateRows
  /** Positions in `named` whose rows say everything; `null` where none does. */
  readonly complete: Uint8Array | null
  /** Whether some of it must be made anew when prices or stock of an item change. */
  readonly isVolatile: boolean
  /** Whether any line, or the default line, speaks of more than single items. */
  readonly hasPlan: boolean
  /** Whether the list speaks of every variant. */
  readonly isUnlimited: boolean
  /** Positions of lines with a term above the product. */
  private readonly broad: readonly number[]
  private planRows: CandidateRows | null = null
  private excludingLines: readonly PriceLine[] | null = null
  private plannedSignatures: Int32Array | null = null
  private scopeMask: Uint8Array | null = null

  constructor(
    private readonly list: PriceList,
    /** In the order they are asked when equally specific. */
    private readonly lines: readonly PriceLine[],
    private readonly store: Store,
    private readonly index: CatalogueIndex,
    numbers: readonly number[],
  ) {
    const { include, exclude } = list.scope
    this.isUnlimited = exclude.length === 0 && include.some(({ kind }) => kind === 'everything')
    const found = nameItems(lines, numbers, store, index)
    this.isVolatile = found.isVolatile || isVolatileScope(list.scope)
    this.broad = found.broad
    this.hasPlan = found.broad.length > 0 || list.defaultLine !== null
    this.named = found.named
    const completed = found.complete.length === 0 ? null : this.completeRows(found)
    this.namedRows = completed?.rows ?? found.rows
    this.complete = completed?.flags ?? null
  }

  /** The lines that leave anything out, which are few: traces ask every list for them. */
  excluding(): readonly PriceLine[] {
    return (this.excludingLines ??= this.lines.filter(({ scope }) => scope.exclude.length > 0))
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

  /** Whether the list speaks of the item at all; `place` is where it names it, if that is known. */
  holds(number: number, place = -1): boolean {
    if (this.isUnlimited) return number < this.index.variantCount || place >= 0 || this.findNamed(number) >= 0
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
