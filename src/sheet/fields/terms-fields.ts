import 'server-only'

import type { Assortment } from '@/core/access/assortment'
import { amountField, choiceField, type FieldRule, landsField, pairsField, ruleField } from './field-rule'
import { readAssortment, writeAssortment } from './assortment-text'
import { nameField, textField } from './field-rule'

/** What a channel sells or a contract covers. */
export const assortmentField: FieldRule = {
  ...ruleField<Assortment | null>(
    [
      'assortment',
      'Assortment',
      'nothing but Frames, Smokers, not SM-CL – or – everything but Honey, also HN-500; empty is everything.',
    ],
    writeAssortment,
    readAssortment,
    (assortment, store) => writeAssortment(store, assortment) || 'everything',
  ),
  control: 'assortment',
}

export const gateField = choiceField(
  ['gate', 'Gate'],
  [
    ['open', 'open to everyone'],
    ['sign-in', 'open to signed-in buyers only'],
    ['sign-in-prices', 'open, prices after signing in'],
    ['sign-in-buy', 'open, buying after signing in'],
    ['passcode', 'open with a passcode only'],
  ],
)

const DISPLAYS = [
  ['gross', 'with tax'],
  ['net', 'without tax'],
  ['both', 'with and without tax'],
] as const

export const regionDisplays: readonly FieldRule[] = [
  choiceField(['taxDisplay', 'Shop prices show'], DISPLAYS),
  choiceField(['cartTaxDisplay', 'Cart prices show'], DISPLAYS),
]

const groupDisplay = (field: string, name: string): FieldRule => ({
  ...choiceField([field, name], [['', 'as the region says'], ...DISPLAYS]),
  write: (record) => String(record[field] ?? ''),
  phrase: (record) => DISPLAYS.find(([value]) => value === record[field])?.[1] ?? 'as the region says',
  read: (text) => ({ ok: true, value: { [field]: text === '' ? null : text } }),
})

export const groupDisplays: readonly FieldRule[] = [
  groupDisplay('taxDisplay', 'Shop prices show'),
  groupDisplay('cartTaxDisplay', 'Cart prices show'),
]

export const taxClassField = nameField(
  ['taxClass', 'Tax class', 'Empty takes over what the level above says.'],
  'tax-class',
)

/** How the whole store computes tax and delivery. */
export const storeTaxFields: readonly FieldRule[] = [
  choiceField(
    ['taxPlace', 'Tax follows'],
    [
      ['delivery', 'where it is delivered'],
      ['billing', 'where the account has its seat'],
      ['store', 'where the store is'],
    ],
  ),
  choiceField(
    ['taxRounding', 'Tax is rounded'],
    [
      ['line', 'on each line'],
      ['document', 'once for each rate of an order'],
    ],
  ),
  choiceField(
    ['grossElsewhere', 'Prices with tax, elsewhere'],
    [
      ['keep-gross', 'keep what is paid'],
      ['keep-net', 'keep the price without tax'],
    ],
  ),
  choiceField(
    ['taxTotals', 'Totals show tax'],
    [
      ['by-name', 'each by its name'],
      ['one', 'as one sum'],
    ],
  ),
  nameField(['taxClass', 'Usual tax class', 'Of what names none.'], 'tax-class'),
  nameField(['deliveryTaxClass', 'Tax class of delivery', 'Empty follows the goods.'], 'tax-class'),
  landsField(
    [
      'unionCountries',
      'Reverse charge among',
      'Countries whose registered businesses account for the tax themselves.',
    ],
    'country',
  ),
  pairsField(['taxRegistrations', 'Registered as', 'One country a line: IE=IE1234567A']),
  amountField(['deliveryPrice', 'Delivery costs', 'Without tax; empty is free.']),
  amountField(['deliveryFreeFrom', 'Delivery is free from', 'A value of goods without tax; empty is never.']),
]

export const exemptionFields: readonly FieldRule[] = [
  textField(['exemption', 'Tax exemption', 'The number of the certificate; empty where there is none.']),
]
