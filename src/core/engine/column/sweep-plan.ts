import { matchWhen } from '../../predicates/when'
import type { ReferenceField } from '../../catalogue/product'
import { everyAmount, referenceAmounts } from '../amounts/amounts'
import { storeBasis } from '../amounts/basis'
import { breakAt, type LineStep } from '../lists/compiled-line'
import { emptyListPrice, fieldOf, findInList, type Quantities } from '../price/find-in-list'
import { currencyViewInto } from '../context/currency-view'
import type { PreparedStore } from '../context/prepared-store'
import { type PriceStep, runPriceStep } from '../lists/price-step'
import type { LadderEntry } from '../context/pricing-context'

/**
 * The source of a cell no list has claimed (any number below zero does), and of one the list at hand is known to have
 * no price for.
 */
export const OPEN = -1
export const SKIPPED = 32_767

/**
 * A column while lists fill it: by item number, the price and the position of its list in `lists`. Loops over cells keep
 * these fields and the constants above in variables of their own: read anew for every cell they cost more than the rest.
 */
export interface Cells {
  readonly prices: Float64Array
  readonly sources: Int16Array
  readonly lists: string[]
  /** Signatures of which no cell is open any more. */
  readonly closed: Uint8Array
  /** How many cells are open. */
  open: number
}

/**
 * One pass over the signatures a list's plan speaks of; `only` narrows it to some of them. `closes` says that the list
 * skips no cell, so that a signature it has a price for throughout need not be looked at again.
 */
export function sweepPlan(
  prepared: PreparedStore,
  entry: LadderEntry,
  quantities: Quantities,
  source: number,
  cells: Cells,
  { only, closes }: { readonly only: Uint8Array | null; readonly closes: boolean },
): void {
  const { compiled } = entry
  const { closed } = cells
  const { signatureStarts } = prepared.index
  const { starts, lines } = compiled.plan()
  const steps = new Map<number, Swept | null>()
  for (const signature of compiled.layout.planned()) {
    if (closed[signature] === 1 || (only && only[signature] !== 1)) continue
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
      if (failed === 0) {
        if (closes) closed[signature] = 1
        continue
      }
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
  const simple = simpleStep(prepared, entry, line, quantities)
  if (!simple) return null
  const { fixed, step, reference } = simple
  const currencyView = currencyViewInto(prepared, entry.currencyView, entry.compiled.list.currency)
  return {
    fixed,
    step,
    sources: reference && everyAmount(referenceAmounts(prepared, reference, currencyView)),
  }
}

interface SimpleStep {
  readonly fixed: number
  readonly step: PriceStep | null
  readonly reference: ReferenceField | null
}

/**
 * A line that is one step for all its items: without conversion, schedule, graduated breaks, another basis or a list to
 * start from.
 */
function simpleStep(
  prepared: PreparedStore,
  entry: LadderEntry,
  position: number,
  { own }: Quantities,
): SimpleStep | null {
  const { compiled } = entry
  if (entry.isForeign || !compiled.layout.isUnlimited) return null
  const line = compiled.line(position)
  if (line.isGraduated || (line.schedule && !matchWhen(line.schedule, entry.currencyView.at).matches))
    return null
  const reached = breakAt(line, own)
  if (reached < 0) return null
  const { fixed, reference, step } = line.steps[reached] as LineStep
  if (reference?.kind === 'list') return null
  // Items of one signature may have different tax classes, and so different ways from one basis to another.
  if (reference && entry.currencyView.basisRates !== null && compiled.basis !== storeBasis(prepared))
    return null
  return { fixed, step, reference: reference ? fieldOf(reference) : null }
}

/** The hot loop: one compiled step over neighbouring items that are still open. Tells how many it gave no price. */
function sweep(
  step: PriceStep,
  sources: Float64Array,
  from: number,
  to: number,
  source: number,
  cells: Cells,
): number {
  const { prices, sources: claims } = cells
  const { factor, shift, grid, offset, limit, least } = step
  const most = step.kind === 'formula' ? limit : -1
  let failed = 0
  let claimed = 0
  for (let number = from; number < to; number += 1) {
    if ((claims[number] as number) >= 0) continue
    const start = sources[number] as number
    let price = offset + grid * Math.floor(start * factor + shift)
    if (!(start >= least && start <= most && price > 0)) price = runPriceStep(step, start)
    if (price === price) {
      prices[number] = price
      claims[number] = source
      claimed += 1
    } else failed += 1
  }
  cells.open -= claimed
  return failed
}

function fill(fixed: number, from: number, to: number, source: number, cells: Cells): number {
  const { prices, sources } = cells
  let claimed = 0
  for (let number = from; number < to; number += 1) {
    if ((sources[number] as number) >= 0) continue
    prices[number] = fixed
    sources[number] = source
    claimed += 1
  }
  cells.open -= claimed
  return 0
}

const cell = emptyListPrice()

function cellByCell(
  prepared: PreparedStore,
  { currencyView, compiled }: LadderEntry,
  quantities: Quantities,
  from: number,
  to: number,
  source: number,
  cells: Cells,
): void {
  const { prices, sources } = cells
  for (let number = from; number < to; number += 1) {
    if ((sources[number] as number) >= 0) continue
    if (!findInList(prepared, currencyView, compiled, number, quantities, cell)) continue
    prices[number] = cell.units
    sources[number] = source
    cells.open -= 1
  }
}
