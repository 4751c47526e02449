import 'server-only'

import type { Address } from '@/core/buyers/buyer'
import type { OwnAmounts } from '@/core/catalogue/product'
import type { RoundingRule } from '@/core/decimal/rounding'
import type { What } from '@/core/predicates/what'
import { ALWAYS, type DailyWindow, type Schedule } from '@/core/predicates/when'
import type { Where } from '@/core/predicates/where'
import type { Who } from '@/core/predicates/who'
import type { AdjustmentMethod } from '@/core/price/adjustment'
import { PURPOSES } from '@/core/price/price-list'
import {
  roundingPhrase,
  whatSentence,
  whenSentence,
  whereSentence,
  whoSentence,
} from '@/ui/format/rule-phrases'
import {
  choiceField,
  type FieldRule,
  type Fields,
  nameField,
  namesField,
  numberField,
  optionalField,
  pairsField,
  ruleField,
  textField,
  wordsField,
} from './field-rule'
import {
  readRounding,
  readWhat,
  readWhere,
  readWho,
  writeRounding,
  writeWhat,
  writeWhere,
  writeWho,
} from './rule-text'
import type { EditableKind } from './sections'

const code = textField(['code', 'Code', 'Short and unique; addresses and files use it.'])
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

const audience = ruleField<Who>(
  [
    'audience',
    'Who',
    'everyone, guests, signed in, trade, a group, an account, #tag, an e-mail address; not … leaves out.',
  ],
  writeWho,
  readWho,
  whoSentence,
)
const scope = ruleField<What>(
  [
    'scope',
    'What',
    'everything, a category, family, product code, SKU, extra, Fabric=mesh, in stock, base 5–20; not … leaves out.',
  ],
  writeWhat,
  readWhat,
  whatSentence,
)
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

const DAYS = ['Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat', 'Sun']
const MONTHS = ['Jan', 'Feb', 'Mar', 'Apr', 'May', 'Jun', 'Jul', 'Aug', 'Sep', 'Oct', 'Nov', 'Dec']

/** One part of a schedule, edited by itself. */
function scheduleField(
  part: string,
  label: string,
  hint: string,
  write: (schedule: Schedule) => string,
  read: (text: string) => Partial<Schedule> | null,
): FieldRule {
  return {
    field: `schedule.${part}`,
    name: label,
    hint,
    control: 'line',
    write: (record) => write(record['schedule'] as Schedule),
    ...(part === 'from' && { phrase: (record: Fields) => whenSentence(record['schedule'] as Schedule) }),
    read: (text, record) => {
      const found = read(text.trim())
      if (!found) return { ok: false, problem: `“${text.trim()}” cannot be read. ${hint}` }
      return { ok: true, value: { schedule: { ...(record['schedule'] as Schedule), ...found } } }
    },
  }
}

/** Names out of a few, between blanks or commas, by their first three letters. */
function readNames(text: string, names: readonly string[]): readonly number[] | null {
  const words = text.split(/[\s,]+/).filter(Boolean)
  const numbers = words.map(
    (word) => names.findIndex((each) => word.toLowerCase().startsWith(each.toLowerCase())) + 1,
  )
  return numbers.includes(0) ? null : [...new Set(numbers)].sort((left, right) => left - right)
}

/** `2027-03-01` or `2027-03-01 09:30`, in the store's time zone. */
function readLocal(text: string): string | null | undefined {
  if (text === '') return null
  const match = /^(\d{4}-\d{2}-\d{2})(?:[T ](\d{2}:\d{2}))?$/.exec(text)
  return match ? `${match[1]}T${match[2] ?? '00:00'}` : undefined
}

function writeLocal(local: string | null): string {
  return local === null ? '' : local.replace('T00:00', '').replace('T', ' ')
}

const DATE_HINT = '2027-03-01 or 2027-03-01 09:30, in the store’s time zone.'

