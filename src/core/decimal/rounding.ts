import { type Decimal, compare, fromDigits, powerOfTen, toDigits, ZERO } from './decimal'
import { type Fraction, floorDivide, toFraction } from './fraction'

/**
 * How a value between two steps finds one of them.
 *
 * Source  IEEE 754-2008 §4.3 and the General Decimal Arithmetic specification 1.70: *up* is away from
 *         zero, *down* towards zero, *half-up* takes a tie away from zero (so −2.5 becomes −3).
 */
export const ROUNDING_MODES = ['half-up', 'half-even', 'half-down', 'up', 'down', 'ceiling', 'floor'] as const
export type RoundingMode = (typeof ROUNDING_MODES)[number]

/** Rounds to a multiple of `step`: 0.01, 0.05, 1, 10… */
export interface StepRounding {
  readonly kind: 'step'
  readonly step: Decimal
  readonly mode: RoundingMode
}

/**
 * Rounds to a price that ends as the merchant wishes: one of `endings` above a multiple of `period`.
 * `{ period: 1, endings: [0.95] }` gives …95 cents; `{ period: 10, endings: [4.90, 9.90] }` gives 4.90
 * or 9.90 in every ten. Endings are rising and lie in [0, period). *Nearest* takes a tie up.
 */
export interface EndingRounding {
  readonly kind: 'endings'
  readonly period: Decimal
  readonly endings: readonly Decimal[]
  readonly mode: 'up' | 'down' | 'nearest'
}

export type RoundingRule = StepRounding | EndingRounding

/** Rounds a fraction to the nearest integer in the way of `mode`. */
function roundToInteger({ numerator, denominator }: Fraction, mode: RoundingMode): bigint {
  const below = floorDivide(numerator, denominator)
  const remainder = numerator - below * denominator
  if (remainder === 0n) return below
  const negative = numerator < 0n
  const half = remainder * 2n
  switch (mode) {
    case 'floor':
      return below
    case 'ceiling':
      return below + 1n
    case 'up':
      return negative ? below : below + 1n
    case 'down':
      return negative ? below + 1n : below
    case 'half-up':
      return half > denominator || (half === denominator && !negative) ? below + 1n : below
    case 'half-down':
      return half > denominator || (half === denominator && negative) ? below + 1n : below
    case 'half-even':
      return half > denominator || (half === denominator && below % 2n !== 0n) ? below + 1n : below
  }
}

/** Rounds to `digits` digits after the point. */
export function roundToDigits(value: Fraction, digits: number, mode: RoundingMode): Decimal {
  const scaled = { numerator: value.numerator * powerOfTen(digits), denominator: value.denominator }
  return fromDigits({ coefficient: roundToInteger(scaled, mode), scale: digits })
}

/** Rounds to a multiple of a positive step. */
export function roundToStep(value: Fraction, step: Decimal, mode: RoundingMode): Decimal {
  const size = toFraction(step)
  const steps = roundToInteger(
    { numerator: value.numerator * size.denominator, denominator: value.denominator * size.numerator },
    mode,
  )
  const { coefficient, scale } = toDigits(step)
  return fromDigits({ coefficient: steps * coefficient, scale })
}

/**
 * Rounds a price by its rule.
 *
 * Holds   a price already on the grid stays; a positive price never becomes zero or negative: it takes
 *         the smallest positive price of the grid instead.
 */
export function roundPrice(value: Fraction, rule: RoundingRule): Decimal {
  const rounded = rule.kind === 'step' ? roundToStep(value, rule.step, rule.mode) : roundToEnding(value, rule)
  if (value.numerator > 0n && compare(rounded, ZERO) <= 0) return smallestPositive(rule)
  return rounded
}

/** The cheapest price a rule can give. */
function smallestPositive(rule: RoundingRule): Decimal {
  if (rule.kind === 'step') return rule.step
  return rule.endings.find((ending) => ending !== ZERO) ?? rule.period
}

function roundToEnding(value: Fraction, { period, endings, mode }: EndingRounding): Decimal {
  // Everything becomes a whole number of the finest unit the rule speaks of.
  const scale = Math.max(...[period, ...endings].map((part) => toDigits(part).scale))
  const units = (part: Decimal): bigint => {
    const digits = toDigits(part)
    return digits.coefficient * powerOfTen(scale - digits.scale)
  }
  const size = units(period)
  const numerator = value.numerator * powerOfTen(scale)
  const { denominator } = value

  const start = floorDivide(numerator, denominator * size) * size
  // Three periods surely hold the neighbours of the value, endings below the first one included.
  const grid = [start - size, start, start + size].flatMap((from) =>
    endings.map((ending) => from + units(ending)),
  )
  const below = grid.filter((price) => price * denominator <= numerator).at(-1) as bigint
  const above = grid.find((price) => price * denominator >= numerator) as bigint
  const nearest = 2n * numerator >= (below + above) * denominator ? above : below
  return fromDigits({ coefficient: mode === 'down' ? below : mode === 'up' ? above : nearest, scale })
}

/** Rounding to the smallest amount a currency of `digits` digits can show, half up. */
export function toMinorUnit(digits: number): StepRounding {
  return { kind: 'step', step: fromDigits({ coefficient: 1n, scale: digits }), mode: 'half-up' }
}
