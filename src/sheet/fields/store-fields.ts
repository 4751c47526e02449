import { colourName } from '@/ui/theme/shop-colours'
import 'server-only'

import {
  choiceField,
  codeField,
  countryField,
  type FieldRule,
  numberField,
  optionalField,
  textField,
} from './field-rule'
import { name } from './shared-fields'
import { storeTaxFields } from './terms-fields'

export const SETTINGS_FIELDS: readonly FieldRule[] = [
  name,
  codeField(['currency', 'Currency', 'Every amount that names no currency is in it.'], 'iso-currency', false),
  numberField(['priceDigits', 'Decimal places', 'Up to 6.']),
  codeField(['timeZone', 'Time zone', 'IANA name, such as Europe/Dublin.'], 'time-zone', false),
  countryField(['country', 'Sells from']),
  choiceField(
    ['taxBasis', 'Prices are entered'],
    [
      ['net', 'without tax'],
      ['gross', 'with tax'],
    ],
  ),
  choiceField(
    ['policy', 'When several lists apply'],
    [
      ['first', 'the first on the ladder'],
      ['lowest', 'the lowest of all lists that apply'],
    ],
  ),
  choiceField(
    ['neverAbovePublic', 'Above the public price'],
    [
      [false, 'may happen'],
      [true, 'never: nobody pays more than a guest'],
    ],
  ),
  choiceField(
    ['comparedWith', 'The shop strikes through'],
    [
      ['nothing', 'nothing: own price only'],
      ['public', 'what guests pay'],
      ['prior', 'the lowest price of the 30 days before a reduction'],
      ['base', 'the base price before adjustments'],
      ['recommended', 'the recommended price'],
    ],
  ),
  choiceField(
    ['publishing', 'Changes'],
    [
      ['as-you-go', 'count at once, unless a draft is looked through'],
      ['by-draft', 'go into a draft, and count when it is published'],
      ['by-two', 'go into a draft, and count when somebody else has published it'],
    ],
  ),
  ...storeTaxFields,
  optionalField(['quoteMargin', 'Offers below this margin need approval', 'Percent; empty is never.']),
  numberField(['quoteDays', 'An offer stands for', 'Days.']),
  textField([
    'shopHeadline',
    'Shop headline',
    'The first words of the shop’s front page. Empty for the name alone.',
  ]),
  {
    ...textField(['shopColour', 'Shop colour', 'Of its buttons and its name. Empty for the usual one.']),
    control: 'colour',
    phrase: (record) => colourName(String(record['shopColour'])),
  },
  textField(['shopEmail', 'E-mail address', 'Mails of the shop come from it, and answers go to it.']),
  textField(['shopContact', 'Contact', 'What buyers read under “Contact us”: address, telephone, hours.']),
  textField(['netWords', 'Words for prices without tax', 'Such as “excl. VAT”. Empty for “without tax”.']),
  textField(['grossWords', 'Words for prices with tax', 'Such as “incl. VAT”. Empty for “with tax”.']),
]
