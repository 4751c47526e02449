import { add, type Decimal, HUNDRED, ONE } from '../decimal/decimal'
import { type Fraction, toFraction } from '../decimal/fraction'
import type { RoundingRule } from '../decimal/rounding'

/** A currency prices can be shown in, beside the store's own. */
export interface Currency {
  /** ISO 4217; also its id. */
  readonly id: string
  readonly code: string
  /** Added to every converted price, in percent. */
  readonly fee: Decimal
  /** How converted prices are rounded; `null` means to its smallest unit. */
  readonly rounding: RoundingRule | null
  /** How many digits a price in it may have. */
  readonly priceDigits: number
  /** After how many days a rate is too old to be trusted; `null` never. */
  readonly ageLimit: number | null
  readonly status: 'active' | 'archived'
}

/** What one unit of `per` was worth in a currency from an instant on, until the next rate. */
export interface ExchangeRate {
  readonly id: string
  /** The currency the rate is for. */
  readonly currency: string
  /** The currency one unit of which is worth `rate`: nearly always the store's. */
  readonly per: string
  /** As given, six significant figures. */
  readonly rate: Decimal
  /** ISO 8601 instant it holds from. */
  readonly from: string
  readonly source: 'manual' | 'feed'
}

/** The rates in force at one instant. */
export interface RateTable {
  /** By `per>currency`. */
  readonly rates: ReadonlyMap<string, ExchangeRate>
  /** Epoch milliseconds between which the table stays as it is. */
  readonly since: number
  readonly until: number
}

/** A way from one currency to another, exactly: multiply by `factor`, then round. */
export interface Conversion {
  readonly from: string
  readonly to: string
  readonly factor: Fraction
  readonly fee: Decimal
  /** The rates used: none into or out of the same currency, one, or two through the store's currency. */
  readonly rates: readonly ExchangeRate[]
}

export function rateTable(rates: Iterable<ExchangeRate>, at: number): RateTable {
  const found = new Map<string, ExchangeRate>()
  let since = Number.NEGATIVE_INFINITY
  let until = Number.POSITIVE_INFINITY
  for (const rate of rates) {
    const from = Date.parse(rate.from)
    if (from > at) {
      until = Math.min(until, from)
      continue
    }
    since = Math.max(since, from)
    const key = rateKey(rate.per, rate.currency)
    const known = found.get(key)
    if (!known || Date.parse(known.from) < from || (known.from === rate.from && known.id < rate.id))
      found.set(key, rate)
  }
  return { rates: found, since, until }
}

/**
 * How an amount of one currency becomes another: by their direct rate in either direction, else through the store's
 * currency without rounding between. A rate is used in its own direction to multiply and in the other to divide, never
 * as a rounded inverse. The fee of the target is part of the factor.
 *
 * Errors  `null` without a rate.
 * Source  Council Regulation (EC) No 1103/97 Art. 4 (rates not rounded, no inverse rates), from memory.
 */
export function findConversion(
  table: RateTable,
  store: string,
  from: string,
  to: Pick<Currency, 'code' | 'fee'>,
): Conversion | null {
  const way = findWay(table, store, from, to.code)
  if (!way) return null
  const up = toFraction(way.times?.rate ?? ONE)
  const down = toFraction(way.dividedBy?.rate ?? ONE)
  const fee = toFraction(add(HUNDRED, to.fee))
  return {
    from,
    to: to.code,
    factor: {
      numerator: up.numerator * down.denominator * fee.numerator,
      denominator: up.denominator * down.numerator * fee.denominator * 100n,
    },
    fee: to.fee,
    rates: [way.dividedBy, way.times].filter((rate) => rate !== null),
  }
}

interface Way {
  readonly times: ExchangeRate | null
  readonly dividedBy: ExchangeRate | null
}

function findWay({ rates }: RateTable, store: string, from: string, to: string): Way | null {
  const direct = rates.get(rateKey(from, to))
  if (direct) return { times: direct, dividedBy: null }
  const backwards = rates.get(rateKey(to, from))
  if (backwards) return { times: null, dividedBy: backwards }
  const dividedBy = from === store ? null : rates.get(rateKey(store, from))
  const times = to === store ? null : rates.get(rateKey(store, to))
  return dividedBy === undefined || times === undefined ? null : { times, dividedBy }
}

function rateKey(per: string, currency: string): string {
  return `${per}>${currency}`
}
