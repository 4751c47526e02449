import type { PriceDigits } from '../catalogue/parse-catalogue'
import { compare, type Decimal, HUNDRED } from '../decimal/decimal'
import { InputReader } from '../issue/input-reader'
import type { Parsed } from '../issue/issue'
import { parseRounding, type RoundingInput } from '../issue/parse-rounding'
import type { What } from '../predicates/what'
import { parseSchedule, parseScope } from '../predicates/parse-predicates'
import type { Condition, Money, Promotion, PromotionValue, Saving, UseLimits } from './promotion'

/** A record as it is submitted: amounts are any texts yet. */
type AsSubmitted<Value> = Value extends Decimal
  ? string
  : Value extends What
    ? Value
    : Value extends readonly (infer Item)[]
      ? readonly AsSubmitted<Item>[]
      : Value extends object
        ? { readonly [Field in keyof Value]: AsSubmitted<Value[Field]> }
        : Value

export type PromotionInput = Omit<Promotion, 'value' | 'conditions' | 'rounding'> & {
  readonly value: AsSubmitted<PromotionValue>
  readonly conditions: readonly AsSubmitted<Condition>[]
  readonly rounding: RoundingInput | null
}

type ValueInput<Kind extends PromotionValue['kind']> = Extract<
  AsSubmitted<PromotionValue>,
  { readonly kind: Kind }
>

const PERCENT_DIGITS = 4
const QUANTITY = { digits: 3, sign: 'above-zero' } as const
const MOST_PARTS = 10
const LONGEST_WORD = 60

export function parsePromotion(input: PromotionInput, money: PriceDigits): Parsed<Promotion> {
  const reader = new InputReader('promotion', input.code)
  if (input.audience.include.length === 0) reader.report('empty-audience', 'audience', '')
  parseScope(reader, 'scope', input.scope)
  const values = new ValueReader(reader, money)
  return reader.result({
    ...input,
    ...reader.codeAndName(input),
    rank: reader.wholeNumber('rank', input.rank, 1),
    schedule: parseSchedule(reader, 'schedule', input.schedule),
    value: values.value(input.value),
    conditions: input.conditions.map((condition) => values.condition(condition)),
    combines: shortWord(reader, 'combines', input.combines),
    uses: parseUses(reader, input.uses),
    rounding: input.rounding && parseRounding(reader, input.rounding, money.digits),
  })
}

function shortWord(reader: InputReader, field: string, value: string): string {
  return value.trim() === '' ? '' : reader.text(field, value, LONGEST_WORD)
}

function parseUses(reader: InputReader, uses: UseLimits): UseLimits {
  for (const [limit, count] of Object.entries(uses) as [keyof UseLimits, number | null][])
    if (count !== null) reader.wholeNumber(`uses.${limit}`, count, 1)
  return uses
}

/** Reads what a promotion does and asks, and gathers what is wrong with it. */
class ValueReader {
  constructor(
    private readonly reader: InputReader,
    private readonly digits: PriceDigits,
  ) {}

  value(input: AsSubmitted<PromotionValue>): PromotionValue {
    switch (input.kind) {
      case 'item-price':
        return { ...input, saving: this.saving(input.saving) }
      case 'by-quantity':
        return {
          ...input,
          from: this.reader.decimal('value', input.from, QUANTITY),
          saving: this.saving(input.saving),
        }
      case 'set':
        return this.set(input)
      case 'free-goods':
        return this.freeGoods(input)
      case 'order':
        return this.order(input)
      case 'delivery':
        return { ...input, saving: input.saving.kind === 'free' ? input.saving : this.saving(input.saving) }
      case 'payment':
        return { ...input, saving: this.saving(input.saving) as never }
    }
  }