const schedule: readonly FieldRule[] = [
  scheduleField(
    'from',
    'From',
    DATE_HINT,
    ({ from }) => writeLocal(from),
    (text) => {
      const from = readLocal(text)
      return from === undefined ? null : { from }
    },
  ),
  scheduleField(
    'to',
    'To',
    `The end itself is outside. ${DATE_HINT}`,
    ({ to }) => writeLocal(to),
    (text) => {
      const to = readLocal(text)
      return to === undefined ? null : { to }
    },
  ),
  scheduleField(
    'weekdays',
    'Weekdays',
    'Mon Tue Fri; empty is any.',
    ({ weekdays }) => weekdays.map((day) => DAYS[day - 1]).join(' '),
    (text) => {
      const weekdays = readNames(text, DAYS)
      return weekdays && { weekdays }
    },
  ),
  scheduleField(
    'months',
    'Months',
    'Mar Apr; empty is any.',
    ({ months }) => months.map((month) => MONTHS[month - 1]).join(' '),
    (text) => {
      const months = readNames(text, MONTHS)
      return months && { months }
    },
  ),
  scheduleField(
    'hours',
    'Hours',
    '17:00-19:00; may run past midnight; empty is all day.',
    ({ hours }) => (hours ? `${hours.from}-${hours.to}` : ''),
    (text) => {
      if (text === '') return { hours: null }
      const match = /^(\d{2}:\d{2})\s*[-–]\s*(\d{2}:\d{2})$/.exec(text)
      return match ? { hours: { from: match[1], to: match[2] } as DailyWindow } : null
    },
  ),
]

function periodPhrase(record: Fields): string {
  const { from, to } = record as { from: string | null; to: string | null }
  return whenSentence({ ...ALWAYS, from, to })
}

/** A contract's period: two dates of its own. */
function dateField(field: 'from' | 'to', label: string, hint: string): FieldRule {
  return {
    ...optionalField([field, label, hint]),
    write: (record) => writeLocal(record[field] as string | null),
    ...(field === 'from' && { phrase: periodPhrase }),
    read: (text) => {
      const local = readLocal(text.trim())
      return local === undefined
        ? { ok: false, problem: `“${text.trim()}” is no date. ${DATE_HINT}` }
        : { ok: true, value: { [field]: local } }
    },
  }
}

const AMOUNT_WORDS = { base: 'basePrice', cost: 'cost', rrp: 'recommendedPrice', floor: 'floor' } as const

/** Amounts set in other currencies: a line each, `GBP base=21.90 cost=11.20`. */
const ownAmounts: FieldRule = {
  field: 'ownAmounts',
  name: 'Own amounts',
  hint: 'One currency a line: GBP base=21.90 cost=11.20 rrp=24.90 floor=15',
  control: 'lines',
  write: (record) =>
    Object.entries(record['ownAmounts'] as OwnAmounts)
      .map(([code, amounts]) =>
        [
          code,
          ...Object.entries(AMOUNT_WORDS).flatMap(([word, field]) =>
            amounts[field] === null ? [] : [`${word}=${amounts[field]}`],
          ),
        ].join(' '),
      )
      .join('\n'),
  read: (text) => {
    const found: Record<string, Record<string, string | null>> = {}
    for (const line of text
      .split('\n')
      .map((each) => each.trim())
      .filter(Boolean)) {
      const [currencyCode = '', ...parts] = line.split(/\s+/)
      const amounts: Record<string, string | null> = {
        basePrice: null,
        cost: null,
        recommendedPrice: null,
        floor: null,
      }
      for (const part of parts) {
        const [word = '', amount = ''] = part.split('=')
        const field = AMOUNT_WORDS[word as keyof typeof AMOUNT_WORDS]
        if (!field)
          return { ok: false, problem: `“${part}” is no amount. Write base=21.90, cost=, rrp= or floor=.` }
        amounts[field] = amount
      }
      found[currencyCode.toUpperCase()] = amounts
    }
    return { ok: true, value: { ownAmounts: found } }
  },
}

/** Places an account has things brought to, one a line. */
const addresses: FieldRule = {
  field: 'addresses',
  name: 'Addresses',
  hint: 'One a line: label | street | postcode | city | state | country',
  control: 'lines',
  write: (record) =>
    (record['addresses'] as readonly Address[])
      .map(({ label, street, postcode, city, state, country }) =>
        [label, street, postcode, city, state, country].join(' | '),
      )
      .join('\n'),
  read: (text) => ({
    ok: true,
    value: {
      addresses: text
        .split('\n')
        .filter((line) => line.trim() !== '')
        .map((line) => {
          const [label = '', street = '', postcode = '', city = '', state = '', country = ''] = line
            .split('|')
            .map((part) => part.trim())
          return { label, street, postcode, city, state, country: country.toUpperCase() }
        }),
    },
  }),
}

