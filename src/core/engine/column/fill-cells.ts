import type { CompiledList } from '../lists/compiled-list'
import { emptyListPrice, findInList, type Quantities } from '../price/find-in-list'
import { bestOfStep } from '../price/find-price'
import type { PreparedStore } from '../context/prepared-store'
import type { LadderEntry } from '../context/pricing-context'
import { columnMemory } from './column-memory'
import { type Cells, OPEN, SKIPPED, sweepPlan } from './sweep-plan'

/** Fills the open cells a single list has a price for. */
export function fillFromList(
  prepared: PreparedStore,
  entry: LadderEntry,
  quantities: Quantities,
  source: number,
  cells: Cells,
): void {
  const { prices, sources } = cells
  const { compiled } = entry
  const { named } = compiled
  const skipped = SKIPPED
  const flat = flatPrices(prepared, entry, quantities)
  let claims = 0
  let skips = 0
  for (let at = 0; at < named.length; at += 1) {
    const number = named[at] as number
    if ((sources[number] as number) >= 0) continue
    const units = flat[at] as number
    if (units === units) {
      prices[number] = units
      sources[number] = source
      claims += 1
    } else {
      sources[number] = skipped
      skips += 1
    }
  }
  cells.open -= claims
  if (compiled.hasPlan)
    sweepPlan(prepared, entry, quantities, source, cells, { only: null, closes: skips === 0 })
  if (skips > 0) reopen(named, cells)
}

/** Gives cells that were skipped back to whoever comes next. */
function reopen(numbers: Int32Array, { sources }: Cells): void {
  const [open, skipped] = [OPEN, SKIPPED]
  for (let at = 0; at < numbers.length; at += 1) {
    const number = numbers[at] as number
    if (sources[number] === skipped) sources[number] = open
  }
}

/** Lists that share a step: items they name one by one, signatures only one of them speaks of in a sweep. */
export function fillFromStep(
  prepared: PreparedStore,
  step: readonly LadderEntry[],
  quantities: Quantities,
  source: number,
  cells: Cells,
): void {
  const { prices, sources } = cells
  const decide = (number: number) => {
    if ((sources[number] as number) >= 0) return
    const won = bestOfStep(prepared, step, number, quantities, cell)
    if (won) {
      prices[number] = cell.units
      sources[number] = source + step.indexOf(won)
      cells.open -= 1
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
      sweepPlan(prepared, entry, quantities, source + step.indexOf(entry), cells, {
        only: alone[at] ?? null,
        closes: false,
      }),
    )
    for (let signature = 0; signature < index.variantSignatures; signature += 1) {
      if (speaks.filter((each) => each[signature] === 1).length < 2) continue
      const to = index.signatureStarts[signature + 1] as number
      for (let number = index.signatureStarts[signature] as number; number < to; number += 1) decide(number)
    }
    reopen(everyNumber(sources.length), cells)
    return
  }
  for (const { compiled } of step) reopen(compiled.named, cells)
}

function everyNumber(count: number): Int32Array {
  return Int32Array.from({ length: count }, (_, number) => number)
}

function signaturesOf(compiled: CompiledList, count: number): Uint8Array {
  const { starts } = compiled.plan()
  const speaks = new Uint8Array(count)
  for (let key = 0; key < count; key += 1) speaks[key] = starts[key] === starts[key + 1] ? 0 : 1
  return speaks
}

const cell = emptyListPrice()

const MOST_FLAT = 4

/** What a list gives for each item it names; NaN where nothing. */
function flatPrices(
  prepared: PreparedStore,
  { compiled, currencyView }: LadderEntry,
  quantities: Quantities,
): Float64Array {
  const isLasting = compiled.lineSchedules.length === 0 && compiled.referredTo.size === 0
  const key = `${compiled.hasBreaks ? quantities.own : ''}/${currencyView.key}`
  const memory = columnMemory(prepared).flatPrices
  const kept = memory.get(compiled)
  const known = isLasting ? kept?.get(key) : undefined
  if (known) return known
  const prices = new Float64Array(compiled.named.length)
  for (let at = 0; at < prices.length; at += 1) {
    const number = compiled.named[at] as number
    prices[at] = findInList(prepared, currencyView, compiled, number, quantities, cell)
      ? cell.units
      : Number.NaN
  }
  if (isLasting && !kept) memory.set(compiled, new Map([[key, prices]]))
  else if (isLasting && kept) {
    if (kept.size >= MOST_FLAT) kept.clear()
    kept.set(key, prices)
  }
  return prices
}
