import { compare, type Decimal, isPositive, parseDecimal, scaleOf, ZERO } from '../decimal/decimal'
import type { Issue, IssueCode, Parsed, RecordKind } from './issue'

interface AmountRule {
  /** How many digits may stand after the point. */
  readonly digits: number
  readonly sign: 'above-zero' | 'not-negative' | 'any'
  /** A factor, not an amount: only the digits it has count, not all it may have. */
  readonly isFactor?: boolean
}

export const LONGEST_CODE = 100
const LONGEST_NAME = 200
const LONGEST_SHOWN = 100
const LONGEST_AMOUNT = 40

/** So many digits a whole number of smallest units may have to be kept exactly. */
const EXACT_DIGITS = 15

/** How many digits an amount has in the smallest units of so many digits. */
function digitsOf(amount: Decimal, digits: number): number {
  const whole = amount.replace('-', '').split('.')[0] as string
  return (whole === '0' ? 0 : whole.length) + digits
}

/**
 * Reads the fields of one submitted record and gathers everything that is wrong with it, so that a
 * person hears of all slips at once.
 */
export class InputReader {
  private readonly issues: Issue[] = []

  constructor(
    private readonly kind: RecordKind,
    private readonly label: string,
  ) {}

  report(code: IssueCode, field: string, value: string, expected: string | null = null): void {
    const shown = value.length > LONGEST_SHOWN ? `${value.slice(0, LONGEST_SHOWN)}…` : value
    this.issues.push({ code, kind: this.kind, label: this.label, field, value: shown, expected })
  }

  /** A text that must say something, in at most so many signs; blanks around it are dropped. */
  text(field: string, value: string, longest = LONGEST_NAME): string {
    const trimmed = value.trim()
    if (trimmed === '') this.report('missing', field, value)
    if (trimmed.length > longest) this.report('too-long', field, trimmed, String(longest))
    return trimmed
  }

  /** What people know a record by; both must say something. */
  codeAndName(input: { readonly code: string; readonly name: string }): { code: string; name: string } {
    return { code: this.text('code', input.code, LONGEST_CODE), name: this.text('name', input.name) }
  }

  decimal(field: string, value: string, rule: AmountRule): Decimal {
    const typed = value.trim()
    const amount = typed.length > LONGEST_AMOUNT ? null : parseDecimal(typed)
    if (amount === null && typed.length > LONGEST_AMOUNT) this.report('too-large', field, value, '15')
    else if (amount === null) this.report('not-a-decimal', field, value)
    else if (scaleOf(amount) > rule.digits) this.report('too-many-digits', field, value, String(rule.digits))
    else if (digitsOf(amount, rule.isFactor ? scaleOf(amount) : rule.digits) > EXACT_DIGITS)
      this.report('too-large', field, value, String(EXACT_DIGITS))
    else if (rule.sign === 'above-zero' && !isPositive(amount)) this.report('not-above-zero', field, value)
    else if (rule.sign === 'not-negative' && compare(amount, ZERO) < 0) this.report('negative', field, value)
    return amount ?? ZERO
  }

  optionalDecimal(field: string, value: string | null, rule: AmountRule): Decimal | null {
    return value === null ? null : this.decimal(field, value, rule)
  }

  wholeNumber(field: string, value: number, least: number): number {
    if (!Number.isSafeInteger(value)) this.report('not-whole', field, String(value), String(least))
    else if (value < least) this.report('too-low', field, String(value), String(least))
    return value
  }

  result<Value>(value: Value): Parsed<Value> {
    return this.issues.length === 0 ? { ok: true, value } : { ok: false, issues: this.issues }
  }
}
