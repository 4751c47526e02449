import { type Decimal, ZERO } from '../../decimal/decimal'
import type { Fraction } from '../../decimal/fraction'
import type { RoundingRule } from '../../decimal/rounding'
import { type CompiledSchedule, compileSchedule } from '../../predicates/when'
import {
  type BreakCounting,
  isProportional,
  type PriceMethod,
  type PriceReference,
  referenceOf,
} from '../../price/lines/price-method'
import type { PriceLine, PriceList } from '../../price/lines/price-list'
import { getSettings, priceDigitsOf, type Store } from '../../store/store'
import { compose, methodOperation, scaling, toUnits } from './operation'
import { compilePriceStep, type PriceStep } from './price-step'

/** Quantities are counted in thousandths, so that they are whole numbers. */
export const QUANTITY_UNITS = 1000

/** A method of a line compiled, in smallest units of the list's currency. */
export interface LineStep {
  readonly method: PriceMethod
  /** Of a fixed amount, which no rounding touches; NaN for computed prices. */
  readonly fixed: number
  readonly reference: PriceReference | null
  /** `null` for a fixed amount. */
  readonly step: PriceStep | null
  /** Whether it can be computed in any currency its reference has an amount of its own in. */
  readonly isProportional: boolean
}

/** A line of a list, or its default line, compiled. */
export interface CompiledLine {
  /** `null` for the default line. */
  readonly line: PriceLine | null
  readonly schedule: CompiledSchedule | null
  readonly counting: BreakCounting
  readonly isGraduated: boolean
  readonly rounding: RoundingRule | null
  /** First quantities of the breaks, in thousandths, rising. */
  readonly froms: Float64Array
  readonly steps: readonly LineStep[]
  /** The step of a line that always has the same one, whatever the quantity and the hour; `null` for others. */
  readonly always: LineStep | null
}

export function compileLine(list: PriceList, line: PriceLine | undefined, store: Store): CompiledLine {
  const breaks = line ?? list.defaultLine
  if (!breaks) throw new RangeError(`list ${list.id} has no such line`)
  const digits = priceDigitsOf(store, list.currency)
  const rounding = line?.rounding ?? list.rounding
  const steps = breaks.breaks.map(({ method }) => lineStep(method, rounding, list, store, digits))
  const isAlways = steps.length === 1 && breaks.breaks[0]?.from === ZERO && !line?.schedule
  return {
    line: line ?? null,
    schedule: line?.schedule ? compileSchedule(line.schedule, getSettings(store).timeZone) : null,
    counting: breaks.counting,
    isGraduated: breaks.pricing === 'graduated' && breaks.breaks.length > 1,
    rounding,
    froms: Float64Array.from(breaks.breaks.map(({ from }) => quantityUnits(from))),
    steps,
    always: isAlways ? (steps[0] as LineStep) : null,
  }
}

/** Thousandths of a quantity with at most three digits. */
export function quantityUnits(quantity: Decimal): number {
  return toUnits(quantity, 3)
}

/** Which break a quantity reaches; −1 below the first. Quantity in thousandths. */
export function breakAt({ froms }: CompiledLine, quantity: number): number {
  let at = froms.length - 1
  while (at >= 0 && (froms[at] as number) > quantity) at -= 1
  return at
}

function lineStep(
  method: PriceMethod,
  rounding: RoundingRule | null,
  list: PriceList,
  store: Store,
  digits: number,
): LineStep {
  if (method.kind === 'fixed')
    return {
      method,
      fixed: toUnits(method.amount, digits),
      reference: null,
      step: null,
      isProportional: false,
    }
  const reference = referenceOf(method) as PriceReference
  return {
    method,
    fixed: Number.NaN,
    reference,
    step: sharedStep(method, rounding, digits),
    isProportional: isProportional(method) && reference.kind !== 'list',
  }
}

/**
 * Large stores have a million lines and a few thousand different ways to compute: each is compiled once. What is
 * kept does not depend on a store.
 */
const SHARED = new Map<string, PriceStep>()
const MOST_SHARED = 100_000

export function sharedStep(
  method: PriceMethod,
  rounding: RoundingRule | null,
  digits: number,
  /** What what it starts from is multiplied by first, to have the basis of the list. */
  factor: Fraction | null = null,
): PriceStep {
  const value = method.kind === 'amount' || method.kind === 'fixed' ? method.amount : method.percent
  const brought = factor ? `${factor.numerator}:${factor.denominator}` : ''
  const key = `${method.kind}${value}/${digits}/${roundingKey(rounding)}/${brought}`
  let step = SHARED.get(key)
  if (!step) {
    if (SHARED.size >= MOST_SHARED) SHARED.clear()
    const same = { source: digits, target: digits }
    const operation = methodOperation(method, same)
    step = compilePriceStep(factor ? compose(scaling(factor, same), operation) : operation, rounding, digits)
    SHARED.set(key, step)
  }
  return step
}

export function roundingKey(rule: RoundingRule | null): string {
  if (rule === null) return ''
  return rule.kind === 'step'
    ? `${rule.step}${rule.mode}`
    : `${rule.period}:${rule.endings.join(';')}${rule.mode}`
}
