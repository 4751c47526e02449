import type { Decimal } from '../decimal/decimal'
import type { Place } from '../places/place'
import { ALWAYS, type CompiledSchedule, compileSchedule, matchWhen } from '../predicates/when'
import { matchPostcode, type PostcodePattern, readPostcode } from './postcode'
import type { Tax, TaxRate } from './tax'

/** A tax that falls on something, and by which rate. */
export interface Levy {
  readonly tax: Tax
  readonly rate: TaxRate
  readonly percent: Decimal
}

/** Why a tax does not fall on something. */
export type LevyMiss =
  | { readonly tax: Tax; readonly code: 'no-rates' }
  | { readonly tax: Tax; readonly code: 'not-on-delivery' }
  /** No rate for the place; `places` are those the tax has rates for. */
  | { readonly tax: Tax; readonly code: 'other-place'; readonly places: readonly string[] }
  /** Rates for the place are for other classes, by id. */
  | { readonly tax: Tax; readonly code: 'other-class'; readonly classes: readonly string[] }
  | { readonly tax: Tax; readonly code: 'not-now'; readonly from: string | null; readonly to: string | null }

export interface FoundLevies {
  /** Each after those it is charged upon. */
  readonly levies: readonly Levy[]
  readonly misses: readonly LevyMiss[]
}

interface CompiledRate {
  readonly rate: TaxRate
  readonly postcode: PostcodePattern | null
  readonly period: CompiledSchedule
}

/** The taxes of a store made ready for looking up. */
export interface CompiledTaxes {
  /** Each after those it is charged upon. */
  readonly taxes: readonly Tax[]
  readonly ratesOf: ReadonlyMap<string, readonly CompiledRate[]>
}

export function compileTaxes(
  taxes: ReadonlyMap<string, Tax>,
  rates: Iterable<TaxRate>,
  timeZone: string,
): CompiledTaxes {
  const ratesOf = new Map<string, CompiledRate[]>()
  for (const rate of rates) {
    const compiled = {
      rate,
      postcode: rate.postcode === '' ? null : readPostcode(rate.postcode),
      period: compileSchedule({ ...ALWAYS, from: rate.from, to: rate.to }, timeZone),
    }
    const known = ratesOf.get(rate.tax)
    if (known) known.push(compiled)
    else ratesOf.set(rate.tax, [compiled])
  }
  return { taxes: foundationsFirst(taxes), ratesOf }
}

/** What is being taxed, where and when. */
export interface Taxed {
  readonly place: Place
  /** Id; `null` where nothing names a class. */
  readonly taxClass: string | null
  readonly isDelivery: boolean
  readonly at: number
}

/** Of each tax the rate for the most specific place; several taxes add up. */
export function findLevies({ taxes, ratesOf }: CompiledTaxes, taxed: Taxed): FoundLevies {
  const levies: Levy[] = []
  const misses: LevyMiss[] = []
  for (const tax of taxes) {
    if (tax.status !== 'active') continue
    const found = findRate(tax, ratesOf.get(tax.id) ?? [], taxed)
    if ('rate' in found) levies.push(found)
    else misses.push(found)
  }
  return { levies, misses }
}

function findRate(tax: Tax, rates: readonly CompiledRate[], taxed: Taxed): Levy | LevyMiss {
  if (rates.length === 0) return { tax, code: 'no-rates' }
  if (taxed.isDelivery && !tax.onDelivery) return { tax, code: 'not-on-delivery' }
  const here = rates.flatMap((each) => {
    const weight = placeWeight(each, taxed.place)
    return weight === null ? [] : [{ ...each, weight }]
  })
  if (here.length === 0) return { tax, code: 'other-place', places: [...new Set(rates.map(placeName))] }
  const ofClass = here.filter(({ rate }) => rate.taxClass === null || rate.taxClass === taxed.taxClass)
  if (ofClass.length === 0)
    return { tax, code: 'other-class', classes: here.map(({ rate }) => rate.taxClass as string) }
  const now = ofClass.filter(({ period }) => matchWhen(period, taxed.at).matches)
  const [best] = now.sort(
    (left, right) =>
      right.weight - left.weight ||
      Number(left.rate.taxClass === null) - Number(right.rate.taxClass === null) ||
      (left.rate.id < right.rate.id ? -1 : 1),
  )
  if (best) return { tax, rate: best.rate, percent: best.rate.percent }
  const { from, to } = (ofClass[0] as CompiledRate).rate
  return { tax, code: 'not-now', from, to }
}

/** How much a rate says of a place: city over postcode over state over country; `null` where it is for another. */
function placeWeight({ rate, postcode }: CompiledRate, place: Place): number | null {
  let weight = 0
  if (rate.country !== '') {
    if (rate.country !== place.country) return null
    weight += 1
  }
  if (rate.state !== '') {
    if (rate.state !== place.state.toUpperCase()) return null
    weight += 10
  }
  if (postcode) {
    const match = matchPostcode(postcode, place.postcode)
    if (match === null) return null
    weight += 100 + match
  }
  if (rate.city !== '') {
    if (rate.city.toLowerCase() !== place.city.trim().toLowerCase()) return null
    weight += 10_000
  }
  return weight
}

function placeName({ rate }: CompiledRate): string {
  return [rate.city, rate.postcode, rate.state, rate.country].filter(Boolean).join(', ')
}

/** By position, but each after what it is charged upon; the commit door refuses circles. */
function foundationsFirst(taxes: ReadonlyMap<string, Tax>): readonly Tax[] {
  const ordered: Tax[] = []
  const seen = new Set<string>()
  const add = (tax: Tax) => {
    if (seen.has(tax.id)) return
    seen.add(tax.id)
    for (const id of tax.upon) {
      const below = taxes.get(id)
      if (below) add(below)
    }
    ordered.push(tax)
  }
  for (const tax of [...taxes.values()].sort((left, right) => left.position - right.position)) add(tax)
  return ordered
}
