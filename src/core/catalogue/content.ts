import { type Decimal, isPositive, multiply, parseDecimal, powerOfTen } from '../decimal/decimal'
import { divide } from '../decimal/fraction'
import { roundToDigits } from '../decimal/rounding'
import type { InputReader } from '../issue/input-reader'

/** What a price per unit is for. */
export type MeasureUnit = 'kg' | 'l' | 'm' | 'm²' | 'piece'

/** Units a content may be stated in: how many digits the point moves to have the unit prices are given for. */
const UNITS: Readonly<Record<string, readonly [per: MeasureUnit, moves: number]>> = {
  kg: ['kg', 0],
  g: ['kg', 3],
  mg: ['kg', 6],
  l: ['l', 0],
  dl: ['l', 1],
  cl: ['l', 2],
  ml: ['l', 3],
  m: ['m', 0],
  cm: ['m', 2],
  mm: ['m', 3],
  'm²': ['m²', 0],
  'cm²': ['m²', 4],
  piece: ['piece', 0],
  pieces: ['piece', 0],
}

/** `0.454 kg`, `12 × 340 g`, `50 m`, `100 pieces`. */
const CONTENT = /^(?:(\d+)\s*[x×*]\s*)?(\d*\.?\d+)\s*([a-z]+[²2]?)$/i

interface Content {
  readonly count: Decimal
  readonly amount: Decimal
  readonly unit: string
}

/**
 * Reads how much of something an item holds.
 *
 * Errors  `null` for anything that is not an amount above zero in kg, g, mg, l, dl, cl, ml, m, cm, mm, m², cm² or pieces,
 *         or a count of such.
 */
function readContent(text: string): Content | null {
  const [, counted = '1', amountText = '', unitText = ''] = CONTENT.exec(text.trim()) ?? []
  const unit = unitText.toLowerCase().replace('2', '²')
  const count = parseDecimal(counted)
  const amount = parseDecimal(amountText)
  if (!count || !amount || !isPositive(count) || !isPositive(amount) || !UNITS[unit]) return null
  return { count, amount, unit }
}

/**
 * A content written the one way it is kept: `12 × 340 g`.
 *
 * Errors  `null` for what is no content.
 */
export function writtenContent(text: string): string | null {
  const content = text.length > LONGEST ? null : readContent(text)
  if (!content) return null
  const { count, amount, unit } = content
  return count === '1' ? `${amount} ${unit}` : `${count} × ${amount} ${unit}`
}

/** The content of a record being read; what is none is reported. */
export function parseContent(reader: InputReader, text: string | null): string | null {
  if (text === null || text.trim() === '') return null
  const written = writtenContent(text)
  if (written === null) reader.report('malformed', 'content', text, '0.454 kg, 12 × 340 g or 2.5 l')
  return written ?? text
}

const LONGEST = 40

/** A price for one unit of what an item holds. */
export interface UnitPrice {
  readonly per: MeasureUnit
  readonly amount: Decimal
}

/**
 * What one kilogram, litre, metre, square metre or piece of an item costs.
 *
 * Units   price in currency units; rounded half up to `digits`, those of the currency's smallest unit.
 * Errors  `null` where the item does not say what it holds.
 * Source  Directive 98/6/EC Art. 2(b) and 3 (from memory): the price for one unit of quantity is given beside the
 *         selling price.
 */
export function unitPriceOf(price: Decimal, content: string | null, digits: number): UnitPrice | null {
  const read = content === null ? null : readContent(content)
  if (!read) return null
  const [per, moves] = UNITS[read.unit] as readonly [MeasureUnit, number]
  const held = multiply(read.count, read.amount)
  const whole = divide(price, held)
  const exact = { numerator: whole.numerator * powerOfTen(moves), denominator: whole.denominator }
  return { per, amount: roundToDigits(exact, digits, 'half-up') }
}
