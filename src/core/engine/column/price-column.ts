import { everyAmount, referenceAmounts } from '../amounts/amounts'
import type { TaxBasis } from '../../price/based-amount'
import type { BasedUnits } from '../lists/based-units'
import { storeBasis } from '../amounts/basis'
import type { CompiledList } from '../lists/compiled-list'
import { columnMemory } from './column-memory'
import { fillFromList, fillFromStep } from './fill-cells'
import { AFTER_LIST, type AfterList } from '../price/after-list'
import type { Quantities } from '../price/find-in-list'
import { adjustShown, floorUnits, isBelowFloor, isCheaper, lookUpPrice } from '../price/find-price'
import { mayHaveFloors, reachOf } from '../amounts/naming-index'
import type { PreparedStore, PriceColumn } from '../context/prepared-store'
import type { LadderEntry, PricingContext } from '../context/pricing-context'
import { type Cells, OPEN } from './sweep-plan'

const MOST_COLUMNS = 96

/**
 * What one buyer pays for every item when buying a quantity (thousandths) of each by itself. Kept until the store
 * changes, and shared by buyers with the same rights.
 */
export function priceColumn(
  prepared: PreparedStore,
  pricingContext: PricingContext,
  quantity: number,
): PriceColumn {
  const key = `${quantity}/${pricingContext.key}`
  return kept(prepared, pricingContext, key, () => computeColumn(prepared, pricingContext, quantity))
}

