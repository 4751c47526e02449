import { negate, parseDecimal, type Decimal } from '../decimal/decimal'
import type { PriceMethodDraft } from './parse-price-list'
import type { PriceMethod } from './price-list'

/**
 * A rule as it is typed: `-12%` and `+5%` are off and on the base price, `-0.60` and `+2` likewise by an
 * amount, `17.60` is a fixed amount.
 *
 * Errors  `null` when it is none of these.
 * Holds   `parseMethodText(methodText(method))` is `method`.
 */
export function parseMethodText(text: string): PriceMethodDraft | null {
  const match = /^([+-])?(\d*\.?\d+)(%)?$/.exec(text.replace(/\s+/g, '').replace('−', '-'))
  const value = match?.[2] === undefined ? null : parseDecimal(match[2])
  if (!match || value === null) return null
  const [, sign, , percent] = match
  const signed = sign === '-' ? negate(value) : value
  if (percent) return sign ? { kind: 'percent', percent: signed, reference: 'base' } : null
  return sign ? { kind: 'amount', amount: signed, reference: 'base' } : { kind: 'fixed', amount: value }
}

export function methodText(method: PriceMethod): string {
  if (method.kind === 'percent') return `${withSign(method.percent)}%`
  return method.kind === 'fixed' ? method.amount : withSign(method.amount)
}

function withSign(value: Decimal): string {
  return value.startsWith('-') ? value : `+${value}`
}
