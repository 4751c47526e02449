import { everyAmount, referenceAmounts } from './amounts'
import { fillFromList, fillFromStep } from './fill-cells'
import type { Quantities } from './find-in-list'
import { adjustShown, findPrice, floorUnits, hasFloors } from './find-price'
import type { PreparedStore, PriceColumn } from './prepared-store'
import type { LadderEntry, Situation } from './situation'
import { type Cells, OPEN } from './sweep-plan'

const MOST_COLUMNS = 96

/**
 * What one buyer pays for every item when buying a quantity (thousandths) of each by itself. Kept until the store
 * changes, and shared by buyers with the same rights.
 */
export function priceColumn(prepared: PreparedStore, situation: Situation, quantity: number): PriceColumn {
  const key = `${quantity}/${situation.key}`
  return kept(prepared, situation, key, () => computeColumn(prepared, situation, quantity))
}

/** A column kept under a key while the situation it was computed for holds; the longest unused make room for others. */
function kept(
  { columns }: PreparedStore,
  situation: Situation,
  key: string,
  compute: () => PriceColumn,
): PriceColumn {
  const known = columns.get(key)
  const { since, until } = known?.situation.validity ?? { since: 1, until: 0 }
  if (known && situation.at >= since && situation.at < until) {
    // Used last, so put away last.
    columns.delete(key)
    columns.set(key, known)
    return known.column
  }
  const column = compute()
  columns.delete(key)
  for (const oldest of columns.keys()) {
    if (columns.size < MOST_COLUMNS) break
    columns.delete(oldest)
  }
  columns.set(key, { situation, column })
  return column
}

/** The same without looking for a kept column or keeping it. */
export function computeColumn(prepared: PreparedStore, situation: Situation, quantity: number): PriceColumn {
  const quantities: Quantities = { own: quantity, counted: null }
  if (situation.policy === 'lowest') return columnCellByCell(prepared, situation, quantities)
  const shared = situation.ladder.findIndex(
    ([first]) => first?.rung !== 'contract' && first?.rung !== 'account',
  )
  const own = shared < 0 ? situation.ladder : situation.ladder.slice(0, shared)
  const others = shared < 0 ? [] : situation.ladder.slice(shared)
  const cells = own.length === 0 ? null : emptyCells(prepared)
  if (cells) fillFromSteps(prepared, own, quantities, cells)
  const below = sharedColumn(prepared, situation, others, quantities)
  const column = cells ? laidOver(cells, below) : copied(below)
  finish(prepared, situation, quantities, column)
  return column
}

function emptyCells({ index }: PreparedStore): Cells {
  return {
    prices: new Float64Array(index.items.length).fill(Number.NaN),
    sources: new Int16Array(index.items.length).fill(OPEN),
    lists: [],
  }
}

/** Prices from the lists that whole groups share, down to the base price: reckoned once for all their members. */
function sharedColumn(
  prepared: PreparedStore,
  situation: Situation,
  steps: Situation['ladder'],
  quantities: Quantities,
): PriceColumn {
  const key = `shared/${quantities.own}/${situation.lens.key}/${steps
    .map((step) => step.map(({ compiled }) => compiled.list.id).join())
    .join('|')}`
  return kept(prepared, situation, key, () => {
    const cells = emptyCells(prepared)
    fillFromSteps(prepared, steps, quantities, cells)
    const base = everyAmount(referenceAmounts(prepared, 'basePrice', situation.lens))
    const { prices, sources } = cells
    for (let number = 0; number < prices.length; number += 1)
      if (sources[number] === OPEN) prices[number] = base[number] as number
    return cells
  })
}

function laidOver({ prices, sources, lists }: Cells, below: PriceColumn): PriceColumn {
  const offset = lists.length
  for (let number = 0; number < prices.length; number += 1) {
    if (sources[number] !== OPEN) continue
    prices[number] = below.prices[number] as number
    const source = below.sources[number] as number
    sources[number] = source === OPEN ? OPEN : source + offset
  }
  return { prices, sources, lists: [...lists, ...below.lists] }
}

function copied({ prices, sources, lists }: PriceColumn): PriceColumn {
  return { prices: Float64Array.from(prices), sources: Int16Array.from(sources), lists }
}

function fillFromSteps(
  prepared: PreparedStore,
  ladder: Situation['ladder'],
  quantities: Quantities,
  cells: Cells,
): void {
  for (const step of ladder) {
    const source = cells.lists.length
    cells.lists.push(...step.map(({ compiled }) => compiled.list.id))
    if (step.length === 1) fillFromList(prepared, step[0] as LadderEntry, quantities, source, cells)
    else fillFromStep(prepared, step, quantities, source, cells)
  }
}

/** What happens to a price after its list, for every item it can happen to. */
function finish(
  prepared: PreparedStore,
  situation: Situation,
  quantities: Quantities,
  { prices, sources, lists }: PriceColumn,
): void {
  if (situation.shown.length > 0) {
    const isProtected = protectedLists(situation)
    for (let number = 0; number < prices.length; number += 1) {
      const source = sources[number] as number
      if (source >= 0 && isProtected.has(lists[source] as string)) continue
      const units = prices[number] as number
      if (units === units) prices[number] = adjustShown(prepared, situation, number, units)
    }
  }
  if (situation.publicSituation) {
    const guest = priceColumn(prepared, situation.publicSituation, quantities.own).prices
    for (let number = 0; number < prices.length; number += 1) {
      if ((guest[number] as number) < (prices[number] as number)) prices[number] = guest[number] as number
    }
  }
  if (!hasFloors(prepared, situation)) return
  for (let number = 0; number < prices.length; number += 1) {
    const floor = floorUnits(prepared, situation, number)
    if ((prices[number] as number) < floor) prices[number] = floor
  }
}

function protectedLists({ ladder }: Situation): ReadonlySet<string> {
  return new Set(
    ladder.flatMap((step) =>
      step.filter(({ contract }) => contract?.isProtected).map(({ compiled }) => compiled.list.id),
    ),
  )
}

/** Where every list of the ladder has its say in every cell there is nothing to sweep. */
function columnCellByCell(
  prepared: PreparedStore,
  situation: Situation,
  quantities: Quantities,
): PriceColumn {
  const { prices, sources } = emptyCells(prepared)
  const lists = situation.ladder.flatMap((step) => step.map(({ compiled }) => compiled.list.id))
  const sourceOf = new Map(lists.map((id, at) => [id, at]))
  for (let number = 0; number < prices.length; number += 1) {
    const found = findPrice(prepared, situation, number, quantities)
    prices[number] = found.units
    sources[number] = found.entry ? (sourceOf.get(found.entry.compiled.list.id) ?? OPEN) : OPEN
  }
  return { prices, sources, lists }
}
