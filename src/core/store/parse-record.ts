import { isEmail } from '../buyers/email'
import type { AccessRule, Passcode } from '../access/access'
import { parseAccessRule, parsePasscode } from '../access/parse-access'
import type { CustomerGroup } from '../buyers/buyer'
import { type AccountInput, parseAccount, parseGroup } from '../buyers/parse-buyers'
import type { Category } from '../catalogue/category'
import {
  type ExtraInput,
  parseCategory,
  parseExtra,
  parsePriceFamily,
  parseProduct,
  parseVariant,
  type PriceDigits,
  type ProductInput,
  type VariantInput,
} from '../catalogue/parse-catalogue'
import type { PriceFamily } from '../catalogue/price-family'
import { findMinorDigits } from '../currency/iso-4217'
import { compare, HUNDRED } from '../decimal/decimal'
import { InputReader } from '../issue/input-reader'
import { findNearest, type Parsed, type RecordKind } from '../issue/issue'
import { type LimitRuleInput, parseLimitRule } from '../limits/parse-limit'
import {
  type CurrencyInput,
  type ExchangeRateInput,
  parseChannel,
  parseCurrency,
  parseExchangeRate,
  parseRegion,
  type RegionInput,
} from '../places/parse-place'
import { parseCountry } from '../places/iso-3166'
import type { Channel } from '../places/place'
import {
  type AdjustmentInput,
  type ContractInput,
  parseAdjustment,
  parseContract,
} from '../price/parse-contract'
import {
  parsePriceLine,
  parsePriceList,
  type PriceLineInput,
  type PriceListInput,
} from '../price/lines/parse-price-list'
import { parsePromotion, type PromotionInput } from '../promotions/parse-promotion'
import { parseProof, type ProofInput } from '../proofs/parse-proof'
import { parseTax, parseTaxClass, parseTaxRate, type TaxRateInput } from '../tax/parse-tax'
import type { Tax, TaxClass } from '../tax/tax'
import type { RecordOfKind, Settings } from './store'

/** Each kind of record as it is submitted: right in shape, not yet in meaning. */
export interface InputOfKind {
  readonly settings: SettingsInput
  readonly currency: CurrencyInput
  readonly 'exchange-rate': ExchangeRateInput
  readonly channel: Channel
  readonly region: RegionInput
  readonly 'tax-class': TaxClass
  readonly tax: Tax
  readonly 'tax-rate': TaxRateInput
  readonly category: Category
  readonly 'price-family': PriceFamily
  readonly product: ProductInput
  readonly variant: VariantInput
  readonly extra: ExtraInput
  readonly group: CustomerGroup
  readonly account: AccountInput
  readonly 'price-list': PriceListInput
  readonly 'price-line': PriceLineInput
  readonly contract: ContractInput
  readonly adjustment: AdjustmentInput
  readonly limit: LimitRuleInput
  readonly 'access-rule': AccessRule
  readonly passcode: Passcode
  readonly promotion: PromotionInput
  readonly proof: ProofInput
}

type SettingsInput = Omit<Settings, 'deliveryPrice' | 'deliveryFreeFrom' | 'quoteMargin' | 'priceDigits'> & {
  /** `null` is as many as ISO 4217 says. */
  readonly priceDigits: number | null
  readonly deliveryPrice: string | null
  readonly deliveryFreeFrom: string | null
  readonly quoteMargin: string | null
}

/** What the meaning of a record depends on beside itself. */
export interface ParseContext extends PriceDigits {
  /** The currency of a price list by its id. */
  readonly currencyOfList: (list: string) => string
}

type Parsers = {
  readonly [Kind in RecordKind]: (
    input: InputOfKind[Kind],
    context: ParseContext,
  ) => Parsed<RecordOfKind[Kind]>
}

const PARSERS: Parsers = {
  settings: parseSettings,
  currency: (input, { currency }) => parseCurrency(input, currency),
  'exchange-rate': parseExchangeRate,
  channel: parseChannel,
  region: parseRegion,
  'tax-class': parseTaxClass,
  tax: parseTax,
  'tax-rate': parseTaxRate,
  category: parseCategory,
  'price-family': parsePriceFamily,
  product: parseProduct,
  variant: parseVariant,
  extra: parseExtra,
  group: parseGroup,
  account: (input, { digits }) => parseAccount(input, digits),
  'price-list': (input, { digitsOf }) => parsePriceList(input, digitsOf),
  'price-line': (input, { digitsOf, currencyOfList }) =>
    parsePriceLine(input, digitsOf(currencyOfList(input.list))),
  contract: (input, { digits }) => parseContract(input, digits),
  adjustment: (input, { digits }) => parseAdjustment(input, digits),
  limit: (input, { digits }) => parseLimitRule(input, digits),
  'access-rule': parseAccessRule,
  passcode: parsePasscode,
  promotion: parsePromotion,
  proof: (input, { digitsOf, currency }) => parseProof(input, digitsOf, currency),
}

