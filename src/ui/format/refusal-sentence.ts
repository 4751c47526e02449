import type { Issue, IssueCode } from '@/core/issue/issue'
import type { PriceExpressionError } from '@/core/price/price-expression'
import type { Refusal } from '@/core/store/refusal'

/** What can be typed into a price. */
export const ALLOWED_PRICES = 'Type 19.90, +5%, −5%, +2, −2, x1.2, or m35 for a 35 % margin.'

/** Says what is wrong, and what would be right. */
export function refusalSentence(refusal: Refusal): string {
  switch (refusal.code) {
    case 'expression':
      return expressionSentence(refusal.error, refusal.typed, refusal.digits)
    case 'changed-meanwhile':
      return `Somebody changed this meanwhile: you saw ${refusal.seen ?? 'no price'}, it is now ${refusal.current ?? 'no price'}. Reload to see the new figures; nothing was overwritten.`
    case 'stale':
      return `${[`${refusal.label} was changed meanwhile.`, ...refusal.fields.map(differenceWords)].join(' ')} Nothing was overwritten: reload to see it as it is now.`
    case 'invalid':
      return refusal.issues.map(issueSentence).join(' ')
    case 'unknown':
      return `There is no ${refusal.what} “${refusal.value}”.${refusal.nearest ? ` Did you mean ${refusal.nearest}?` : ''}`
    case 'back-already':
      return `Nothing to undo: ${refusal.label} is already as it was before this change.`
    case 'nothing-to-change':
      return 'That is what it says already.'
    case 'no-such-draft':
      return `There is no open draft “${refusal.draft}” any more, so nothing was saved. It may have been published or discarded: look at live prices, or choose another draft above.`
    case 'out-of-reach':
      return refusal.why === 'costs'
        ? `${refusal.label}: your role does not let you see costs, so you cannot set them, nor start from them. Nothing was saved.`
        : `${refusal.label}: this reaches further than the part of the catalogue you work with. Nothing was saved.`
    case 'drafts-only':
      return 'This store is changed by drafts: choose one, or start one, at “live prices” in the sentence on top, and change it there. Nothing was saved, and what you typed is still here.'
    case 'disk-full':
      return 'The disk is nearly full, so nothing was saved. Free at least 64 MB, then save again. Reading goes on meanwhile.'
    case 'unreadable':
      return `With this change the store could not be read any more (${refusal.why}), so nothing was saved.`
    case 'made-after-list':
      return refusal.why === 'converted'
        ? `This price is converted from ${refusal.list}. Change it in that list, in its own currency.`
        : `An adjustment or guard moves this price after ${refusal.list}. Change the list or the adjustment itself.`
    case 'one-of-many':
      return `${refusal.label}: ${refusalSentence(refusal.because)} None of them was changed.`
    case 'past':
      return 'You are looking at the past, which cannot be changed. Go back to today to edit.'
  }
}

function differenceWords({
  field,
  current,
  submitted,
}: Extract<Refusal, { code: 'stale' }>['fields'][number]): string {
  const name = FIELDS[field] ?? field
  return current === null || submitted === null
    ? `${name} has changed.`
    : `${name}: “${current}” now, “${submitted}” yours.`
}

function expressionSentence(error: PriceExpressionError, typed: string, digits: number): string {
  const quoted = `“${typed.trim()}”`
  switch (error) {
    case 'not-understood':
      return `${quoted} is not a price. ${ALLOWED_PRICES}`
    case 'comma':
      return `${quoted} has a comma. Write ${typed.trim().replace(',', '.')} with a point.`
    case 'too-many-digits':
      return `${quoted} has more digits than a price may have: ${digits} after the point.`
    case 'not-positive':
      return `${quoted} does not come to a price above zero.`
    case 'no-current-price':
      return `${quoted} needs a price to start from, and there is none here. Type an amount such as 19.90.`
    case 'no-cost':
      return `${quoted} needs a cost, and there is none on file. Type an amount such as 19.90, or set the cost first.`
    case 'margin-too-high':
      return `${quoted}: a margin must be below 100 %.`
  }
}