  private set(input: ValueInput<'set'>): PromotionValue {
    const { parts, saving } = input
    if (parts.length === 0) this.reader.report('empty-set', 'value', '')
    if (parts.length > MOST_PARTS)
      this.reader.report('too-high', 'value', String(parts.length), String(MOST_PARTS))
    for (const { count, scope } of parts) {
      this.reader.wholeNumber('value', count, 1)
      if (scope) parseScope(this.reader, 'value', scope)
    }
    const units = parts.reduce((sum, { count }) => sum + count, 0)
    if (parts.length > 0 && units < 2) this.reader.report('empty-set', 'value', String(units))
    if (saving.kind !== 'cheapest-free') return { kind: 'set', parts, saving: this.saving(saving) }
    this.reader.wholeNumber('value', saving.count, 1)
    if (saving.count >= units)
      this.reader.report('too-high', 'value', String(saving.count), String(units - 1))
    return { kind: 'set', parts, saving }
  }

  private freeGoods(input: ValueInput<'free-goods'>): PromotionValue {
    const { brackets, gift } = input
    if (brackets.length === 0) this.reader.report('no-breaks', 'value', '')
    brackets.forEach(({ from, free }, at) => {
      this.reader.wholeNumber('value', from, 1)
      this.reader.wholeNumber('value', free, 1)
      const before = brackets[at - 1]
      if (before && from <= before.from)
        this.reader.report('unsorted-breaks', 'value', String(from), String(before.from))
      if (gift === 'bought' && free >= from)
        this.reader.report('too-high', 'value', String(free), String(from - 1))
    })
    return input
  }

  private order({ brackets }: ValueInput<'order'>): PromotionValue {
    if (brackets.length === 0) this.reader.report('no-breaks', 'value', '')
    const read = brackets.map(({ from, saving }) => ({
      from: from && this.money(from, 'value'),
      saving: this.saving(saving) as Exclude<Saving, { kind: 'price' }>,
    }))
    read.forEach(({ from }, at) => {
      const before = read[at - 1]
      if (before && (from === null || (before.from && compare(from.amount, before.from.amount) <= 0)))
        this.reader.report('unsorted-breaks', 'value', from?.amount ?? '0', before.from?.amount ?? '0')
    })
    return { kind: 'order', brackets: read }
  }

  saving(input: AsSubmitted<Saving>): Saving {
    if (input.kind === 'amount') return { kind: 'amount', amount: this.money(input.amount, 'value') }
    if (input.kind === 'price') return { kind: 'price', price: this.money(input.price, 'value') }
    const percent = this.reader.decimal('value', input.percent, {
      digits: PERCENT_DIGITS,
      sign: 'above-zero',
      isFactor: true,
    })
    if (compare(percent, HUNDRED) > 0) this.reader.report('too-high', 'value', input.percent, '100')
    return { kind: 'percent', percent }
  }

  private money({ amount, own }: AsSubmitted<Money>, field: string): Money {
    const { currency, digits, digitsOf } = this.digits
    const read = (text: string, most: number) =>
      this.reader.decimal(field, text, { digits: most, sign: 'above-zero' })
    if (currency in own) this.reader.report('store-currency', field, currency)
    return {
      amount: read(amount, digits),
      own: Object.fromEntries(Object.entries(own).map(([code, text]) => [code, read(text, digitsOf(code))])),
    }
  }

  condition(input: AsSubmitted<Condition>): Condition {
    const { reader } = this
    switch (input.kind) {
      case 'value':
        return { ...input, from: this.money(input.from, 'conditions') }
      case 'quantity':
      case 'weight':
        return { ...input, from: reader.decimal('conditions', input.from, QUANTITY) }
      case 'orders':
        reader.wholeNumber('conditions', input.from, 1)
        return { ...input, days: this.days(input.days) }
      case 'spend':
        return { ...input, from: this.money(input.from, 'conditions'), days: this.days(input.days) }
      case 'code':
        return { ...input, code: reader.text('conditions', input.code, LONGEST_WORD) }
      case 'first-order':
      case 'payment':
        return input
    }
  }

  private days(days: number | null): number | null {
    return days === null ? null : this.reader.wholeNumber('conditions', days, 1)
  }
}
