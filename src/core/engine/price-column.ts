import { matchWhen } from '../predicates/when'
import type { ReferenceField } from '../catalogue/product'
import { everyAmount, referenceAmounts } from './amounts'
import { breakAt, type LineStep } from './compiled-line'
import type { CompiledList } from './compiled-list'
import { emptyListPrice, fieldOf, findInList, type Quantities } from './find-in-list'
import { adjustShown, bestOfStep, findPrice, floorUnits, hasFloors } from './find-price'
import { lensInto } from './lens'
import type { PreparedStore, PriceColumn } from './prepared-store'
import { type PriceStep, runPriceStep } from './price-step'
import type { LadderEntry, Situation } from './situation'

/** A cell no list has claimed yet, and one the list at hand is known to have no price for. */
const OPEN = -1
const SKIPPED = -2

interface Cells {
  readonly prices: Float64Array
  readonly sources: Int16Array
  readonly lists: string[]
}

const MOST_COLUMNS = 48

/**
 * What one buyer pays for every item when buying a quantity (thousandths) of each by itself. Kept until the store
 * changes, and shared by buyers with the same rights.
 */
export function priceColumn(prepared: PreparedStore, situation: Situation, quantity: number): PriceColumn {
  const key = `${quantity}/${situation.key}`
  const known = prepared.columns.get(key)
  const { since, until } = known?.situation.validity ?? { since: 1, until: 0 }
  if (known && situation.at >= since && situation.at < until) return known.column
  const column = computeColumn(prepared, situation, quantity)
  if (prepared.columns.size >= MOST_COLUMNS) {
    const oldest = prepared.columns.keys().next()
    if (!oldest.done) prepared.columns.delete(oldest.value)
  }
  prepared.columns.set(key, { situation, column })
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
  const known = prepared.columns.get(key)
  const { since, until } = known?.situation.validity ?? { since: 1, until: 0 }
  if (known && situation.at >= since && situation.at < until) return known.column
  const cells = emptyCells(prepared)
  fillFromSteps(prepared, steps, quantities, cells)
  const base = everyAmount(referenceAmounts(prepared, 'basePrice', situation.lens))
  const { prices, sources } = cells
  for (let number = 0; number < prices.length; number += 1)
    if (sources[number] === OPEN) prices[number] = base[number] as number
  prepared.columns.set(key, { situation, column: cells })
  return cells
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

/** Fills the open cells a single list has a price for. */
function fillFromList(
  prepared: PreparedStore,
  entry: LadderEntry,
  quantities: Quantities,
  source: number,
  cells: Cells,
): void {
  const { prices, sources } = cells
  const { compiled } = entry
  const { named } = compiled
  const flat = flatPrices(prepared, entry, quantities)
  for (let at = 0; at < named.length; at += 1) {
    const number = named[at] as number
    if (sources[number] !== OPEN) continue
    const units = flat[at] as number
    if (units === units) {
      prices[number] = units
      sources[number] = source
    } else sources[number] = SKIPPED
  }
  if (compiled.hasPlan) sweepPlan(prepared, entry, quantities, source, cells, null)
  reopen(named, sources)
}

function reopen(numbers: Int32Array, sources: Int16Array): void {
  for (let at = 0; at < numbers.length; at += 1) {
    const number = numbers[at] as number
    if (sources[number] === SKIPPED) sources[number] = OPEN
  }
}

/** One pass over the signatures a list's plan speaks of; `only` narrows it to some of them. */
function sweepPlan(
  prepared: PreparedStore,
  entry: LadderEntry,
  quantities: Quantities,
  source: number,
  cells: Cells,
  only: Uint8Array | null,
): void {
  const { compiled } = entry
  const { signatureStarts } = prepared.index
  const { starts, lines } = compiled.plan()
  const steps = new Map<number, Swept | null>()
  for (const signature of compiled.planned()) {
    if (only && only[signature] !== 1) continue
    const from = signatureStarts[signature] as number
    const to = signatureStarts[signature + 1] as number
    const line = lines[starts[signature] as number] as number
    let swept = steps.get(line)
    if (swept === undefined) steps.set(line, (swept = toSwept(prepared, entry, line, quantities)))
    if (swept) {
      const failed =
        swept.sources === null
          ? fill(swept.fixed, from, to, source, cells)
          : sweep(swept.step as PriceStep, swept.sources, from, to, source, cells)
      if (failed === 0) continue
    }
    cellByCell(prepared, entry, quantities, from, to, source, cells)
  }
}

/** A line that is one step for all its items, and what it starts from. */
interface Swept {
  readonly fixed: number
  readonly step: PriceStep | null
  /** `null` for a fixed amount. */
  readonly sources: Float64Array | null
}

function toSwept(
  prepared: PreparedStore,
  entry: LadderEntry,
  line: number,
  quantities: Quantities,
): Swept | null {
  const simple = simpleStep(entry, entry.compiled, line, quantities)
  if (!simple) return null
  const { fixed, step, reference } = simple
  const lens = lensInto(prepared, entry.lens, entry.compiled.list.currency)
  return {
    fixed,
    step,
    sources: reference && everyAmount(referenceAmounts(prepared, reference, lens)),
  }
}

interface SimpleStep {
  readonly fixed: number
  readonly step: PriceStep | null
  readonly reference: ReferenceField | null
}

/** A line that is one step for all its items: without conversion, schedule, graduated breaks or a list to start from. */
function simpleStep(
  entry: LadderEntry,
  compiled: CompiledList,
  position: number,
  { own }: Quantities,
): SimpleStep | null {
  if (entry.isForeign || !compiled.isUnlimited) return null
  const line = compiled.line(position)
  if (line.isGraduated || (line.schedule && !matchWhen(line.schedule, entry.lens.at).matches)) return null
  const reached = breakAt(line, own)
  if (reached < 0) return null
  const { fixed, reference, step } = line.steps[reached] as LineStep
  if (reference?.kind === 'list') return null
  return { fixed, step, reference: reference ? fieldOf(reference) : null }
}

/** The hot loop: one compiled step over neighbouring items that are still open. Tells how many it gave no price. */
function sweep(
  step: PriceStep,
  sources: Float64Array,
  from: number,
  to: number,
  source: number,
  { prices, sources: claims }: Cells,
): number {
  const { factor, shift, grid, offset, limit, least } = step
  const most = step.kind === 'formula' ? limit : -1
  let failed = 0
  for (let number = from; number < to; number += 1) {
    if (claims[number] !== OPEN) continue
    const start = sources[number] as number
    let price = offset + grid * Math.floor(start * factor + shift)
    if (!(start >= least && start <= most && price > 0)) price = runPriceStep(step, start)
    if (price === price) {
      prices[number] = price
      claims[number] = source
    } else failed += 1
  }
  return failed
}

function fill(fixed: number, from: number, to: number, source: number, { prices, sources }: Cells): number {
  for (let number = from; number < to; number += 1) {
    if (sources[number] !== OPEN) continue
    prices[number] = fixed
    sources[number] = source
  }
  return 0
}

const cell = emptyListPrice()

function cellByCell(
  prepared: PreparedStore,
  { lens, compiled }: LadderEntry,
  quantities: Quantities,
  from: number,
  to: number,
  source: number,
  { prices, sources }: Cells,
): void {
  for (let number = from; number < to; number += 1) {
    if (sources[number] !== OPEN) continue
    if (!findInList(prepared, lens, compiled, number, quantities, cell)) continue
    prices[number] = cell.units
    sources[number] = source
  }
}

/** Lists that share a step: items they name one by one, signatures only one of them speaks of in a sweep. */
function fillFromStep(
  prepared: PreparedStore,
  step: readonly LadderEntry[],
  quantities: Quantities,
  source: number,
  cells: Cells,
): void {
  const { prices, sources } = cells
  const decide = (number: number) => {
    if (sources[number] !== OPEN) return
    const won = bestOfStep(prepared, step, number, quantities, cell)
    if (won) {
      prices[number] = cell.units
      sources[number] = source + step.indexOf(won)
    } else sources[number] = SKIPPED
  }
  for (const { compiled } of step) for (const number of compiled.named) decide(number)
  const planned = step.filter(({ compiled }) => compiled.hasPlan)
  if (planned.length > 0) {
    const { index } = prepared
    const speaks = planned.map(({ compiled }) => signaturesOf(compiled, index.variantSignatures))
    const alone = planned.map((_, at) => {
      const mine = Uint8Array.from(speaks[at] as Uint8Array)
      speaks.forEach((other, next) => {
        if (next !== at) for (let key = 0; key < mine.length; key += 1) if (other[key] === 1) mine[key] = 0
      })
      return mine
    })
    planned.forEach((entry, at) =>
      sweepPlan(prepared, entry, quantities, source + step.indexOf(entry), cells, alone[at] ?? null),
    )
    for (let signature = 0; signature < index.variantSignatures; signature += 1) {
      if (speaks.filter((each) => each[signature] === 1).length < 2) continue
      const to = index.signatureStarts[signature + 1] as number
      for (let number = index.signatureStarts[signature] as number; number < to; number += 1) decide(number)
    }
    for (let number = 0; number < sources.length; number += 1)
      if (sources[number] === SKIPPED) sources[number] = OPEN
  }
  for (const { compiled } of step) reopen(compiled.named, sources)
}

function signaturesOf(compiled: CompiledList, count: number): Uint8Array {
  const { starts } = compiled.plan()
  const speaks = new Uint8Array(count)
  for (let key = 0; key < count; key += 1) speaks[key] = starts[key] === starts[key + 1] ? 0 : 1
  return speaks
}

const MOST_FLAT = 4

/** What a list gives for each item it names; NaN where nothing. */
function flatPrices(
  prepared: PreparedStore,
  { compiled, lens }: LadderEntry,
  quantities: Quantities,
): Float64Array {
  const isLasting = compiled.lineSchedules.length === 0 && compiled.referredTo.size === 0
  const key = `${compiled.hasBreaks ? quantities.own : ''}/${lens.key}`
  const kept = prepared.flatPrices.get(compiled)
  const known = isLasting ? kept?.get(key) : undefined
  if (known) return known
  const prices = new Float64Array(compiled.named.length)
  for (let at = 0; at < prices.length; at += 1) {
    const number = compiled.named[at] as number
    prices[at] = findInList(prepared, lens, compiled, number, quantities, cell) ? cell.units : Number.NaN
  }
  if (isLasting && !kept) prepared.flatPrices.set(compiled, new Map([[key, prices]]))
  else if (isLasting && kept) {
    if (kept.size >= MOST_FLAT) kept.clear()
    kept.set(key, prices)
  }
  return prices
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
