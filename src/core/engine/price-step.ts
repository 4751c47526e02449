import { add, type Decimal, fromDigits, HUNDRED, multiply, toDigits, powerOfTen } from '../decimal/decimal'
import { toFraction } from '../decimal/fraction'
import { type RoundingRule, roundPrice, toMinorUnit } from '../decimal/rounding'
import type { PriceMethod } from '../price/price-list'

/**
 * A line's method and rounding compiled for many prices: an exact integer operation from one price to
 * another, both in smallest units (a price of 19.90 with two digits is 1990).
 *
 * Before rounding the price is (source·N + A) ÷ D. Doubles carry these integers exactly up to 2^53, and
 * a double division of such integers has the right floor: a true quotient below an integer k is below it
 * by at least 1/D, which is more than half the distance of doubles at k while k·D ≤ 2^53. Beyond
 * `limit` the plain rational arithmetic of `core/decimal` decides.
 */
export interface PriceStep {
  readonly method: PriceMethod
  readonly rule: RoundingRule
  readonly digits: number
  /** Smallest units of a fixed amount, which no rounding touches; NaN for computed prices. */
  readonly fixed: number
  readonly numerator: number
  readonly addend: number
  readonly denominator: number
  /** The largest source for which doubles are exact; −1 when they never are. */
  readonly limit: number
  /** Step of a step rounding in smallest units; 0 for endings. */
  readonly step: number
  readonly mode: RoundingRule['mode']
  readonly period: number
  readonly endings: Float64Array
}

const EXACT_INTEGER = 2 ** 52

/** Smallest units of an amount that has at most `digits` digits. */
export function toUnits(amount: Decimal, digits: number): number {
  const { coefficient, scale } = toDigits(amount)
  return Number(coefficient * powerOfTen(digits - scale))
}

export function fromUnits(units: number, digits: number): Decimal {
  return fromDigits({ coefficient: BigInt(units), scale: digits })
}

/** The amount of a price found in smallest units; `null` for NaN, which stands for no price. */
export function toPrice(units: number, digits: number): Decimal | null {
  return Number.isNaN(units) ? null : fromUnits(units, digits)
}

/** What a method makes of a base price, exactly and before rounding. `base` is not used by fixed amounts. */
export function applyMethod(method: PriceMethod, base: Decimal): Decimal {
  switch (method.kind) {
    case 'fixed':
      return method.amount
    case 'amount':
      return add(base, method.amount)
    case 'percent':
      return multiply(base, multiply(add(HUNDRED, method.percent), '0.01' as Decimal))
  }
}

/** `digits` is how many digits a price of the store has. A missing rule rounds to the smallest unit. */
export function compilePriceStep(
  method: PriceMethod,
  rounding: RoundingRule | null,
  digits: number,
): PriceStep {
  const rule = rounding ?? toMinorUnit(digits)
  const line = linearOperation(method, digits)
  const step = rule.kind === 'step' ? toUnits(rule.step, digits) : 0
  // The rounding multiplies what it gets by two, and a step rounding divides by a multiple of the step.
  const room = EXACT_INTEGER / 2 - Math.abs(line.addend) - line.denominator * Math.max(step, 1)
  return {
    method,
    rule,
    digits,
    fixed: method.kind === 'fixed' ? toUnits(method.amount, digits) : Number.NaN,
    ...line,
    limit: room > 0 && line.exact ? Math.floor(room / Math.max(line.numerator, 1)) : -1,
    step,
    mode: rule.mode,
    period: rule.kind === 'endings' ? toUnits(rule.period, digits) : 0,
    endings: Float64Array.from(
      rule.kind === 'endings' ? rule.endings.map((ending) => toUnits(ending, digits)) : [],
    ),
  }
}

/**
 * The price a step makes of a base price, both in smallest units.
 *
 * Errors  NaN when there is no base price to start from, or when the result is not above zero: the line
 *         does not apply.
 */
export function runPriceStep(step: PriceStep, source: number): number {
  if (step.fixed === step.fixed) return step.fixed
  if (source !== source) return Number.NaN
  if (source > step.limit) return runExactly(step, source)
  const value = source * step.numerator + step.addend
  if (value <= 0) return Number.NaN
  return step.step > 0 ? onStep(step, value) : onEnding(step, value)
}

function onStep({ denominator, step, mode }: PriceStep, value: number): number {
  const size = denominator * step
  const below = Math.floor(value / size)
  const remainder = value - below * size
  let steps = below
  if (remainder > 0) {
    if (mode === 'up') steps += 1
    else if (mode === 'half-up') steps += remainder * 2 >= size ? 1 : 0
    else if (mode === 'half-even')
      steps += remainder * 2 > size || (remainder * 2 === size && below % 2 !== 0) ? 1 : 0
  }
  return steps > 0 ? steps * step : step
}

function onEnding({ denominator, period, endings, mode }: PriceStep, value: number): number {
  // Prices of the grid are whole units, so the whole units below the value find its lower neighbour.
  const whole = Math.floor(value / denominator)
  const first = endings[0] as number
  let start = Math.floor((whole - first) / period) * period
  let at = endings.length - 1
  while (start + (endings[at] as number) > whole) at -= 1
  const below = start + (endings[at] as number)
  if (below * denominator === value) return below
  if (at + 1 < endings.length) at += 1
  else {
    at = 0
    start += period
  }
  const above = start + (endings[at] as number)
  const price =
    mode === 'up' || (mode === 'nearest' && 2 * value >= (below + above) * denominator) ? above : below
  if (price > 0) return price
  return first > 0 ? first : endings.length > 1 ? (endings[1] as number) : period
}

function runExactly({ method, rule, digits }: PriceStep, source: number): number {
  const amount = applyMethod(method, fromUnits(source, digits))
  if (amount.startsWith('-') || amount === '0') return Number.NaN
  return toUnits(roundPrice(toFraction(amount), rule), digits)
}

/** (source·numerator + addend) ÷ denominator, all in smallest units. */
function linearOperation(method: PriceMethod, digits: number) {
  if (method.kind === 'fixed') return { numerator: 0, addend: 0, denominator: 1, exact: true }
  if (method.kind === 'amount')
    return { numerator: 1, addend: toUnits(method.amount, digits), denominator: 1, exact: true }
  const factor = toDigits(add(HUNDRED, method.percent))
  const exact = factor.coefficient < BigInt(EXACT_INTEGER)
  return { numerator: Number(factor.coefficient), addend: 0, denominator: 10 ** (factor.scale + 2), exact }
}
