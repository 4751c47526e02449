import { isMeasured } from '../../catalogue/unit-of-sale'
import type { Fraction } from '../../decimal/fraction'
import { matchWhen } from '../../predicates/when'
import type { PriceReference } from '../../price/lines/price-method'
import { amountAt, ownAmounts, referenceAmounts } from '../amounts/amounts'
import { basisOfReference, factorBetween, storeBasis } from '../amounts/basis'
import { breakAt, type CompiledLine, type LineStep, QUANTITY_UNITS, sharedStep } from '../lists/compiled-line'
import type { CompiledList } from '../lists/compiled-list'
import { conversionInto, currencyViewInto } from '../context/currency-view'
import type { PreparedStore } from '../context/prepared-store'
import { UNSEARCHED } from '../lists/ladder-index'
import { type PriceStep, runPriceStep } from '../lists/price-step'
import type { CurrencyView } from '../context/pricing-context'

/** How many of an item are bought, in thousandths, and how a line counts what is bought with it. */
export interface Quantities {
  readonly own: number
  /** `null` when nothing else is bought. */
  readonly counted: ((compiled: CompiledList, line: CompiledLine, number: number) => number) | null
}

/** A price found in a list; one object is used again by every call. */
export interface ListPrice {
  units: number
  /** Position of the line. */
  line: number
  specificity: number
}

export function emptyListPrice(): ListPrice {
  return { units: Number.NaN, line: -1, specificity: Number.NEGATIVE_INFINITY }
}

/** Fields that hold what a reference names. */
export function fieldOf(reference: Exclude<PriceReference, { kind: 'list' }>) {
  switch (reference.kind) {
    case 'base':
      return 'basePrice'
    case 'recommended':
      return 'recommendedPrice'
    case 'cost':
      return 'cost'
  }
}

/**
 * The price a list has for an item, in the currency of the currency view: the most specific line that gives one. Whether
 * the list is on and holds now is the caller's business.
 *
 * Errors  `false` when none of its lines gives a price; `found` is then left as it was.
 */
export function findInList(
  prepared: PreparedStore,
  currencyView: CurrencyView,
  compiled: CompiledList,
  number: number,
  quantities: Quantities,
  found: ListPrice,
  /** Where the list names the item: −1 where it does not. */
  place = UNSEARCHED,
): boolean {
  if (!compiled.layout.holds(number, place)) return false
  const at = place === UNSEARCHED ? compiled.layout.findNamed(number) : place
  if (at >= 0) {
    if (tryRow(prepared, currencyView, compiled, compiled.namedRows, at, number, quantities, found))
      return true
    if (compiled.complete?.[at] === 1) return false
  }
  if (!compiled.hasPlan || number >= prepared.index.variantCount) return false
  const signature = prepared.index.signatureOf[number] as number
  return tryRow(prepared, currencyView, compiled, compiled.plan(), signature, number, quantities, found)
}

function tryRow(
  prepared: PreparedStore,
  currencyView: CurrencyView,
  compiled: CompiledList,
  rows: CompiledList['namedRows'],
  key: number,
  number: number,
  quantities: Quantities,
  found: ListPrice,
): boolean {
  const end = rows.starts[key + 1] as number
  for (let at = rows.starts[key] as number; at < end; at += 1) {
    const position = rows.lines[at] as number
    const units = lineUnits(prepared, currencyView, compiled, compiled.line(position), number, quantities)
    if (units !== units) continue
    found.units = units
    found.line = position
    found.specificity = rows.specificities[at] as number
    return true
  }
  return false
}

/** What a line gives for an item, in the currency of the currency view; NaN when it does not apply. */
export function lineUnits(
  prepared: PreparedStore,
  currencyView: CurrencyView,
  compiled: CompiledList,
  line: CompiledLine,
  number: number,
  quantities: Quantities,
): number {
  if (line.always) return stepUnits(prepared, currencyView, compiled, line.always, number, quantities)
  if (line.schedule && !matchWhen(line.schedule, currencyView.at).matches) return Number.NaN
  const counted = quantities.counted ? quantities.counted(compiled, line, number) : quantities.own
  const reached = breakAt(line, counted)
  if (reached < 0) return Number.NaN
  if (line.isGraduated && reached > 0)
    return graduatedUnits(prepared, currencyView, compiled, line, number, quantities)
  return stepUnits(prepared, currencyView, compiled, line.steps[reached] as LineStep, number, quantities)
}

/**
 * How much of a quantity falls into a bracket: up to the next start less one step of sale. From 10 on, nine pieces are
 * in the bracket before; measured goods have no such step. All in thousandths.
 */
export function bracketQuantity(
  froms: Float64Array,
  at: number,
  quantity: number,
  stepOfSale: number,
): number {
  const first = (from: number) => Math.max(from - stepOfSale, 0)
  const start = at === 0 ? 0 : first(froms[at] as number)
  const next = froms[at + 1]
  const end = next === undefined || next > quantity ? quantity : first(next)
  return end - start
}

/** The least that is sold more or less of an item, in thousandths: one piece, or nothing to speak of. */
export function stepOfSale({ store, index }: PreparedStore, number: number): number {
  const variant = store.variant.get(index.items[number] as string)
  const product = variant && store.product.get(variant.product)
  return product && isMeasured(product.unit) ? 0 : QUANTITY_UNITS
}

