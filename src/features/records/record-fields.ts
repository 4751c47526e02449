import 'server-only'

import type { RoundingRule } from '@/core/decimal/rounding'
import type { What } from '@/core/predicates/what'
import type { Where } from '@/core/predicates/where'
import type { Who } from '@/core/predicates/who'
import { PURPOSES } from '@/core/price/price-list'
import { roundingPhrase, whatSentence, whereSentence, whoSentence } from '@/ui/format/rule-phrases'
import {
  choiceField,
  type FieldRule,
  nameField,
  namesField,
  numberField,
  optionalField,
  pairsField,
  ruleField,
  textField,
  wordsField,
} from './field-rule'
import { readRounding, writeRounding } from '@/core/notation/rounding-text'
import { readWhat, writeWhat } from '@/core/notation/what-text'
import { readWhere, writeWhere } from '@/core/notation/where-text'
import { readWho, writeWho } from '@/core/notation/who-text'
import { DATE_HINT, dateField, scheduleFields } from './schedule-fields'
import { ownLimits, ruleLimits } from './limit-fields'
import type { EditableKind } from './sections'
import {
  assortmentField,
  exemptionFields,
  gateField,
  groupDisplays,
  regionDisplays,
  storeTaxFields,
  taxClassField,
} from './terms-fields'
import { addresses, adjustmentMethod, ownAmounts } from './written-fields'

const code = textField(['code', 'Code', 'Used in addresses and files. Empty makes one from the name.'])
const name = textField(['name', 'Name'])
const position = numberField(['position', 'Position', 'Its place among its neighbours; 0 is the first.'])
const currency = (hint: string) => optionalField(['currency', 'Currency', hint])
const onOff = choiceField(
  ['state', 'State'],
  [
    ['on', 'on'],
    ['off', 'off'],
  ],
)
const rank = numberField(['rank', 'Rank', '1 is asked first.'])

const audience: FieldRule = {
  ...ruleField<Who>(
    [
      'audience',
      'Who',
      'everyone, guests, signed in, trade, a group, an account, #tag, an e-mail address; not … leaves out.',
    ],
    writeWho,
    readWho,
    whoSentence,
  ),
  control: 'who',
}
const scope: FieldRule = {
  ...ruleField<What>(
    [
      'scope',
      'What',
      'everything, a category, family, product code, SKU, extra, Fabric=mesh, in stock, only a category without its branches, base 5–20; not … leaves out.',
    ],
    writeWhat,
    readWhat,
    whatSentence,
  ),
  control: 'what',
}
const place = ruleField<Where>(
  ['place', 'Where', 'Channels, their groups and regions; empty is everywhere.'],
  writeWhere,
  readWhere,
  whereSentence,
)
const rounding = ruleField<RoundingRule | null>(
  ['rounding', 'Rounding', '0.05, 0.05 up, ends .95, ends 4.90 9.90 in 10; empty for the smallest unit.'],
  (_store, rule) => writeRounding(rule),
  (_store, text) => readRounding(text),
  (rule) => (rule ? roundingPhrase(rule) : 'to the smallest unit'),
)

const upper = (word: string) => word.toUpperCase()
const lower = (word: string) => word.toLowerCase()

const amountsOf: readonly FieldRule[] = [
  optionalField(['basePrice', 'Base price', 'The price with no agreement.']),
  optionalField(['cost', 'Cost']),
  optionalField(['recommendedPrice', 'Recommended price']),
  optionalField(['floor', 'Floor', 'Never sold below.']),
  ownAmounts,
  optionalField(['weight', 'Weight, kg']),
  optionalField([
    'content',
    'Content',
    'What one holds, for its price per unit: 0.454 kg, 12 × 340 g, 2.5 l, 50 m.',
  ]),
  nameField(['family', 'Price family', 'Priced together with others of the family.'], 'price-family'),
  taxClassField,
  ...ownLimits,
]