/** A column kept under a key while the pricing context it was computed for holds; the longest unused make room for others. */
function kept(
  prepared: PreparedStore,
  pricingContext: PricingContext,
  key: string,
  compute: () => PriceColumn,
): PriceColumn {
  const { columns } = columnMemory(prepared)
  const known = columns.get(key)
  const { since, until } = known?.pricingContext.validity ?? { since: 1, until: 0 }
  if (known && pricingContext.at >= since && pricingContext.at < until) {
    // Used last, so kept last.
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
  columns.set(key, { pricingContext, column })
  return column
}

/**
 * The same without looking for a kept column or keeping it. `room` is a column of the store that nobody reads any more
 * and that is written over: reused by whoever computes many columns one after the other, to reduce garbage-collection pressure.
 */
export function computeColumn(
  prepared: PreparedStore,
  pricingContext: PricingContext,
  quantity: number,
  room: PriceColumn | null = null,
): PriceColumn {
  const quantities: Quantities = { own: quantity, counted: null }
  if (pricingContext.policy === 'lowest') return columnCellByCell(prepared, pricingContext, quantities)
  const shared = pricingContext.ladder.findIndex(
    ([first]) => first?.rung !== 'contract' && first?.rung !== 'account',
  )
  const own = shared < 0 ? pricingContext.ladder : pricingContext.ladder.slice(0, shared)
  const others = shared < 0 ? [] : pricingContext.ladder.slice(shared)
  if (own.length === 0 && !isFinished(prepared, pricingContext))
    return sharedColumn(prepared, pricingContext, others, quantities)
  const cells = openCells(prepared, room)
  fillFromSteps(prepared, own, quantities, cells)
  if (cells.open > 0) layOver(cells, sharedColumn(prepared, pricingContext, others, quantities))
  const column = withBases(prepared, pricingContext, cells)
  finish(prepared, pricingContext, quantities, column)
  return column
}

/** Cells with the basis of each, as the list that claimed it has it. */
function withBases(
  prepared: PreparedStore,
  { currencyView }: PricingContext,
  { prices, sources, lists }: Cells,
): PriceColumn {
  if (currencyView.basisRates === null) return { prices, bases: null, sources, lists }
  const usual = flagOf(storeBasis(prepared))
  const ofLists = lists.map((id) => flagOf((prepared.lists.get(id) as CompiledList).basis))
  const bases = new Uint8Array(prices.length)
  for (let number = 0; number < bases.length; number += 1)
    bases[number] = ofLists[sources[number] as number] ?? usual
  return { prices, bases, sources, lists }
}

function flagOf(basis: TaxBasis): number {
  return basis === 'gross' ? 1 : 0
}

/** One price of a column, which knows its basis. */
export function columnPrice(
  prepared: PreparedStore,
  { prices, bases }: PriceColumn,
  number: number,
): BasedUnits {
  const basis = bases === null ? storeBasis(prepared) : bases[number] === 1 ? 'gross' : 'net'
  return { units: prices[number] as number, basis }
}

function openCells({ index }: PreparedStore, room: PriceColumn | null): Cells {
  const { length } = index.items
  return {
    prices: room?.prices ?? new Float64Array(length),
    sources: (room?.sources ?? new Int16Array(length)).fill(OPEN),
    lists: [],
    closed: new Uint8Array(index.variantSignatures),
    open: length,
  }
}

/** Cells that are still open are as in the column below. */
function layOver({ prices, sources, lists }: Cells, below: PriceColumn): void {
  const offset = lists.length
  lists.push(...below.lists)
  for (let number = 0; number < prices.length; number += 1) {
    if ((sources[number] as number) >= 0) continue
    prices[number] = below.prices[number] as number
    const source = below.sources[number] as number
    if (source >= 0) sources[number] = source + offset
  }
}

/** Prices from the lists that whole groups share, down to the base price: computed once for all their members. */
function sharedColumn(
  prepared: PreparedStore,
  pricingContext: PricingContext,
  steps: PricingContext['ladder'],
  quantities: Quantities,
): PriceColumn {
  const key = `shared/${quantities.own}/${pricingContext.currencyView.key}/${steps
    .map((step) => step.map(({ compiled }) => compiled.list.id).join())
    .join('|')}`
  return kept(prepared, pricingContext, key, () => {
    const cells = openCells(prepared, null)
    const { prices, sources } = cells
    fillFromSteps(prepared, steps, quantities, cells)
    if (cells.open > 0) {
      const base = everyAmount(referenceAmounts(prepared, 'basePrice', pricingContext.currencyView))
      for (let number = 0; number < prices.length; number += 1)
        if ((sources[number] as number) < 0) prices[number] = base[number] as number
    }
    return withBases(prepared, pricingContext, cells)
  })
}

function fillFromSteps(
  prepared: PreparedStore,
  ladder: PricingContext['ladder'],
  quantities: Quantities,
  cells: Cells,
): void {
  for (const step of ladder) {
    if (cells.open === 0) return
    const source = cells.lists.length
    cells.lists.push(...step.map(({ compiled }) => compiled.list.id))
    if (step.length === 1) fillFromList(prepared, step[0] as LadderEntry, quantities, source, cells)
    else fillFromStep(prepared, step, quantities, source, cells)
  }
}

/** Whether anything happens to a price after its list. */
function isFinished(prepared: PreparedStore, pricingContext: PricingContext): boolean {
  return (
    pricingContext.shown.length > 0 ||
    pricingContext.publicPricingContext !== null ||
    mayHaveFloors(prepared, pricingContext)
  )
}

/** What happens to a price after its list, for every item it can happen to. */
function finish(
  prepared: PreparedStore,
  pricingContext: PricingContext,
  quantities: Quantities,
  column: PriceColumn,
): void {
  for (const stage of AFTER_LIST) STAGES[stage](prepared, pricingContext, column, quantities)
}

type Stage = (
  prepared: PreparedStore,
  pricingContext: PricingContext,
  column: PriceColumn,
  quantities: Quantities,
) => void

const STAGES: Readonly<Record<AfterList, Stage>> = {
  'shown-adjustments': (prepared, pricingContext, column) => {
    if (pricingContext.shown.length === 0) return
    const { prices, sources, lists } = column
    const isProtected = protectedLists(pricingContext)
    for (let number = 0; number < prices.length; number += 1) {
      const source = sources[number] as number
      if (source >= 0 && isProtected.has(lists[source] as string)) continue
      const price = columnPrice(prepared, column, number)
      if (price.units === price.units) prices[number] = adjustShown(prepared, pricingContext, number, price)
    }
  },
  'public-price': (prepared, pricingContext, column, quantities) => {
    if (!pricingContext.publicPricingContext) return
    const guests = priceColumn(prepared, pricingContext.publicPricingContext, quantities.own)
    for (let number = 0; number < column.prices.length; number += 1) {
      const guest = columnPrice(prepared, guests, number)
      const own = columnPrice(prepared, column, number)
      if (own.units === own.units && isCheaper(prepared, pricingContext, number, guest, own))
        put(column, number, guest)
    }
  },
  floor: (prepared, pricingContext, column) => {
    if (!mayHaveFloors(prepared, pricingContext)) return
    const basis = storeBasis(prepared)
    for (let number = 0; number < column.prices.length; number += 1) {
      const own = columnPrice(prepared, column, number)
      if (own.units !== own.units) continue
      const floor = floorUnits(prepared, pricingContext, number)
      if (isBelowFloor(prepared, pricingContext, number, own, floor))
        put(column, number, { units: floor, basis })
    }
  },
}

function put({ prices, bases }: PriceColumn, number: number, { units, basis }: BasedUnits): void {
  prices[number] = units
  if (bases) bases[number] = flagOf(basis)
}

/** Ids of the lists whose prices a protected contract keeps as they are. */
export function protectedLists({ ladder }: PricingContext): ReadonlySet<string> {
  return new Set(
    ladder.flatMap((step) =>
      step.filter(({ contract }) => contract?.isProtected).map(({ compiled }) => compiled.list.id),
    ),
  )
}

/** Where every list of the ladder has its say in every cell there is nothing to sweep. */
function columnCellByCell(
  prepared: PreparedStore,
  pricingContext: PricingContext,
  quantities: Quantities,
): PriceColumn {
  const { length } = prepared.index.items
  const prices = new Float64Array(length)
  const sources = new Int16Array(length)
  const lists = pricingContext.ladder.flatMap((step) => step.map(({ compiled }) => compiled.list.id))
  const sourceOf = new Map(lists.map((id, at) => [id, at]))
  const bases = pricingContext.currencyView.basisRates === null ? null : new Uint8Array(length)
  const reach = reachOf(prepared, pricingContext)
  for (let number = 0; number < prices.length; number += 1) {
    const found = lookUpPrice(prepared, pricingContext, reach, number, quantities)
    prices[number] = found.units
    if (bases) bases[number] = flagOf(found.basis)
    sources[number] = found.entry ? (sourceOf.get(found.entry.compiled.list.id) ?? OPEN) : OPEN
  }
  return { prices, bases, sources, lists }
}
