import { type Currency, type ExchangeRate } from '../currency/currency'
import { findMinorDigits } from '../currency/iso-4217'
import { compare, HUNDRED } from '../decimal/decimal'
import { DraftReader } from '../issue/draft-reader'
import type { Parsed } from '../issue/issue'
import { parseRounding, type RoundingDraft } from '../issue/parse-rounding'
import { readInstant } from '../predicates/instant'
import { parseLand } from './iso-3166'
import type { Channel, Region } from './place'

export type CurrencyDraft = Omit<Currency, 'fee' | 'rounding' | 'priceDigits'> & {
  readonly fee: string
  /** `null` is as many as ISO 4217 says. */
  readonly priceDigits: number | null
  readonly rounding: RoundingDraft | null
}
export type ExchangeRateDraft = Omit<ExchangeRate, 'rate'> & { readonly rate: string }
export type RegionDraft = Omit<Region, 'rounding'> & { readonly rounding: RoundingDraft | null }

/** Six significant figures with a leading zero or two behind the point. */
const RATE_DIGITS = 10
const MOST_PRICE_DIGITS = 6

/** `store` is the store's own currency, which needs no rate. */
export function parseCurrency(draft: CurrencyDraft, store: string): Parsed<Currency> {
  const reader = new DraftReader('currency', draft.code)
  const minor = findMinorDigits(draft.code)
  if (minor === null) reader.report('unknown', 'code', draft.code, 'GBP')
  if (draft.code === store) reader.report('store-currency', 'code', draft.code)
  const fee = reader.decimal('fee', draft.fee, { digits: 4, sign: 'not-negative' })
  if (compare(fee, HUNDRED) >= 0) reader.report('too-high', 'fee', draft.fee, '99')
  const priceDigits = reader.wholeNumber('priceDigits', draft.priceDigits ?? minor ?? 2, minor ?? 0)
  if (priceDigits > MOST_PRICE_DIGITS)
    reader.report('too-high', 'priceDigits', String(priceDigits), String(MOST_PRICE_DIGITS))
  if (draft.ageLimit !== null) reader.wholeNumber('ageLimit', draft.ageLimit, 1)
  return reader.result({
    ...draft,
    fee,
    priceDigits,
    rounding: draft.rounding && parseRounding(reader, draft.rounding, priceDigits),
  })
}

export function parseExchangeRate(draft: ExchangeRateDraft): Parsed<ExchangeRate> {
  const reader = new DraftReader('exchange-rate', `${draft.per} → ${draft.currency}`)
  if (draft.per === draft.currency) reader.report('duplicate', 'per', draft.per)
  if (readInstant(draft.from) === null)
    reader.report('no-instant', 'from', draft.from, suggestInstant(draft.from))
  return reader.result({
    ...draft,
    rate: reader.decimal('rate', draft.rate, {
      digits: RATE_DIGITS,
      sign: 'above-zero',
      isFactor: true,
    }),
  })
}

/** The instant somebody probably meant by a day or a time without its offset. */
function suggestInstant(text: string): string {
  const suggestion = `${text.trim().replace(' ', 'T')}${/T/.test(text) ? '' : 'T00:00'}Z`
  return readInstant(suggestion) === null ? '2027-03-01T00:00Z' : suggestion
}

export function parseChannel(draft: Channel): Parsed<Channel> {
  const reader = new DraftReader('channel', draft.code)
  return reader.result({
    ...draft,
    ...reader.codeAndName(draft),
    position: reader.wholeNumber('position', draft.position, 0),
  })
}

export function parseRegion(draft: RegionDraft): Parsed<Region> {
  const reader = new DraftReader('region', draft.code)
  const countries = draft.countries.map((country) => parseLand(reader, 'countries', country))
  if (draft.countries.length === 0 && !draft.isDefault) reader.report('missing', 'countries', '')
  const digits = draft.currency === null ? 2 : findMinorDigits(draft.currency)
  if (digits === null) reader.report('unknown', 'currency', draft.currency ?? '', 'EUR')
  return reader.result({
    ...draft,
    ...reader.codeAndName(draft),
    countries: [...new Set(countries)],
    position: reader.wholeNumber('position', draft.position, 0),
    rounding: draft.rounding && parseRounding(reader, draft.rounding, MOST_PRICE_DIGITS),
  })
}
