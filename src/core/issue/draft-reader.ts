import { compare, type Decimal, isPositive, parseDecimal, scaleOf, ZERO } from '../decimal/decimal'
import type { Issue, IssueCode, Parsed, RecordKind } from './issue'

interface AmountRule {
  /** How many digits may stand after the point. */
  readonly digits: number
  readonly sign: 'above-zero' | 'not-negative' | 'any'
}

/**
 * Reads the fields of one submitted record and gathers everything that is wrong with it, so that a
 * person hears of all slips at once.
 */
export class DraftReader {
  private readonly issues: Issue[] = []

  constructor(
    private readonly kind: RecordKind,
    private readonly label: string,
  ) {}

  report(code: IssueCode, field: string, value: string, expected: string | null = null): void {
    this.issues.push({ code, kind: this.kind, label: this.label, field, value, expected })
  }

  /** A text that must say something; blanks around it are dropped. */
  text(field: string, value: string): string {
    const trimmed = value.trim()
    if (trimmed === '') this.report('missing', field, value)
    return trimmed
  }

  /** What people know a record by; both must say something. */
  codeAndName(draft: { readonly code: string; readonly name: string }): { code: string; name: string } {
    return { code: this.text('code', draft.code), name: this.text('name', draft.name) }
  }

  decimal(field: string, value: string, rule: AmountRule): Decimal {
    const amount = parseDecimal(value.trim())
    if (amount === null) this.report('not-a-decimal', field, value)
    else if (scaleOf(amount) > rule.digits) this.report('too-many-digits', field, value, String(rule.digits))
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