const FIELDS: Readonly<Record<string, string>> = {
  audience: 'Audience',
  basePrice: 'Base price',
  categories: 'Categories',
  code: 'Code',
  cost: 'Cost',
  currency: 'Currency',
  defaultLine: 'Price of all other items',
  method: 'Rule',
  name: 'Name',
  options: 'Options',
  parent: 'Parent category',
  position: 'Position',
  rank: 'Rank',
  recommendedPrice: 'Recommended price',
  rounding: 'Rounding',
  scope: 'What it is for',
  schedule: 'When it holds',
  period: 'Period',
  'schedule.from': 'From',
  'schedule.to': 'Until',
  'schedule.months': 'Months',
  'schedule.weekdays': 'Weekdays',
  'schedule.hours': 'Hours',
  to: 'Until',
  content: 'Content',
  gtin: 'GTIN',
  place: 'Where it holds',
  parties: 'Accounts and groups',
  fee: 'Fee',
  rate: 'Rate',
  priceDigits: 'Decimal places',
  ageLimit: 'Rates expire after',
  countries: 'Countries',
  minimumOrder: 'Minimum order',
  floor: 'Floor',
  ownAmounts: 'Own amounts',
  stock: 'Stock',
  timeZone: 'Time zone',
  from: 'From',
  sku: 'SKU',
  weight: 'Weight',
  percent: 'Rate',
  upon: 'Calculated on top of',
  postcode: 'Postcode',
  taxClass: 'Tax class',
  minimum: 'At least',
  maximum: 'At most',
  multiple: 'In multiples of',
  values: 'Only these quantities',
  first: 'First quantity',
  'limits.minimum': 'At least',
  'limits.maximum': 'At most',
  'limits.multiple': 'In multiples of',
  'limits.values': 'Only these quantities',
  'limits.first': 'First quantity',
  days: 'Within days',
  counting: 'Counts',
  effect: 'Effect',
  word: 'Passcode',
  country: 'Country',
  state: 'State',
  'people.name': 'Name of a person',
  'people.email': 'E-mail address of a person',
  'people.limit': 'Limit of a person',
  'people.approves': 'Somebody who approves',
  shopEmail: 'E-mail address',
  quoteMargin: 'Margin below which offers need approval',
  quoteDays: 'Days an offer stands',
  'addresses.country': 'Country of an address',
  'addresses.state': 'State of an address',
  unionCountries: 'Countries of the union',
  taxRegistrations: 'Tax registrations',
}

/** One thing wrong with a record: where, what was found, what would be right. */
/** What is wrong with a record, and what would be right. */
export function issueSentence(issue: Issue): string {
  return `${issue.label || 'This record'}, ${issueWords(issue)}`
}

/** The same where it is plain which record is meant. */
export function issueWords(issue: Issue): string {
  return `${FIELDS[issue.field] ?? issue.field}: ${WORDING[issue.code](issue)}`
}

/** The least percent that leaves something of a price. */
const ABOVE_MINUS_100 = '-99.99'

const OF_DOCUMENTS: Readonly<Record<string, (fault: { value: string; expected: string | null }) => string>> =
  {
    'unknown-field': ({ value, expected }) =>
      `there is no field “${value}” here${expected ? `; the nearest is ${expected}` : ''}.`,
    stale: ({ value }) =>
      `the store was changed meanwhile (${value}). Read it again, then send your changes.`,
    'disk-full': ({ value }) => `the disk is nearly full (${value}), so nothing was saved.`,
    unreadable: ({ value }) =>
      `with this the store could not be read any more (${value}), so nothing was saved.`,
  }

/** What is wrong at one place of a document. */
export function faultWords(fault: { code: string; value: string; expected: string | null }): string {
  const ofDocument = OF_DOCUMENTS[fault.code]
  if (ofDocument) return ofDocument(fault)
  const ofRecord = WORDING[fault.code as IssueCode] as ((issue: Issue) => string) | undefined
  return ofRecord
    ? ofRecord({ ...fault, kind: 'settings', label: '', field: '' } as Issue)
    : `${fault.value} cannot be used${fault.expected ? ` (${fault.expected})` : ''}.`
}

