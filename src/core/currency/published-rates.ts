import {
  compare,
  type Decimal,
  HUNDRED,
  isPositive,
  multiply,
  negate,
  ONE,
  subtract,
} from '../decimal/decimal'
import { differencePercent } from '../decimal/difference-percent'
import { divide, type Fraction } from '../decimal/fraction'
import { roundToDigits } from '../decimal/rounding'
import type { Currency, ExchangeRate, RateTable } from './currency'

/** What a service publishes for one day: how much of each currency one unit of another is worth. */
export interface PublishedDay {
  /** ISO 8601 date. */
  readonly day: string
  /** The currency the others are told for: EUR for the reference rates of the European Central Bank. */
  readonly per: string
  /** By ISO 4217 code, as published. */
  readonly rates: ReadonlyMap<string, Decimal>
}

/** How a published rate stands beside the one in force. */
export type RateVerdict =
  /** The same, or older than what is in force. */
  | 'known'
  /** Another, not far from it: nothing keeps it from being used. */
  | 'moves'
  /** Another by more than `LEAP`: a person looks at it first. */
  | 'leaps'
  /** There is none in force yet: a person begins. */
  | 'first'
  /** Published so long ago that it is not that of today. */
  | 'old'
  /** The day has no rate of this currency. */
  | 'missing'

export interface JudgedRate {
  readonly currency: string
  readonly verdict: RateVerdict
  /** For one unit of the store's currency; `null` where it is missing. */
  readonly rate: Decimal | null
  readonly inForce: ExchangeRate | null
  /** In percent of the rate in force, one digit; `null` where there is nothing to compare. */
  readonly change: Decimal | null
  /** Whether rates of this currency are taken over by themselves: whoever took the last one from the service said so by it. */
  readonly follows: boolean
}

/** Percent a rate may move from one to the next without a person having looked (the merchant's own caution, no source). */
const LEAP = '5' as Decimal

/** Days a publication may be old: a weekend with a holiday on either side (common practice, no source). */
export const OLDEST_PUBLICATION = 5

const DAY = 86_400_000
/** As many as the conversion rates of the euro have (Council Regulation (EC) No 1103/97, Article 4(1), from memory). */
const SIGNIFICANT = 6

/**
 * How what was published last stands beside what is in force, currency by currency.
 *
 * at    epoch milliseconds
 * home  the store's currency
 */
export function judgePublished(
  published: PublishedDay,
  {
    table,
    home,
    currencies,
    at,
  }: {
    readonly table: RateTable
    readonly home: string
    readonly currencies: Iterable<Pick<Currency, 'code' | 'status'>>
    readonly at: number
  },
): readonly JudgedRate[] {
  const isOld = at - Date.parse(published.day) > (OLDEST_PUBLICATION + 1) * DAY
  return [...currencies].flatMap(({ code, status }): readonly JudgedRate[] => {
    if (status !== 'active' || code === home) return []
    const inForce = table.rates.get(`${home}>${code}`) ?? null
    const rate = publishedRate(published, home, code)
    const change = rate && inForce ? differencePercent(rate, inForce.rate) : null
    const follows = inForce?.source === 'feed'
    const told = { currency: code, rate, inForce, change, follows }
    return [{ ...told, verdict: verdictOf(published, told, isOld) }]
  })
}

function verdictOf(
  { day }: PublishedDay,
  { rate, inForce }: Pick<JudgedRate, 'rate' | 'inForce'>,
  isOld: boolean,
): RateVerdict {
  if (rate === null) return 'missing'
  if (isOld) return 'old'
  if (inForce === null) return 'first'
  if (rate === inForce.rate || day < inForce.from.slice(0, 10)) return 'known'
  return leaps(rate, inForce.rate) ? 'leaps' : 'moves'
}

/** Exactly, not by a percentage that was rounded for showing. */
function leaps(rate: Decimal, from: Decimal): boolean {
  const moved = multiply(subtract(rate, from), HUNDRED)
  const allowed = multiply(from, LEAP)
  return compare(moved, allowed) > 0 || compare(negate(moved), allowed) > 0
}

/**
 * What one unit of `home` is worth: as published, or through the currency everything is published for, to six significant
 * figures (half up).
 *
 * Errors  `null` where either of the two is not published.
 */
export function publishedRate({ per, rates }: PublishedDay, home: string, code: string): Decimal | null {
  const of = (currency: string) => (currency === per ? ONE : (rates.get(currency) ?? null))
  const [wanted, own] = [of(code), of(home)]
  if (wanted === null || own === null || !isPositive(own)) return null
  return own === ONE ? wanted : significant(divide(wanted, own))
}

function significant(value: Fraction): Decimal {
  const size = Math.floor(Math.log10(Number(value.numerator) / Number(value.denominator)))
  return roundToDigits(value, Math.max(0, SIGNIFICANT - 1 - size), 'half-up')
}
