import 'server-only'

import { DATE_HINT, dateField } from './date-fields'
import {
  amountField,
  choiceField,
  codeField,
  countryField,
  type FieldRule,
  namesField,
  numberField,
  tagsField,
  textField,
  wordsField,
} from './field-rule'
import { code, name, position } from './shared-fields'
import { assortmentField, exemptionFields, groupDisplays } from './terms-fields'
import { addresses, people } from './written-fields'

const lower = (word: string) => word.toLowerCase()

export const GROUP_FIELDS: readonly FieldRule[] = [
  name,
  code,
  choiceField(
    ['trade', 'Kind'],
    [
      [true, 'trade'],
      [false, 'consumer'],
    ],
  ),
  ...groupDisplays,
  position,
]

export const ACCOUNT_FIELDS: readonly FieldRule[] = [
  name,
  code,
  namesField(['groups', 'Groups', 'Names between commas.'], 'group'),
  tagsField(['tags', 'Tags', 'Words of your own; a rule can be for a tag.'], 'tag'),
  wordsField(['emails', 'Signs in as', 'E-mail addresses between commas.'], lower),
  people,
  countryField(['country', 'Country']),
  textField(['city', 'City']),
  textField(['state', 'State', 'Where taxes need it, such as CA.']),
  textField(['postcode', 'Postcode']),
  addresses,
  codeField(['currency', 'Pays in', 'Empty leaves it to the place.'], 'currency', true),
  textField(['taxNumber', 'Tax number']),
  ...exemptionFields,
  dateField('exemptUntil', 'Exempt until', `The last day on which it holds; empty is for good. ${DATE_HINT}`),
  textField(['paymentTerms', 'Payment terms']),
]

export const CONTRACT_FIELDS: readonly FieldRule[] = [
  name,
  code,
  namesField(['accounts', 'Accounts', 'Who it binds; names between commas.'], 'account'),
  namesField(['groups', 'Groups', 'Whose members it binds.'], 'group'),
  dateField('from', 'From', `Empty is open. ${DATE_HINT}`),
  dateField('to', 'To', `The last day on which it holds. ${DATE_HINT}`),
  choiceField(
    ['state', 'State'],
    [
      ['draft', 'draft'],
      ['active', 'active'],
      ['suspended', 'suspended'],
      ['ended', 'ended'],
    ],
  ),
  namesField(['lists', 'Price lists', 'The first is asked first.'], 'price-list'),
  numberField(['rank', 'Priority', 'Among several contracts of a buyer, 1 comes first.']),
  codeField(['currency', 'Pays in', 'Empty leaves it to the account.'], 'currency', true),
  {
    ...choiceField(
      ['policy', 'When several lists apply'],
      [
        ['', 'as the store says'],
        ['first', 'the first on the ladder'],
        ['lowest', 'the lowest of all that apply'],
      ],
    ),
    write: (record) => String(record['policy'] ?? ''),
    phrase: (record) =>
      ({ first: 'the first on the ladder', lowest: 'the lowest of all that apply' })[
        String(record['policy'])
      ] ?? 'as the store says',
    read: (text) => ({ ok: true, value: { policy: text === '' ? null : text } }),
  },
  amountField(['minimumOrder', 'Minimum order', 'Without tax.']),
  assortmentField,
  textField(['paymentTerms', 'Payment terms']),
  choiceField(
    ['isProtected', 'Adjustments'],
    [
      [true, 'leave its prices alone'],
      [false, 'move its prices too'],
    ],
  ),
]
