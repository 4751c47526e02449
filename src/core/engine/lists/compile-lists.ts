import type { What, WhatTerm } from '../../predicates/what'
import { compareLines, type PriceLine, type PriceList } from '../../price/lines/price-list'
import { eachInSteps, type Steps } from '../../steps/steps'
import type { Store } from '../../store/store'
import type { CatalogueIndex } from '../items/catalogue-index'
import { CompiledList } from './compiled-list'
import { ListLayout } from './list-layout'

/** The lines of a list in the order they are asked, with the one variant each is for; −1 for lines that say anything else. */
export class ListLines {
  private isOrdered = true

  private constructor(
    private readonly lines: PriceLine[],
    private readonly numbers: number[],
    /** As long as every line reaches what it reached before. */
    private layout: ListLayout | null,
  ) {}

  static empty(): ListLines {
    return new ListLines([], [], null)
  }

  /** Those of a list compiled before: what is known of its lines need not be found out again. */
  static of(compiled: CompiledList | undefined): ListLines {
    return new ListLines(
      [...(compiled?.lines ?? [])],
      [...(compiled?.numbers ?? [])],
      compiled?.layout ?? null,
    )
  }

  /** Forgets which lines reach what: the list itself, or the items, have changed. */
  forgetLayout(): void {
    this.layout = null
  }

  /** A line after an edit; most edits change its figures and not what it is for. */
  replace(before: PriceLine, after: PriceLine, number: number): void {
    const at = this.find(before)
    const stays =
      at >= 0 &&
      before.position === after.position &&
      JSON.stringify(before.scope) === JSON.stringify(after.scope)
    if (stays) this.lines[at] = after
    else {
      this.remove(before)
      this.insert(after, number)
    }
  }

  /** Behind the last one; lines mostly come in their order already. */
  add(line: PriceLine, number: number): void {
    const last = this.lines.length > 0 ? (this.lines[this.lines.length - 1] as PriceLine) : null
    if (last && compareLines(last, line) > 0) this.isOrdered = false
    this.lines.push(line)
    this.numbers.push(number)
  }

  /** Where it belongs among lines in their order. */
  insert(line: PriceLine, number: number): void {
    this.layout = null
    const last = this.lines.at(-1)
    let low = last && compareLines(last, line) > 0 ? 0 : this.lines.length
    let high = this.lines.length
    while (low < high) {
      const middle = (low + high) >> 1
      if (compareLines(this.lines[middle] as PriceLine, line) < 0) low = middle + 1
      else high = middle
    }
    this.lines.splice(low, 0, line)
    this.numbers.splice(low, 0, number)
  }

  remove(line: PriceLine): void {
    const at = this.find(line)
    if (at < 0) return
    this.layout = null
    this.lines.splice(at, 1)
    this.numbers.splice(at, 1)
  }

  compile(list: PriceList, store: Store, index: CatalogueIndex): CompiledList {
    const [lines, numbers] = this.inOrder()
    const layout = this.layout ?? new ListLayout(list, lines, store, index, numbers)
    return new CompiledList(list, lines, store, numbers, layout)
  }

  private find(line: PriceLine): number {
    const found = this.lines.indexOf(line)
    return found >= 0 ? found : this.lines.findIndex(({ id }) => id === line.id)
  }

  private inOrder(): readonly [readonly PriceLine[], readonly number[]] {
    if (this.isOrdered) return [this.lines, this.numbers]
    const order = [...this.lines.keys()].sort((left, right) =>
      compareLines(this.lines[left] as PriceLine, this.lines[right] as PriceLine),
    )
    return [order.map((at) => this.lines[at] as PriceLine), order.map((at) => this.numbers[at] as number)]
  }
}

/** The number of the one variant a line is for; −1 for a line that says anything else. */
export function onlyVariant({ scope }: PriceLine, index: CatalogueIndex): number {
  const term = onlyTerm(scope)
  return term?.kind === 'variant' ? (index.numberOf.get(term.variant) ?? -1) : -1
}

/** So many lines are read together; what is known of them lies in the processor's near memory then. */
const LINES_TOGETHER = 256

/**
 * Reads a million lines that lie all over memory. Following one line to its scope, its term, its variant and the
 * variant's number waits for memory at every step; following many a step at a time, the waits overlap.
 */
class LineReader {
  private readonly lines: PriceLine[] = []
  private readonly scopes: What[] = []
  private readonly terms: (WhatTerm | undefined)[] = []
  private readonly variants: (string | null)[] = []
  private readonly numbers = new Int32Array(LINES_TOGETHER)

  constructor(
    private readonly index: CatalogueIndex,
    private readonly take: (line: PriceLine, number: number) => void,
  ) {}

  read(line: PriceLine): void {
    this.lines.push(line)
    if (this.lines.length === LINES_TOGETHER) this.flush()
  }

  flush(): void {
    const { lines, scopes, terms, variants, numbers, take } = this
    const { numberOf } = this.index
    const { length } = lines
    for (let at = 0; at < length; at += 1) scopes[at] = (lines[at] as PriceLine).scope
    for (let at = 0; at < length; at += 1) terms[at] = onlyTerm(scopes[at] as What)
    for (let at = 0; at < length; at += 1) {
      const term = terms[at]
      variants[at] = term?.kind === 'variant' ? term.variant : null
    }
    for (let at = 0; at < length; at += 1) {
      const variant = variants[at] as string | null
      numbers[at] = variant === null ? -1 : (numberOf.get(variant) ?? -1)
    }
    for (let at = 0; at < length; at += 1) take(lines[at] as PriceLine, numbers[at] as number)
    lines.length = 0
  }
}

function onlyTerm({ include, exclude }: What): WhatTerm | undefined {
  return include.length === 1 && exclude.length === 0 ? include[0] : undefined
}

/** All lists of a store, in one pass over its lines as they lie in memory. */
export function* compileLists(store: Store, index: CatalogueIndex): Steps<ReadonlyMap<string, CompiledList>> {
  const gathered = new Map<string, ListLines>()
  for (const list of store['price-list'].values()) gathered.set(list.id, ListLines.empty())
  const reader = new LineReader(index, (line, number) => gathered.get(line.list)?.add(line, number))
  yield* eachInSteps(store['price-line'].values(), (line) => reader.read(line))
  reader.flush()
  const compiled = new Map<string, CompiledList>()
  for (const list of store['price-list'].values()) {
    compiled.set(list.id, (gathered.get(list.id) as ListLines).compile(list, store, index))
    yield
  }
  return compiled
}
