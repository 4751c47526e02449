import { matchWhen } from '../predicates/when'
import type { ReferenceField } from '../catalogue/product'
import { everyAmount, referenceAmounts } from './amounts'
import { breakAt, type LineStep } from './compiled-line'
import type { CompiledList } from './compiled-list'
import { emptyListPrice, fieldOf, findInList, type Quantities } from './find-in-list'
import { lensInto } from './lens'
import type { PreparedStore } from './prepared-store'
import { type PriceStep, runPriceStep } from './price-step'
import type { LadderEntry } from './situation'

/** A cell no list has claimed yet, and one the list at hand is known to have no price for. */
export const OPEN = -1
export const SKIPPED = -2

/** A column while its lists fill it: by item number, the price and the position of its list in `lists`. */
export interface Cells {
  readonly prices: Float64Array
  readonly sources: Int16Array
  readonly lists: string[]
}

/** One pass over the signatures a list's plan speaks of; `only` narrows it to some of them. */
export function sweepPlan(
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
