import { type Currency, type ExchangeRate } from '../currency/currency'
import { findMinorDigits } from '../currency/iso-4217'
import { compare, HUNDRED } from '../decimal/decimal'
import { InputReader } from '../issue/input-reader'
import type { Parsed } from '../issue/issue'
import { parseRounding, type RoundingInput } from '../issue/parse-rounding'
import { readInstant } from '../predicates/instant'
import { parseLand } from './iso-3166'
import type { Channel, Region } from './place'

export type CurrencyInput = Omit<Currency, 'fee' | 'rounding' | 'priceDigits'> & {
  readonly fee: string
  /** `null` is as many as ISO 4217 says. */
  readonly priceDigits: number | null
  readonly rounding: RoundingInput | null
}
export type ExchangeRateInput = Omit<ExchangeRate, 'rate'> & { readonly rate: string }
export type RegionInput = Omit<Region, 'rounding'> & { readonly rounding: RoundingInput | null }

/** Six significant figures with a leading zero or two behind the point. */
const RATE_DIGITS = 10
const MOST_PRICE_DIGITS = 6

/** `store` is the store's own currency, which needs no rate. */
export function parseCurrency(input: CurrencyInput, store: string): Parsed<Currency> {
  const reader = new InputReader('currency', input.code)
  const minor = findMinorDigits(input.code)
  if (minor === null) reader.report('unknown', 'code', input.code, 'GBP')
  if (input.code === store) reader.report('store-currency', 'code', input.code)
  const fee = reader.decimal('fee', input.fee, { digits: 4, sign: 'not-negative' })
  if (compare(fee, HUNDRED) >= 0) reader.report('too-high', 'fee', input.fee, '99')
  const priceDigits = reader.wholeNumber('priceDigits', input.priceDigits ?? minor ?? 2, minor ?? 0)
  if (priceDigits > MOST_PRICE_DIGITS)
    reader.report('too-high', 'priceDigits', String(priceDigits), String(MOST_PRICE_DIGITS))
  if (input.ageLimit !== null) reader.wholeNumber('ageLimit', input.ageLimit, 1)
  return reader.result({
    ...input,
    fee,
    priceDigits,
    rounding: input.rounding && parseRounding(reader, input.rounding, priceDigits),
  })
}

export function parseExchangeRate(input: ExchangeRateInput): Parsed<ExchangeRate> {
  const reader = new InputReader('exchange-rate', `${input.per} → ${input.currency}`)
  if (input.per === input.currency) reader.report('duplicate', 'per', input.per)
  if (readInstant(input.from) === null)
    reader.report('no-instant', 'from', input.from, suggestInstant(input.from))
  return reader.result({
    ...input,
    rate: reader.decimal('rate', input.rate, {
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

export function parseChannel(input: Channel): Parsed<Channel> {
  const reader = new InputReader('channel', input.code)
  return reader.result({
    ...input,
    ...reader.codeAndName(input),
    position: reader.wholeNumber('position', input.position, 0),
  })
}

export function parseRegion(input: RegionInput): Parsed<Region> {
  const reader = new InputReader('region', input.code)
  const countries = input.countries.map((country) => parseLand(reader, 'countries', country))
  if (input.countries.length === 0 && !input.isDefault) reader.report('missing', 'countries', '')
  const digits = input.currency === null ? 2 : findMinorDigits(input.currency)
  if (digits === null) reader.report('unknown', 'currency', input.currency ?? '', 'EUR')
  return reader.result({
    ...input,
    ...reader.codeAndName(input),
    countries: [...new Set(countries)],
    position: reader.wholeNumber('position', input.position, 0),
    rounding: input.rounding && parseRounding(reader, input.rounding, MOST_PRICE_DIGITS),
  })
}
