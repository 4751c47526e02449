import {
  add,
  type Decimal,
  compare,
  HUNDRED,
  isPositive,
  multiply,
  ONE,
  parseDecimal,
  scaleOf,
  subtract,
} from '../decimal/decimal'
import { divide, type Fraction, toFraction } from '../decimal/fraction'
import { roundPrice, type RoundingRule, roundToDigits } from '../decimal/rounding'

/**
 * What a merchant types into a price: `19.90` a new amount, `+5%` `-5%` a change in percent, `+2` `-2` a
 * change by an amount, `x1.2` times a factor, `m35` a price with 35 % margin on cost.
 */
export type PriceExpression =
  | { readonly kind: 'amount'; readonly amount: Decimal }
  | { readonly kind: 'percent'; readonly percent: Decimal }
  | { readonly kind: 'change'; readonly amount: Decimal }
  | { readonly kind: 'factor'; readonly factor: Decimal }
  | { readonly kind: 'margin'; readonly percent: Decimal }

export type PriceExpressionError =
  | 'not-understood'
  | 'comma'
  | 'too-many-digits'
  | 'not-positive'
  | 'no-current-price'
  | 'no-cost'
  | 'margin-too-high'

type Outcome<Value> =
  { readonly ok: true; readonly value: Value } | { readonly ok: false; readonly error: PriceExpressionError }

/** Reads what was typed. Blanks around it do not matter; a comma is reported as such, because it is a frequent slip. */
export function parsePriceExpression(text: string): Outcome<PriceExpression> {
  const typed = text.replace(/\s+/g, '').toLowerCase().replace('−', '-')
  const match = /^([+-]|x|×|m)?(\d*\.?\d+|\d+\.)(%)?$/.exec(typed)
  const value = match?.[2] === undefined ? null : parseDecimal(match[2])
  if (!match || value === null) {
    return { ok: false, error: /^[^,]*\d,\d+%?$/.test(typed) ? 'comma' : 'not-understood' }
  }
  const [, prefix, , percent] = match
  const signed = prefix === '-' ? subtract('0' as Decimal, value) : value
  if (prefix === '+' || prefix === '-') {
    return {
      ok: true,
      value: percent ? { kind: 'percent', percent: signed } : { kind: 'change', amount: signed },
    }
  }
  if (prefix === 'm') return { ok: true, value: { kind: 'margin', percent: value } }
  if (percent) return { ok: false, error: 'not-understood' }
  return { ok: true, value: prefix ? { kind: 'factor', factor: value } : { kind: 'amount', amount: value } }
}

/**
 * The amount an expression comes to.
 *
 * Units   amounts in currency units; `digits` is how many digits a price may have. A typed amount must
 *         keep to them; a computed one is rounded once: by `rounding`, else to them, half up.
 * Errors  named in `PriceExpressionError`; the result is always above zero.
 */
export function evaluatePriceExpression(
  expression: PriceExpression,
  context: {
    readonly current: Decimal | null
    readonly cost: Decimal | null
    readonly digits: number
    readonly rounding?: RoundingRule | null
  },
): Outcome<Decimal> {
  const { current, cost, digits, rounding = null } = context
  const fail = (error: PriceExpressionError) => ({ ok: false, error }) as const
  const accept = (value: Decimal) =>
    isPositive(value) ? ({ ok: true, value } as const) : fail('not-positive')
  const computed = (exact: Fraction) =>
    accept(rounding ? roundPrice(exact, rounding) : roundToDigits(exact, digits, 'half-up'))
  const given = (value: Decimal) => accept(rounding ? roundPrice(toFraction(value), rounding) : value)

  switch (expression.kind) {
    case 'amount':
      if (scaleOf(expression.amount) > digits) return fail('too-many-digits')
      return given(expression.amount)
    case 'margin':
      if (cost === null) return fail('no-cost')
      if (compare(expression.percent, HUNDRED) >= 0) return fail('margin-too-high')
      return computed(divide(multiply(cost, HUNDRED), subtract(HUNDRED, expression.percent)))
    case 'change':
      if (current === null) return fail('no-current-price')
      if (scaleOf(expression.amount) > digits) return fail('too-many-digits')
      return given(add(current, expression.amount))
    case 'percent':
    case 'factor': {
      if (current === null) return fail('no-current-price')
      const factor =
        expression.kind === 'factor' ? expression.factor : add(ONE, divideByHundred(expression.percent))
      return computed(toFraction(multiply(current, factor)))
    }
  }
}

function divideByHundred(value: Decimal): Decimal {
  return multiply(value, '0.01' as Decimal)
}