/**
 * What the units of a quantity cost on average under graduated brackets, exactly, in smallest units of the currency view's
 * currency.
 *
 * Errors  `null` when one of the brackets has no price.
 */
export function graduatedAverage(
  prepared: PreparedStore,
  currencyView: CurrencyView,
  compiled: CompiledList,
  line: CompiledLine,
  number: number,
  quantities: Quantities,
): Fraction | null {
  const counted = quantities.counted ? quantities.counted(compiled, line, number) : quantities.own
  const step = stepOfSale(prepared, number)
  let total = 0n
  for (let at = 0; at <= breakAt(line, counted); at += 1) {
    const units = stepUnits(prepared, currencyView, compiled, line.steps[at] as LineStep, number, quantities)
    if (units !== units) return null
    const quantity = bracketQuantity(line.froms, at, counted, step)
    if (quantity > 0) total += BigInt(quantity) * BigInt(units)
  }
  return { numerator: total, denominator: BigInt(counted) }
}

/** The average of the brackets, rounded half up to the smallest unit. */
function graduatedUnits(
  prepared: PreparedStore,
  currencyView: CurrencyView,
  compiled: CompiledList,
  line: CompiledLine,
  number: number,
  quantities: Quantities,
): number {
  const average = graduatedAverage(prepared, currencyView, compiled, line, number, quantities)
  if (!average) return Number.NaN
  // Never more than the dearest bracket, which is held exactly.
  const units = (2n * average.numerator + average.denominator) / (2n * average.denominator)
  return units > 0n ? Number(units) : 1
}

/** What one break of a line gives, in the currency of the currency view. */
export function stepUnits(
  prepared: PreparedStore,
  currencyView: CurrencyView,
  compiled: CompiledList,
  step: LineStep,
  number: number,
  quantities: Quantities,
): number {
  const { currency } = compiled.list
  if (currency === currencyView.currency)
    return unitsInOwnCurrency(prepared, currencyView, compiled, step, number, quantities)
  if (step.isProportional) {
    const own = ownUnits(prepared, currencyView, compiled, step, number)
    if (own === own) return own
  }
  const source = unitsInOwnCurrency(
    prepared,
    currencyViewInto(prepared, currencyView, currency),
    compiled,
    step,
    number,
    quantities,
  )
  if (source !== source) return source
  const conversion = conversionInto(prepared, currencyView, currency)
  return conversion ? runPriceStep(conversion, source) : Number.NaN
}

/** In the list's currency, which is the currency view's. */
function unitsInOwnCurrency(
  prepared: PreparedStore,
  currencyView: CurrencyView,
  compiled: CompiledList,
  { fixed, method, reference, step }: LineStep,
  number: number,
  quantities: Quantities,
): number {
  if (reference === null) return fixed
  const source = sourceUnits(prepared, currencyView, compiled, reference, number, quantities)
  return runPriceStep(
    inBasisOf(prepared, currencyView, compiled, { method, reference, step }, number),
    source,
  )
}

/** The step of a line; where it starts from an amount of another basis, that is brought to the list's own first. */
function inBasisOf(
  prepared: PreparedStore,
  currencyView: CurrencyView,
  { basis }: CompiledList,
  { method, reference, step }: Pick<LineStep, 'method' | 'reference' | 'step'>,
  number: number,
): PriceStep {
  const own = step as PriceStep
  if (currencyView.basisRates === null) return own
  const from = basisOfReference(prepared, reference as PriceReference)
  const factor = factorBetween(prepared, currencyView, number, from, basis)
  return factor ? sharedStep(method, own.rule, own.digits, factor) : own
}

/** What a computed price starts from, in the currency of the list. */
export function sourceUnits(
  prepared: PreparedStore,
  currencyView: CurrencyView,
  compiled: CompiledList,
  reference: PriceReference,
  number: number,
  quantities: Quantities,
): number {
  const into = currencyViewInto(prepared, currencyView, compiled.list.currency)
  if (reference.kind !== 'list') return amountAt(referenceAmounts(prepared, fieldOf(reference), into), number)
  const source = prepared.lists.get(reference.list)
  if (!source || !isInForce(source, currencyView.at)) return Number.NaN
  const price = emptyListPrice()
  return findInList(prepared, into, source, number, quantities, price) ? price.units : Number.NaN
}

/** Whether a list that others are computed from may be read: it is on and inside its schedule. */
function isInForce({ list, schedule }: CompiledList, at: number): boolean {
  return list.state === 'on' && list.status === 'active' && matchWhen(schedule, at).matches
}

/**
 * A proportional method computed in the buyer's currency, where what it starts from has an amount of its own in
 * it: own amounts win over conversion. Rounded as converted prices are.
 */
function ownUnits(
  prepared: PreparedStore,
  currencyView: CurrencyView,
  { basis }: CompiledList,
  { method, reference }: LineStep,
  number: number,
): number {
  if (reference === null || reference.kind === 'list') return Number.NaN
  const own = ownAmounts(prepared, fieldOf(reference), currencyView)
  if (!own) return Number.NaN
  const source = amountAt(own, number)
  if (source !== source) return source
  const factor = factorBetween(prepared, currencyView, number, storeBasis(prepared), basis)
  return runPriceStep(sharedStep(method, currencyView.rounding, currencyView.digits, factor), source)
}
