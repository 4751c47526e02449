import { compareLines, type PriceLine, type PriceList } from '../price/price-list'
import type { Store } from '../store/store'
import type { CatalogueIndex } from './catalogue-index'
import { CompiledList } from './compiled-list'

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
