import 'server-only'

import { writePriceRule } from '@/core/notation/price-rule-text'
import type { Breaks } from '@/core/price/lines/price-method'
import { readLineRule } from '../price-lines/read-line'
import { PURPOSES } from '@/core/price/lines/price-list'
import { DATE_HINT, dateField } from './date-fields'
import {
  amountField,
  choiceField,
  codeField,
  type FieldRule,
  nameField,
  numberField,
  textField,
} from './field-rule'
import { ruleLimits } from './limit-fields'
import { audience, code, name, onOff, place, rank, rounding, schedule, scope } from './shared-fields'
import { adjustmentMethod } from './written-fields'

export const LIMIT_FIELDS: readonly FieldRule[] = [
  name,
  code,
  onOff,
  choiceField(
    ['counting', 'Counts'],
    [
      ['each', 'each variant by itself'],
      ['product', 'all variants of a product'],
      ['together', 'everything it is for together'],
    ],
  ),
  scope,
  audience,
  ...ruleLimits,
  amountField(['minimumValue', 'Value at least', 'Without tax, of everything together.']),
  amountField(['maximumValue', 'Value at most']),
  amountField(['minimumWeight', 'Weight at least, kg']),
  amountField(['maximumWeight', 'Weight at most, kg']),
  numberField(['days', 'Within days', 'The most counts what was ordered in so many days too.']),
  textField([
    'message',
    'Buyers read',
    'Shown where the limit stands in their way. Empty for a sentence made of its figures.',
  ]),
  place,
  schedule,
  rank,
]

export const ACCESS_RULE_FIELDS: readonly FieldRule[] = [
  name,
  code,
  onOff,
  audience,
  scope,
  choiceField(
    ['effect', 'Effect'],
    [
      ['show', 'see and buy'],
      ['buy-or-quote', 'see and buy, or ask for a quote on'],
      ['no-buying', 'see but cannot buy'],
      ['no-price', 'see without its price'],
      ['quote', 'can only ask for a quote on'],
      ['hide', 'do not see'],
    ],
  ),
  choiceField(
    ['landing', 'A direct link'],
    [
      ['message', 'shows a message'],
      ['sign-in', 'asks them to sign in'],
      ['contact', 'leads to the contact page'],
    ],
  ),
  textField(['message', 'Which says', 'Empty for the shop’s own words.']),
  place,
  schedule,
  rank,
]

export const PASSCODE_FIELDS: readonly FieldRule[] = [
  name,
  code,
  textField(['word', 'Passcode', 'What is typed, in any case; four letters at least.']),
  nameField(['channel', 'Opens', 'A channel; empty is every one.'], 'channel'),
  dateField('from', 'From', `Empty is open. ${DATE_HINT}`),
  dateField('to', 'To', `The last day on which it holds. ${DATE_HINT}`),
  choiceField(
    ['isReview', 'Who has it'],
    [
      [false, 'buys like anybody else'],
      [true, 'sees everything and buys nothing'],
    ],
  ),
]

export const ADJUSTMENT_FIELDS: readonly FieldRule[] = [
  name,
  code,
  onOff,
  choiceField(
    ['target', 'Moves'],
    [
      ['base', 'the base price, and all that starts from it'],
      ['shown', 'the price shown, whatever it comes from'],
    ],
  ),
  adjustmentMethod,
  rounding,
  audience,
  scope,
  place,
  schedule,
  rank,
]

const otherwise: FieldRule = {
  field: 'defaultLine',
  name: 'All other items',
  hint: 'A rule for everything no line names; empty leaves it to the next list.',
  control: 'price-rule',
  write: (record, store) => {
    const rule = record['defaultLine'] as Breaks | null
    return rule ? writePriceRule(store, rule) : ''
  },
  phrase: (record, store) => {
    const rule = record['defaultLine'] as Breaks | null
    return rule ? writePriceRule(store, rule) : 'nothing'
  },
  read: (text, _record, store) => {
    if (text.trim() === '') return { ok: true, value: { defaultLine: null } }
    const read = readLineRule(store, text)
    return read.ok ? { ok: true, value: { defaultLine: read.value } } : read
  },
}

export const PRICE_LIST_FIELDS: readonly FieldRule[] = [
  name,
  code,
  choiceField(
    ['purpose', 'Purpose'],
    PURPOSES.map((purpose) => [purpose, purpose] as const),
  ),
  onOff,
  codeField(['currency', 'Currency', 'Of its fixed amounts.'], 'currency', false),
  choiceField(
    ['taxBasis', 'Amounts are'],
    [
      [null, 'as the store says'],
      ['net', 'without tax'],
      ['gross', 'with tax'],
    ],
  ),
  audience,
  { ...scope, hint: `The part of the catalogue it speaks of at all. ${scope.hint}` },
  place,
  schedule,
  rank,
  rounding,
  otherwise,
  choiceField(
    ['onlyListed', 'Its buyers are offered'],
    [
      [false, 'everything'],
      [true, 'of its part of the catalogue only what it lists'],
    ],
  ),
]