/**
 * The only way from something submitted to a record: whoever holds a record need not check it again.
 * What a record says of others (that they exist, that codes are unique) is checked against the store.
 */
export function parseRecord<Kind extends RecordKind>(
  kind: Kind,
  input: InputOfKind[Kind],
  context: ParseContext,
): Parsed<RecordOfKind[Kind]> {
  return PARSERS[kind](input, context)
}

/** Days; an offer for longer is a price list. */
const LONGEST_OFFER = 366

function parseSettings(input: SettingsInput): Parsed<Settings> {
  const reader = new InputReader('settings', input.name)
  const minorDigits = findMinorDigits(input.currency)
  if (minorDigits === null) reader.report('unknown', 'currency', input.currency, 'EUR')
  const priceDigits = reader.wholeNumber(
    'priceDigits',
    input.priceDigits ?? minorDigits ?? 2,
    minorDigits ?? 0,
  )
  if (priceDigits > 6) reader.report('too-many-digits', 'priceDigits', String(priceDigits), '6')
  if (!isTimeZone(input.timeZone))
    reader.report('unknown', 'timeZone', input.timeZone, nearestTimeZone(input.timeZone))
  const country = parseCountry(reader, 'country', input.country)
  const unionCountries = input.unionCountries.map((each) => parseCountry(reader, 'unionCountries', each))
  const taxRegistrations = Object.fromEntries(
    Object.entries(input.taxRegistrations).map(([each, number]) => [
      parseCountry(reader, 'taxRegistrations', each),
      number,
    ]),
  )
  const shopColour = input.shopColour.trim().toLowerCase()
  if (shopColour !== '' && !/^#[0-9a-f]{6}$/.test(shopColour))
    reader.report(
      'malformed',
      'shopColour',
      input.shopColour,
      'a colour is # and six digits, such as #2f6b5c',
    )
  const amount = (field: 'deliveryPrice' | 'deliveryFreeFrom') =>
    reader.optionalDecimal(field, input[field], { digits: minorDigits ?? 2, sign: 'not-negative' })
  const shopEmail = input.shopEmail.trim().toLowerCase()
  if (shopEmail !== '' && !isEmail(shopEmail))
    reader.report('malformed', 'shopEmail', input.shopEmail, 'name@example.com')
  const quoteMargin = reader.optionalDecimal('quoteMargin', input.quoteMargin, {
    digits: 1,
    sign: 'not-negative',
  })
  if (quoteMargin !== null && compare(quoteMargin, HUNDRED) >= 0)
    reader.report('margin-too-high', 'quoteMargin', quoteMargin, '99.9')
  const quoteDays = reader.wholeNumber('quoteDays', input.quoteDays, 1)
  if (quoteDays > LONGEST_OFFER) reader.report('too-high', 'quoteDays', String(quoteDays), `${LONGEST_OFFER}`)
  return reader.result({
    ...input,
    name: reader.text('name', input.name),
    priceDigits,
    quoteMargin,
    quoteDays,
    country,
    unionCountries: [...new Set(unionCountries)],
    taxRegistrations,
    deliveryPrice: amount('deliveryPrice'),
    deliveryFreeFrom: amount('deliveryFreeFrom'),
    shopHeadline: input.shopHeadline.trim(),
    shopColour,
    shopContact: input.shopContact.trim(),
    shopEmail,
    netWords: input.netWords.trim(),
    grossWords: input.grossWords.trim(),
  })
}

/** Time zones are named after a city, which is what people type. */
function nearestTimeZone(typed: string): string {
  const zones = Intl.supportedValuesOf('timeZone')
  const cityOf = (zone: string) => (zone.split('/').at(-1) ?? zone).replace(/_/g, ' ')
  const city = findNearest(typed.trim(), zones.map(cityOf))
  return zones.find((zone) => cityOf(zone) === city) ?? findNearest(typed, zones) ?? 'Europe/Dublin'
}

function isTimeZone(name: string): boolean {
  try {
    new Intl.DateTimeFormat('en', { timeZone: name })
    return true
  } catch {
    return false
  }
}
