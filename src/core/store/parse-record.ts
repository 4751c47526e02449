import type { AccessRule, Passcode } from '../access/access'
import { parseAccessRule, parsePasscode } from '../access/parse-access'
import type { Account, CustomerGroup } from '../buyers/buyer'
import { parseAccount, parseGroup } from '../buyers/parse-buyers'
import type { Category } from '../catalogue/category'
import {
  type ExtraDraft,
  parseCategory,
  parseExtra,
  parsePriceFamily,
  parseProduct,
  parseVariant,
  type PriceDigits,
  type ProductDraft,
  type VariantDraft,
} from '../catalogue/parse-catalogue'
import type { PriceFamily } from '../catalogue/price-family'
import { findMinorDigits } from '../currency/iso-4217'
import { DraftReader } from '../issue/draft-reader'
import { findNearest, type Parsed, type RecordKind } from '../issue/issue'
import { type LimitRuleDraft, parseLimitRule } from '../limits/parse-limit'
import {
  type CurrencyDraft,
  type ExchangeRateDraft,
  parseChannel,
  parseCurrency,
  parseExchangeRate,
  parseRegion,
  type RegionDraft,
} from '../places/parse-place'
import { parseCountry } from '../places/iso-3166'
import type { Channel } from '../places/place'
import {
  type AdjustmentDraft,
  type ContractDraft,
  parseAdjustment,
  parseContract,
} from '../price/parse-contract'
import {
  parsePriceLine,
  parsePriceList,
  type PriceLineDraft,
  type PriceListDraft,
} from '../price/parse-price-list'
import { parseTax, parseTaxClass, parseTaxRate, type TaxRateDraft } from '../tax/parse-tax'
import type { Tax, TaxClass } from '../tax/tax'
import type { RecordOfKind, Settings } from './store'

/** Each kind of record as it is submitted: right in shape, not yet in meaning. */
export interface DraftOfKind {
  readonly settings: SettingsDraft
  readonly currency: CurrencyDraft
  readonly 'exchange-rate': ExchangeRateDraft
  readonly channel: Channel
  readonly region: RegionDraft
  readonly 'tax-class': TaxClass
  readonly tax: Tax
  readonly 'tax-rate': TaxRateDraft
  readonly category: Category
  readonly 'price-family': PriceFamily
  readonly product: ProductDraft
  readonly variant: VariantDraft
  readonly extra: ExtraDraft
  readonly group: CustomerGroup
  readonly account: Account
  readonly 'price-list': PriceListDraft
  readonly 'price-line': PriceLineDraft
  readonly contract: ContractDraft
  readonly adjustment: AdjustmentDraft
  readonly limit: LimitRuleDraft
  readonly 'access-rule': AccessRule
  readonly passcode: Passcode
}

type SettingsDraft = Omit<Settings, 'deliveryPrice' | 'deliveryFreeFrom' | 'priceDigits'> & {
  /** `null` is as many as ISO 4217 says. */
  readonly priceDigits: number | null
  readonly deliveryPrice: string | null
  readonly deliveryFreeFrom: string | null
}

/** What the meaning of a record depends on beside itself. */
export interface ParseContext extends PriceDigits {
  /** The currency of a price list by its id. */
  readonly currencyOfList: (list: string) => string
}

type Parsers = {
  readonly [Kind in RecordKind]: (
    draft: DraftOfKind[Kind],
    context: ParseContext,
  ) => Parsed<RecordOfKind[Kind]>
}

const PARSERS: Parsers = {
  settings: parseSettings,
  currency: (draft, { currency }) => parseCurrency(draft, currency),
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
  account: parseAccount,
  'price-list': (draft, { digitsOf }) => parsePriceList(draft, digitsOf),
  'price-line': (draft, { digitsOf, currencyOfList }) =>
    parsePriceLine(draft, digitsOf(currencyOfList(draft.list))),
  contract: (draft, { digits }) => parseContract(draft, digits),
  adjustment: (draft, { digits }) => parseAdjustment(draft, digits),
  limit: (draft, { digits }) => parseLimitRule(draft, digits),
  'access-rule': parseAccessRule,
  passcode: parsePasscode,
}

/**
 * The only way from something submitted to a record: whoever holds a record need not check it again.
 * What a record says of others (that they exist, that codes are unique) is checked against the store.
 */
export function parseRecord<Kind extends RecordKind>(
  kind: Kind,
  draft: DraftOfKind[Kind],
  context: ParseContext,
): Parsed<RecordOfKind[Kind]> {
  return PARSERS[kind](draft, context)
}

function parseSettings(draft: SettingsDraft): Parsed<Settings> {
  const reader = new DraftReader('settings', draft.name)
  const minorDigits = findMinorDigits(draft.currency)
  if (minorDigits === null) reader.report('unknown', 'currency', draft.currency, 'EUR')
  const priceDigits = reader.wholeNumber(
    'priceDigits',
    draft.priceDigits ?? minorDigits ?? 2,
    minorDigits ?? 0,
  )
  if (priceDigits > 6) reader.report('too-many-digits', 'priceDigits', String(priceDigits), '6')
  if (!isTimeZone(draft.timeZone))
    reader.report('unknown', 'timeZone', draft.timeZone, nearestTimeZone(draft.timeZone))
  const country = parseCountry(reader, 'country', draft.country)
  const unionCountries = draft.unionCountries.map((each) => parseCountry(reader, 'unionCountries', each))
  const taxRegistrations = Object.fromEntries(
    Object.entries(draft.taxRegistrations).map(([each, number]) => [
      parseCountry(reader, 'taxRegistrations', each),
      number,
    ]),
  )
  const shopColour = draft.shopColour.trim().toLowerCase()
  if (shopColour !== '' && !/^#[0-9a-f]{6}$/.test(shopColour))
    reader.report(
      'malformed',
      'shopColour',
      draft.shopColour,
      'a colour is # and six digits, such as #2f6b5c',
    )
  const amount = (field: 'deliveryPrice' | 'deliveryFreeFrom') =>
    reader.optionalDecimal(field, draft[field], { digits: minorDigits ?? 2, sign: 'not-negative' })
  return reader.result({
    ...draft,
    name: reader.text('name', draft.name),
    priceDigits,
    country,
    unionCountries: [...new Set(unionCountries)],
    taxRegistrations,
    deliveryPrice: amount('deliveryPrice'),
    deliveryFreeFrom: amount('deliveryFreeFrom'),
    shopHeadline: draft.shopHeadline.trim(),
    shopColour,
    shopContact: draft.shopContact.trim(),
    netWords: draft.netWords.trim(),
    grossWords: draft.grossWords.trim(),
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
