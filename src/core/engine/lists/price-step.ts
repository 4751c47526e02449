import {
  type Decimal,
  decimal,
  fromDigits,
  multiply,
  powerOfTen,
  scaleOf,
  subtract,
} from '../../decimal/decimal'
import { toFraction } from '../../decimal/fraction'
import { type RoundingRule, roundPrice, toMinorUnit } from '../../decimal/rounding'
import { type Operation, toUnits } from './operation'

/**
 * An operation and its rounding compiled for many prices, all in smallest units (19.90 with two digits is 1990).
 *
 * Where the rule has one price in each period, the result is `offset + grid·floor(source·factor + shift)` in
 * doubles. That is exact: the true quotient is a multiple of 1/(2·denominator·grid), `shift` puts it half such a
 * distance from every integer, and while `|source|·numerator + |addend| ≤ 2^49` the error of a multiplication and
 * an addition is smaller than that. Beyond `limit` the fractional part decides, and where it is too near an
 * integer, integers do.
 */
export interface PriceStep {
  readonly operation: Operation
  readonly rule: RoundingRule
  readonly digits: number
  /** How the price is found: by the formula above, by remainders, among several endings, or in two roundings. */
  readonly kind: 'formula' | 'half-even' | 'endings' | 'two-roundings'
  readonly factor: number
  readonly shift: number
  readonly grid: number
  readonly offset: number
  /** The largest source for which doubles are exact; −1 when they never are. */
  readonly limit: number
  /** The smallest source whose result is above zero before rounding. */
  readonly least: number
  /** The cheapest price the rule can give. */
  readonly smallest: number
  readonly numerator: number
  readonly addend: number
  readonly denominator: number
  readonly mode: RoundingRule['mode']
  readonly endings: Float64Array
}

const EXACT = 2n ** 49n

export function fromUnits(units: number, digits: number): Decimal {
  return fromDigits({ coefficient: BigInt(units), scale: digits })
}

/** The amount of a price found in smallest units; `null` for NaN, which stands for no price. */
export function toPrice(units: number, digits: number): Decimal | null {
  return Number.isNaN(units) ? null : fromUnits(units, digits)
}

/** `digits` is how many digits the resulting price has. A missing rule rounds to the smallest unit. */
export function compilePriceStep(
  operation: Operation,
  rounding: RoundingRule | null,
  digits: number,
): PriceStep {
  const rule = evened(rounding ?? toMinorUnit(digits))
  const parts = rule.kind === 'step' ? [rule.step] : [rule.period, ...rule.endings]
  const representable = parts.every((part) => scaleOf(part) <= digits)
  const kind = !representable
    ? 'two-roundings'
    : rule.kind === 'endings' && rule.endings.length > 1
      ? 'endings'
      : rule.mode === 'half-even'
        ? 'half-even'
        : 'formula'
  const units = (part: Decimal) => (representable ? toUnits(part, digits) : 0)
  const grid = units(rule.kind === 'step' ? rule.step : rule.period)
  const endings = Float64Array.from(rule.kind === 'endings' ? rule.endings.map(units) : [])
  const offset = endings[0] ?? 0
  return {
    operation,
    rule,
    digits,
    kind,
    ...formula(operation, grid, offset, rule.mode),
    grid,
    offset,
    least: leastSource(operation),
    smallest: rule.kind === 'step' ? grid : (endings.find((ending) => ending > 0) ?? grid),
    numerator: Number(operation.numerator),
    addend: Number(operation.addend),
    denominator: Number(operation.denominator),
    mode: rule.mode,
    endings,
  }
}

/** Endings that lie evenly over their period, such as .45 and .95, are one ending of a shorter period: a formula again. */
function evened(rule: RoundingRule): RoundingRule {
  if (rule.kind === 'step' || rule.endings.length < 2) return rule
  const { period, endings } = rule
  const [first] = endings as readonly [Decimal, ...Decimal[]]
  const between = subtract(endings[1] as Decimal, first)
  const isEven =
    endings.every((ending, at) => at === 0 || subtract(ending, endings[at - 1] as Decimal) === between) &&
    multiply(between, decimal(endings.length)) === period
  return isEven ? { ...rule, period: between, endings: [first] } : rule
}