/** The fields of each kind, in the order of its sheet. */
export const RECORD_FIELDS: Readonly<Record<EditableKind, readonly FieldRule[]>> = {
  settings: [
    name,
    textField(['currency', 'Currency', 'ISO 4217. Every amount that names no currency is in it.']),
    numberField(['priceDigits', 'Decimal places', 'Up to 6.']),
    textField(['timeZone', 'Time zone', 'IANA name, such as Europe/Dublin.']),
    textField(['country', 'Sells from', 'Two letters, such as IE.']),
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
        ['base', 'the base price before adjustments'],
        ['recommended', 'the recommended price'],
      ],
    ),
    ...storeTaxFields,
    textField([
      'shopHeadline',
      'Shop headline',
      'The first words of the shop’s front page. Empty for the name alone.',
    ]),
    textField(['shopContact', 'Contact', 'What buyers read under “Contact us”: address, telephone, hours.']),
    textField(['netWords', 'Words for prices without tax', 'Such as “excl. VAT”. Empty for “without tax”.']),
    textField(['grossWords', 'Words for prices with tax', 'Such as “incl. VAT”. Empty for “with tax”.']),
  ],
  group: [
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
  ],
  account: [
    name,
    code,
    namesField(['groups', 'Groups', 'Names between commas.'], 'group'),
    wordsField(['tags', 'Tags', 'Words between commas; a rule can be for a tag.']),
    wordsField(['emails', 'Signs in as', 'E-mail addresses between commas.'], lower),
    textField(['country', 'Country', 'Two letters, such as IE.']),
    textField(['city', 'City']),
    textField(['state', 'State', 'Where taxes need it, such as CA.']),
    textField(['postcode', 'Postcode']),
    addresses,
    currency('What they pay in, such as GBP; empty leaves it to the place.'),
    textField(['taxNumber', 'Tax number']),
    ...exemptionFields,
    dateField(
      'exemptUntil',
      'Exempt until',
      `The last day on which it holds; empty is for good. ${DATE_HINT}`,
    ),
    textField(['paymentTerms', 'Payment terms']),
  ],
  contract: [
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
    numberField(['rank', 'Rank', 'Among several contracts of a buyer, 1 comes first.']),
    currency('What they pay in under it; empty leaves it to the account.'),
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
      read: (text) => ({ ok: true, value: { policy: text === '' ? null : text } }),
    },
    optionalField(['minimumOrder', 'Minimum order']),
    assortmentField,
    textField(['paymentTerms', 'Payment terms']),
    choiceField(
      ['isProtected', 'Protected'],
      [
        [true, 'yes, adjustments leave its prices alone'],
        [false, 'no'],
      ],
    ),
  ],
  currency: [
    textField(['code', 'Currency', 'ISO 4217, such as GBP.']),
    textField(['fee', 'Fee, %', 'Added to every converted price.']),
    rounding,
    numberField(['priceDigits', 'Decimal places', 'Up to 6.']),
    numberField(['ageLimit', 'Rates expire after (days)', 'Older ones are flagged; empty never.']),
  ],
  region: [
    name,
    code,
    wordsField(['countries', 'Countries', 'IE, FR, or with a state US-CA.'], upper),
    currency('What is paid there; empty is the store’s own.'),
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
  ],
  channel: [
    name,
    code,
    gateField,
    assortmentField,
    wordsField(['groups', 'Groups', 'Words between commas, such as Online.']),
    position,
  ],
  'tax-class': [name, code, position],
  tax: [
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
  ],
  limit: [
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
    optionalField(['minimumValue', 'Value at least', 'Without tax, of everything together.']),
    optionalField(['maximumValue', 'Value at most']),
    optionalField(['minimumWeight', 'Weight at least, kg']),
    optionalField(['maximumWeight', 'Weight at most, kg']),
    numberField(['days', 'Within days', 'The most counts what was ordered in so many days too.']),
    textField([
      'message',
      'Buyers read',
      'Shown where the limit stands in their way. Empty for a sentence made of its figures.',
    ]),
    place,
    ...scheduleFields,
    rank,
  ],
  'access-rule': [
    name,
    code,
    onOff,
    audience,
    scope,
    choiceField(
      ['effect', 'Effect'],
      [
        ['hide', 'do not see it'],
        ['no-price', 'see it without its price'],
        ['quote', 'can only ask for a quote'],
        ['no-buying', 'see it and its price, and cannot buy it'],
        ['show', 'see and buy it'],
      ],
    ),
    choiceField(
      ['landing', 'A direct link leads'],
      [
        ['message', 'to a message'],
        ['sign-in', 'to signing in'],
        ['contact', 'to the contact page'],
      ],
    ),
    textField(['message', 'Which says', 'Empty for the shop’s own words.']),
    place,
    ...scheduleFields,
    rank,
  ],
  passcode: [
    name,
    code,
    textField(['word', 'Passcode', 'What is typed, in any case; four letters at least.']),
    nameField(['channel', 'Opens', 'A channel; empty is every one.'], 'channel'),
    dateField('from', 'From', `Empty is open. ${DATE_HINT}`),
    dateField('to', 'To', `The last day on which it holds. ${DATE_HINT}`),
    choiceField(
      ['isReview', 'Who has it'],
      [
        [false, 'comes in as any buyer'],
        [true, 'sees everything and buys nothing'],
      ],
    ),
  ],
  adjustment: [
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
    ...scheduleFields,
    rank,
  ],
  category: [name, code, nameField(['parent', 'Parent category', 'Empty is the top.'], 'category'), position],
  'price-family': [name, code],
  extra: [
    name,
    code,
    { ...scope, name: 'Goes with' },
    optionalField(['basePrice', 'Base price', 'For each piece of what it is added to.']),
    optionalField(['cost', 'Cost']),
    { ...pairsField(['ownPrices', 'Own prices', 'One currency a line: GBP=5.75']) },
    position,
  ],
  product: [
    name,
    code,
    textField(['description', 'Description']),
    textField(['unit', 'Unit', 'What one of it is: each, case, pair.']),
    namesField(
      ['categories', 'Categories', 'Names between commas; its page is filed under the first.'],
      'category',
    ),
    pairsField(['attributes', 'Attributes', 'One a line: Fabric=mesh']),
    wordsField(['axes', 'Options', 'What its variants differ in, such as Timber, Pack.']),
    textField(['picture', 'Picture', 'File name of a drawing in public/pictures.']),
    ...amountsOf,
  ],
  variant: [
    textField(['sku', 'SKU']),
    { ...nameField(['product', 'Product'], 'product') },
    pairsField(['options', 'Options', 'One a line: Timber=Pine']),
    optionalField(['stock', 'Stock', 'Empty where nobody counts.']),
    ...amountsOf,
    position,
  ],
  'price-list': [
    name,
    code,
    choiceField(
      ['purpose', 'Purpose'],
      PURPOSES.map((purpose) => [purpose, purpose] as const),
    ),
    onOff,
    textField(['currency', 'Currency', 'Of its fixed amounts, such as EUR.']),
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
    ...scheduleFields,
    rank,
    rounding,
    choiceField(
      ['onlyListed', 'Its buyers are offered'],
      [
        [false, 'everything'],
        [true, 'of its part of the catalogue only what it lists'],
      ],
    ),
  ],
}