const adjustmentMethod: FieldRule = {
  field: 'method',
  name: 'Moves prices by',
  hint: '-10% or +4%, or an amount in the store’s currency such as -2 or +0.50.',
  control: 'line',
  write: (record) => {
    const method = record['method'] as AdjustmentMethod
    const value = method.kind === 'percent' ? method.percent : method.amount
    return `${value.startsWith('-') ? '' : '+'}${value}${method.kind === 'percent' ? '%' : ''}`
  },
  read: (text) => {
    const match = /^([+-]?)(\d*\.?\d+)(%)?$/.exec(text.replace(/\s+/g, '').replace('−', '-'))
    if (!match) return { ok: false, problem: `“${text}” moves nothing. Type -10%, +4%, -2 or +0.50.` }
    const value = `${match[1] === '-' ? '-' : ''}${match[2]}`
    return {
      ok: true,
      value: {
        method: match[3] ? { kind: 'percent', percent: value } : { kind: 'amount', amount: value },
      },
    }
  },
}

const upper = (word: string) => word.toUpperCase()
const lower = (word: string) => word.toLowerCase()

const amountsOf: readonly FieldRule[] = [
  optionalField(['basePrice', 'Base price', 'The price with no agreement.']),
  optionalField(['cost', 'Cost']),
  optionalField(['recommendedPrice', 'Recommended price']),
  optionalField(['floor', 'Floor', 'Never sold below.']),
  ownAmounts,
  optionalField(['weight', 'Weight, kg']),
  nameField(['family', 'Price family', 'Priced together with others of the family.'], 'price-family'),
]

/** The fields of each kind, in the order of its sheet. */
export const RECORD_FIELDS: Readonly<Record<EditableKind, readonly FieldRule[]>> = {
  settings: [
    name,
    textField(['currency', 'Currency', 'ISO 4217. Every amount that names no currency is in it.']),
    numberField(['priceDigits', 'Digits of a price', 'Behind the point; up to 6.']),
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
      ['policy', 'Which price counts'],
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
    addresses,
    currency('What they pay in, such as GBP; empty leaves it to the place.'),
    textField(['taxNumber', 'Tax number']),
    textField(['paymentTerms', 'Payment terms']),
  ],
  contract: [
    name,
    code,
    namesField(['accounts', 'Accounts', 'Who it binds; names between commas.'], 'account'),
    namesField(['groups', 'Groups', 'Whose members it binds.'], 'group'),
    dateField('from', 'From', `Empty is open. ${DATE_HINT}`),
    dateField('to', 'To', `The end itself is outside. ${DATE_HINT}`),
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
        ['policy', 'Which price counts'],
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
    numberField(['priceDigits', 'Digits of a price', 'Behind the point; up to 6.']),
    numberField(['ageLimit', 'Rates are good for, days', 'Older ones are flagged; empty never.']),
  ],
  region: [
    name,
    code,
    wordsField(['countries', 'Countries', 'IE, FR, or with a state US-CA.'], upper),
    currency('What is paid there; empty is the store’s own.'),
    rounding,
    choiceField(
      ['taxDisplay', 'Prices show'],
      [
        ['gross', 'with tax'],
        ['net', 'without tax'],
      ],
    ),
    choiceField(
      ['isDefault', 'Stands for the rest'],
      [
        [true, 'yes, for places no region names'],
        [false, 'no'],
      ],
    ),
    position,
  ],
  channel: [name, code, wordsField(['groups', 'Groups', 'Words between commas, such as Online.']), position],
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
    ...schedule,
    rank,
  ],
  category: [
    name,
    code,
    nameField(['parent', 'Below', 'The branch it hangs on; empty is the top.'], 'category'),
    position,
  ],
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
        ['net', 'without tax'],
        ['gross', 'with tax'],
      ],
    ),
    audience,
    { ...scope, hint: `The part of the catalogue it speaks of at all. ${scope.hint}` },
    place,
    ...schedule,
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