function formula(
  { numerator, addend, denominator }: Operation,
  grid: number,
  offset: number,
  mode: RoundingRule['mode'],
) {
  const size = denominator * BigInt(grid)
  if (size === 0n) return { factor: 0, shift: 0, limit: -1 }
  const from = addend - BigInt(offset) * denominator
  // Prices are above zero, where ceiling is up and floor is down.
  const half = HALVES[mode](size)
  const room = EXACT - size - (from < 0n ? -from : from)
  return {
    factor: Number(numerator) / Number(size),
    // A quarter in the numerator of the doubled fraction is half a lattice step of the quotient.
    shift: (Number(2n * from + half) + 0.5) / (2 * Number(size)),
    limit: room > 0n ? Number(room / numerator) : -1,
  }
}

const HALVES: Readonly<Record<RoundingRule['mode'], (size: bigint) => bigint>> = {
  up: (size) => 2n * size - 2n,
  ceiling: (size) => 2n * size - 2n,
  down: () => 0n,
  floor: () => 0n,
  'half-up': (size) => size,
  nearest: (size) => size,
  'half-down': (size) => size - 1n,
  // Has a way of its own, since a tie looks at its neighbour.
  'half-even': (size) => size,
}

/** The smallest source from which source × numerator + addend is above zero. */
export function leastSource({ numerator, addend }: Operation): number {
  return addend > 0n ? 0 : Number(-addend / numerator) + 1
}

/**
 * The price a step makes of another, both in smallest units.
 *
 * Errors  NaN when there is nothing to start from, when the result is not above zero before rounding, and when it is
 *         more than a double holds exactly.
 */
export function runPriceStep(step: PriceStep, source: number): number {
  if (!(source >= step.least)) return Number.NaN
  if (source > step.limit) return runBeyond(step, source)
  if (step.kind === 'formula') {
    const price = step.offset + step.grid * Math.floor(source * step.factor + step.shift)
    return price > 0 ? price : step.smallest
  }
  if (step.kind === 'half-even') return onStepHalfEven(step, source)
  return step.kind === 'endings' ? onEnding(step, source) : runExactly(step, source)
}

/**
 * The hot loop: one step over neighbouring prices; NaN where there is no result.
 */
export function sweepPriceStep(
  step: PriceStep,
  sources: Float64Array,
  results: Float64Array,
  from: number,
  to: number,
): void {
  if (step.kind !== 'formula') {
    for (let at = from; at < to; at += 1) results[at] = runPriceStep(step, sources[at] as number)
    return
  }
  const { factor, shift, grid, offset, limit, least } = step
  for (let at = from; at < to; at += 1) {
    const source = sources[at] as number
    const price = offset + grid * Math.floor(source * factor + shift)
    results[at] = source >= least && source <= limit && price > 0 ? price : runPriceStep(step, source)
  }
}

function onStepHalfEven({ numerator, addend, denominator, grid }: PriceStep, source: number): number {
  const size = denominator * grid
  const value = source * numerator + addend
  const below = Math.floor(value / size)
  const remainder = value - below * size
  const up = remainder * 2 > size || (remainder * 2 === size && below % 2 !== 0)
  const steps = up ? below + 1 : below
  return steps > 0 ? steps * grid : grid
}

function onEnding(step: PriceStep, source: number): number {
  const { numerator, addend, denominator, grid: period, endings, mode, smallest } = step
  const value = source * numerator + addend
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
  return price > 0 ? price : smallest
}

/** Doubles with an error bound first: only what lies too near a border needs integers. */
function runBeyond(step: PriceStep, source: number): number {
  if (step.kind !== 'formula') return runExactly(step, source)
  const scaled = source * step.factor
  const quotient = scaled + step.shift
  const floor = Math.floor(quotient)
  const tolerance = (Math.abs(scaled) + Math.abs(step.shift) + 1) * 2 ** -49
  if (quotient - floor <= tolerance || floor + 1 - quotient <= tolerance) return runExactly(step, source)
  const price = step.offset + step.grid * floor
  return price > 0 ? heldExactly(price) : step.smallest
}

/** Beyond 2^53 neighbouring units are one double: no price is better than another one. */
function heldExactly(units: number): number {
  return units <= Number.MAX_SAFE_INTEGER ? units : Number.NaN
}

function runExactly({ operation, rule, digits }: PriceStep, source: number): number {
  const value = {
    numerator: BigInt(source) * operation.numerator + operation.addend,
    denominator: operation.denominator * powerOfTen(digits),
  }
  const rounded = roundPrice(value, rule)
  // A rule finer than the currency: its price is rounded once more, to what can be paid.
  const payable = scaleOf(rounded) <= digits ? rounded : roundPrice(toFraction(rounded), toMinorUnit(digits))
  return heldExactly(toUnits(payable, digits))
}
