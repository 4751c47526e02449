import 'server-only'

import type { PublishedDay } from '@/core/currency/published-rates'
import { findMinorDigits } from '@/core/currency/iso-4217'
import { type Decimal, isPositive, parseDecimal } from '@/core/decimal/decimal'
import { XMLParser, XMLValidator } from 'fast-xml-parser'

/** What was wrong with a file of rates. */
export type RatesFault =
  | { readonly code: 'no-xml' | 'no-rates' }
  | { readonly code: 'bad-day' | 'bad-currency' | 'bad-rate' | 'twice' | 'in-future'; readonly value: string }

export type ReadRates =
  | { readonly ok: true; readonly days: readonly PublishedDay[] }
  | { readonly ok: false; readonly fault: RatesFault }

/** Files of reference rates are a few kilobytes; the one of ninety days a hundred. */
export const LARGEST_RATES = 2_000_000

const PARSER = new XMLParser({
  ignoreAttributes: false,
  attributeNamePrefix: '',
  removeNSPrefix: true,
  // Entities could be made to grow without end, and rates are no numbers of the machine's.
  processEntities: false,
  parseTagValue: false,
  parseAttributeValue: false,
  isArray: (name) => name === 'Cube',
})

/**
 * The days of a file of reference rates of the euro, the newest first: all of it is right, or nothing of it is taken.
 *
 * now     epoch milliseconds: a day that has not come is refused
 * Source  the layout of eurofxref-daily.xml and eurofxref-hist-90d.xml, from memory (checks.md, 7.4)
 */
export function readReferenceRates(text: string, now: number): ReadRates {
  if (/<!DOCTYPE/i.test(text) || XMLValidator.validate(text) !== true)
    return { ok: false, fault: { code: 'no-xml' } }
  const document = PARSER.parse(text) as { readonly Envelope?: { readonly Cube?: readonly Cube[] } }
  const cubes = document.Envelope?.Cube?.[0]?.Cube ?? []
  if (cubes.length === 0) return { ok: false, fault: { code: 'no-rates' } }
  const days: PublishedDay[] = []
  for (const cube of cubes) {
    const read = readDay(cube, now)
    if (!read.ok) return read
    if (days.some(({ day }) => day === read.day.day))
      return { ok: false, fault: { code: 'twice', value: read.day.day } }
    days.push(read.day)
  }
  return { ok: true, days: days.sort((left, right) => (left.day < right.day ? 1 : -1)) }
}

interface Cube {
  readonly time?: string
  readonly currency?: string
  readonly rate?: string
  readonly Cube?: readonly Cube[]
}

type ReadDay =
  { readonly ok: true; readonly day: PublishedDay } | { readonly ok: false; readonly fault: RatesFault }

function readDay({ time = '', Cube: told = [] }: Cube, now: number): ReadDay {
  const no = (code: Exclude<RatesFault['code'], 'no-xml' | 'no-rates'>, value: string): ReadDay => ({
    ...{ ok: false, fault: { code, value: value.slice(0, 60) } },
  })
  const at = /^\d{4}-\d{2}-\d{2}$/.test(time) ? Date.parse(time) : Number.NaN
  if (Number.isNaN(at) || new Date(at).toISOString().slice(0, 10) !== time) return no('bad-day', time)
  if (at > now) return no('in-future', time)
  const rates = new Map<string, Decimal>()
  for (const { currency = '', rate: text = '' } of told) {
    if (findMinorDigits(currency) === null) return no('bad-currency', currency)
    const rate = /^\d{1,9}(\.\d{1,9})?$/.test(text) ? parseDecimal(text) : null
    if (rate === null || !isPositive(rate)) return no('bad-rate', `${currency} ${text}`)
    if (rates.has(currency)) return no('twice', currency)
    rates.set(currency, rate)
  }
  if (rates.size === 0) return { ok: false, fault: { code: 'no-rates' } }
  return { ok: true, day: { day: time, per: 'EUR', rates } }
}
