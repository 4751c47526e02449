import 'server-only'

import type { Assortment } from '@/core/access/assortment'
import { choiceField, type FieldRule, optionalField, pairsField, ruleField, wordsField } from './field-rule'
import { readAssortment, writeAssortment } from './assortment-text'
import { nameField, textField } from './field-rule'

/** What a channel sells or a contract covers. */
export const assortmentField: FieldRule = ruleField<Assortment | null>(
  [
    'assortment',
    'Assortment',
    'nothing but Frames, Smokers, not SM-CL – or – everything but Honey, also HN-500; empty is everything.',
  ],
  writeAssortment,
  readAssortment,
  (assortment) => (assortment ? '' : 'everything'),
)

export const gateField = choiceField(
  ['gate', 'Gate'],
  [
    ['open', 'open to everyone'],
    ['sign-in', 'sign in to see anything'],
    ['sign-in-prices', 'sign in to see prices'],
    ['sign-in-buy', 'sign in to buy'],
    ['passcode', 'a passcode opens it'],
  ],
)

const DISPLAYS = [
  ['gross', 'with tax'],
  ['net', 'without tax'],
  ['both', 'both'],
] as const

export const regionDisplays: readonly FieldRule[] = [
  choiceField(['taxDisplay', 'Shop prices show'], DISPLAYS),
  choiceField(['cartTaxDisplay', 'Cart prices show'], DISPLAYS),
]

const groupDisplay = (field: string, name: string): FieldRule => ({
  ...choiceField([field, name], [['', 'as the region says'], ...DISPLAYS]),
  write: (record) => String(record[field] ?? ''),
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
  wordsField(
    [
      'unionCountries',
      'Reverse charge among',
      'Countries whose registered businesses account for the tax themselves: IE, DE, AT.',
    ],
    (word) => word.toUpperCase(),
  ),
  pairsField(['taxRegistrations', 'Registered as', 'One country a line: IE=IE1234567A']),
  optionalField(['deliveryPrice', 'Delivery costs', 'Without tax; empty is free.']),
  optionalField([
    'deliveryFreeFrom',
    'Delivery is free from',
    'A value of goods without tax; empty is never.',
  ]),
]

export const exemptionFields: readonly FieldRule[] = [
  textField(['exemption', 'Tax exemption', 'The number of the certificate; empty where there is none.']),
]