const WORDING: Readonly<Record<IssueCode, (issue: Issue) => string>> = {
  malformed: ({ value, expected }) => `“${value}” cannot be used here${expected ? ` (${expected})` : ''}.`,
  missing: () => 'this must not be empty.',
  'not-a-decimal': ({ value }) => `“${value}” is not an amount. Write it like 19.90, with a point.`,
  'too-many-digits': ({ value, expected }) =>
    `“${value}” has too many digits: at most ${expected} after the point.`,
  'not-above-zero': ({ value }) => `“${value}” must be above zero.`,
  negative: ({ value }) => `“${value}” must not be below zero.`,
  'too-low': ({ value, expected }) =>
    expected === ABOVE_MINUS_100
      ? `“${value}” would leave nothing: at most 99.99 % can come off.`
      : `“${value}” is too low: ${expected} at least.`,
  'not-whole': ({ value, expected }) => `“${value}” must be a whole number, ${expected} at least.`,
  unknown: ({ value, expected }) =>
    `there is no “${value}”${expected ? `; the nearest is ${expected}` : ''}.`,
  duplicate: ({ value, expected }) =>
    expected === null
      ? `“${value}” is already in use. Choose another.`
      : `“${value}” is already used by ${expected}.`,
  cycle: ({ value }) => `it would be inside itself: ${value}.`,
  'empty-audience': () => 'it needs somebody it is for. Choose a group, an account or everyone.',
  'empty-scope': () => 'it needs something it is for: a category, a product or a variant.',
  'unsorted-endings': ({ value, expected }) =>
    `endings “${value}” must rise and stay below ${expected}, such as 0.45, 0.95.`,
  'in-use': ({ expected }) =>
    `it cannot go, because ${expected} still ${expected?.includes(',') ? 'need' : 'needs'} it.`,
  'reversed-window': ({ value }) => `“${value}” ends before it starts.`,
  'too-high': ({ value, expected }) => `“${value}” is too high: ${expected} at most.`,
  'unsorted-breaks': ({ value, expected }) =>
    `quantities “${value}” must rise, each once: look at ${expected}.`,
  'no-breaks': () => 'there must be a rule for at least one quantity.',
  'margin-too-high': ({ value }) => `a margin of ${value} % has no price: it must stay below 100 %.`,
  'store-currency': ({ value }) =>
    `${value} is the store’s own currency; its amount is the one beside, and it needs no rate.`,
  'no-parties': () => 'a contract binds somebody: name an account or a group.',
  'reversed-range': ({ value }) => `“${value}” holds nothing: the first must be below the second.`,
  'unusual-rate': ({ value }) => `${value} % is above 50 %. Enter a reason if it is right.`,
  overlap: ({ value, expected }) =>
    `there is already a rate for the same place and class at that time (${expected}). ${value === 'always' ? 'Give one of them an end.' : 'End one before the other starts.'}`,
  'min-above-max': ({ value, expected }) => `the least, ${value}, is above the most, ${expected}.`,
  'not-a-multiple': ({ value, expected }) =>
    `${value} is no multiple of ${expected}; ${roundedUp(value, expected)} would be.`,
  'max-below-multiple': ({ value, expected }) =>
    `the most, ${value}, is below one multiple of ${expected}: nothing could be bought.`,
  'no-value-allowed': ({ value }) => `the other limits allow none of these quantities, not even ${value}.`,
  'only-together': () => 'a value or weight is of everything together: count “together”.',
  'not-together': () => 'only a limit that counts each by itself can say this.',
  contradicts: ({ value, expected }) =>
    `“${value}” and “${expected}” leave no quantity between them: nothing could be bought. Change one of the two.`,
  'no-limit': () => 'it must limit something: a least, a most, a multiple, a value or a weight.',
  'too-short': ({ value, expected }) => `“${value}” is too easily guessed: ${expected} letters at least.`,
  'too-long': ({ value, expected }) => `“${value}” is too long: at most ${expected} characters.`,
  'too-large': ({ value, expected }) =>
    `“${value}” is too large to be kept exactly: at most ${expected} digits, counted in the smallest unit.`,
  'no-instant': ({ value, expected }) =>
    `“${value}” is not an instant with its offset from UTC. Write it like ${expected}.`,
  'too-deep': ({ value, expected }) => `“${value}” lies too deep: a category may have ${expected} levels.`,
  'not-text': ({ expected }) => `it holds characters that are not text (at ${expected}).`,
  shadowed: ({ expected }) =>
    `“${expected}” is for the same buyers, goods and times at this rank, so one of the two would never count. Narrow one, or rank them.`,
  'empty-set': () => 'a set takes two units at least.',
  'above-parts': ({ value, expected }) =>
    `${value} saves nothing: the dearest set of these costs ${expected} at base prices.`,
  'never-known': () => 'what guests ordered before is not known. Let it hold for signed-in buyers.',
  archived: ({ value }) => `“${value}” is archived. Choose something that is sold.`,
  'no-effect': () => 'everything is shown to everyone anyway, so this would change nothing.',
  'not-in-axes': ({ value, expected }) =>
    `it has “${value}” where its product asks for ${expected || 'no options'}.`,
}

/** The next multiple, as a whole number of steps. */
function roundedUp(value: string, step: string | null): number {
  return Math.ceil(Number(value) / Number(step)) * Number(step)
}
