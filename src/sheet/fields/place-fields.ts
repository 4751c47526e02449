import 'server-only'

import {
  choiceField,
  codeField,
  type FieldRule,
  landsField,
  namesField,
  numberField,
  tagsField,
  textField,
} from './field-rule'
import { typedAmount } from '@/core/decimal/written-amount'
import { code, name, position, rounding } from './shared-fields'
import { assortmentField, gateField, regionDisplays } from './terms-fields'

const plainFee = textField(['fee', 'Fee, %', 'Added to every converted price.'])
const fee: FieldRule = {
  ...plainFee,
  read: (text) => ({ ok: true, value: { fee: typedAmount(text.replace(/\s*%$/, '')) || '0' } }),
}

export const CURRENCY_FIELDS: readonly FieldRule[] = [
  codeField(['code', 'Currency', 'ISO 4217, such as GBP.'], 'iso-currency', false),
  fee,
  rounding,
  numberField(['priceDigits', 'Decimal places', 'Up to 6.']),
  numberField(['ageLimit', 'Rates expire after (days)', 'Older ones are flagged; empty never.']),
]

export const REGION_FIELDS: readonly FieldRule[] = [
  name,
  code,
  landsField(['countries', 'Countries', 'By name, or with a state, such as US-CA.'], 'land'),
  codeField(['currency', 'Pays in', 'Empty is the store’s own.'], 'currency', true),
  rounding,
  ...regionDisplays,
  choiceField(
    ['isDefault', 'Default region'],
    [
      [true, 'yes, for places no region names'],
      [false, 'no'],
    ],
  ),
  position,
]

export const CHANNEL_FIELDS: readonly FieldRule[] = [
  name,
  code,
  gateField,
  assortmentField,
  tagsField(['groups', 'Groups', 'Such as Online; a rule can be for a group of channels.'], 'channel-group'),
  position,
]

export const TAX_CLASS_FIELDS: readonly FieldRule[] = [name, code, position]

export const TAX_FIELDS: readonly FieldRule[] = [
  name,
  code,
  namesField(
    ['upon', 'Calculated on top of', 'Other taxes it is calculated on, besides the price without tax.'],
    'tax',
  ),
  choiceField(
    ['onDelivery', 'Delivery'],
    [
      [true, 'is taxed too'],
      [false, 'is not taxed'],
    ],
  ),
  position,
]
