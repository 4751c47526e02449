declare const canonical: unique symbol

/**
 * An exact decimal number, held as its own canonical text: `-?digits[.digits]`, no exponent, no
 * leading or trailing zeros, never `-0`. One value has one text, so `===` compares values, and a
 * decimal travels through JSON, a database or a page without losing anything.
 */
export type Decimal = string & { readonly [canonical]: true }

/** A decimal taken apart: value = coefficient ÷ 10^scale. */
export interface Digits {
  readonly coefficient: bigint
  readonly scale: number
}

const DECIMAL_TEXT = /^([+-]?)(\d*)(?:\.(\d*))?$/

export const ZERO = '0' as Decimal
export const ONE = '1' as Decimal
export const HUNDRED = '100' as Decimal

/** Raising to a power costs more than most sums do, and the same few powers are asked for all day. */
const POWERS_OF_TEN: readonly bigint[] = Array.from({ length: 40 }, (_, exponent) => 10n ** BigInt(exponent))

export function powerOfTen(exponent: number): bigint {
  return POWERS_OF_TEN[exponent] ?? 10n ** BigInt(exponent)
}

/**
 * Reads a decimal from text such as `19.90`, `-0.5` or `.5`.
 *
 * Errors  `null` when the text is not a decimal with a point: thousands separators, commas, exponents
 *         and blanks are not guessed at.
 */
export function parseDecimal(text: string): Decimal | null {
  const match = DECIMAL_TEXT.exec(text)
  if (!match) return null
  const [, sign = '', whole = '', fraction = ''] = match
  if (whole === '' && fraction === '') return null
  const coefficient = BigInt((whole + fraction).replace(/^$/, '0'))
  return fromDigits({ coefficient: sign === '-' ? -coefficient : coefficient, scale: fraction.length })
}

/**
 * A decimal known to be right when the code is written.
 *
 * Errors  throws `RangeError` when it is not: use `parseDecimal` for anything typed or read.
 */
export function decimal(text: string | number | bigint): Decimal {
  const value = parseDecimal(String(text))
  if (value === null) throw new RangeError(`not a decimal: ${text}`)
  return value
}

export function toDigits(value: Decimal): Digits {
  if (value.length <= SHORT) return readShort(value)
  const point = value.indexOf('.')
  if (point < 0) return { coefficient: BigInt(value), scale: 0 }
  return {
    coefficient: BigInt(value.slice(0, point) + value.slice(point + 1)),
    scale: value.length - point - 1,
  }
}

/** So many characters hold a whole number that a `number` holds exactly. */
const SHORT = 15
const POINT = 46
const MINUS = 45
const DIGIT_ZERO = 48

/** Nearly every amount is short, and reading it digit by digit takes half as long as reading a `bigint` from text. */
function readShort(value: Decimal): Digits {
  let whole = 0
  let point = value.length - 1
  let isNegative = false
  for (let at = 0; at < value.length; at += 1) {
    const character = value.charCodeAt(at)
    if (character === POINT) point = at
    else if (character === MINUS) isNegative = true
    else whole = whole * 10 + (character - DIGIT_ZERO)
  }
  return { coefficient: BigInt(isNegative ? -whole : whole), scale: value.length - 1 - point }
}

export function fromDigits({ coefficient, scale }: Digits): Decimal {
  const text = withPoint((coefficient < 0n ? -coefficient : coefficient).toString(), scale)
  return (coefficient < 0n ? `-${text}` : text) as Decimal
}

/** Digits with their point, without the zeros that say nothing. */
function withPoint(digits: string, scale: number): string {
  if (scale === 0) return digits
  const padded = digits.length > scale ? digits : digits.padStart(scale + 1, '0')
  const point = padded.length - scale
  let end = padded.length
  while (end > point && padded.charCodeAt(end - 1) === DIGIT_ZERO) end -= 1
  return end === point ? padded.slice(0, point) : `${padded.slice(0, point)}.${padded.slice(point, end)}`
}

/** The sum of two decimals taken apart. */
function addDigits(left: Digits, right: Digits): Digits {
  const shift = left.scale - right.scale
  if (shift === 0) return { coefficient: left.coefficient + right.coefficient, scale: left.scale }
  return shift < 0
    ? { coefficient: left.coefficient * powerOfTen(-shift) + right.coefficient, scale: right.scale }
    : { coefficient: left.coefficient + right.coefficient * powerOfTen(shift), scale: left.scale }
}

function negateDigits({ coefficient, scale }: Digits): Digits {
  return { coefficient: -coefficient, scale }
}

export function add(left: Decimal, right: Decimal): Decimal {
  if (left === ZERO) return right
  if (right === ZERO) return left
  return fromDigits(addDigits(toDigits(left), toDigits(right)))
}

export function sum(values: Iterable<Decimal>): Decimal {
  let total: Digits = { coefficient: 0n, scale: 0 }
  for (const value of values) total = addDigits(total, toDigits(value))
  return fromDigits(total)
}

export function subtract(left: Decimal, right: Decimal): Decimal {
  return fromDigits(addDigits(toDigits(left), negateDigits(toDigits(right))))
}

export function multiply(left: Decimal, right: Decimal): Decimal {
  const a = toDigits(left)
  const b = toDigits(right)
  return fromDigits({ coefficient: a.coefficient * b.coefficient, scale: a.scale + b.scale })
}

export function negate(value: Decimal): Decimal {
  return fromDigits(negateDigits(toDigits(value)))
}

/** Negative, zero or positive as `left` is below, equal to or above `right`. */
export function compare(left: Decimal, right: Decimal): -1 | 0 | 1 {
  if (left === right) return 0
  const { coefficient } = addDigits(toDigits(left), negateDigits(toDigits(right)))
  return coefficient < 0n ? -1 : 1
}

export function isPositive(value: Decimal): boolean {
  return value !== ZERO && !value.startsWith('-')
}

/** How many digits stand after the point: 2 for `19.95`, 1 for `19.90`, 0 for `20`. */
export function scaleOf(value: Decimal): number {
  const point = value.indexOf('.')
  return point < 0 ? 0 : value.length - point - 1
}

/**
 * The value with at least `digits` digits after the point, for showing: `toFixed('19.9', 2)` is
 * `19.90`. Never rounds: further digits stay.
 */
export function toFixed(value: Decimal, digits: number): string {
  const missing = digits - scaleOf(value)
  if (missing <= 0) return value
  return (value.includes('.') ? value : `${value}.`) + '0'.repeat(missing)
}
