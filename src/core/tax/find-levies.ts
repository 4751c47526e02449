import type { Decimal } from '../decimal/decimal'
import type { Place } from '../places/place'
import { ALWAYS, type CompiledSchedule, compileSchedule, matchWhen } from '../predicates/when'
import { codesCovered, type PostcodePattern, readPostcode } from './postcode'
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

/** A part of a place that some rates name. */
export type PlacePart = 'state' | 'postcode' | 'city'

/** The parts of a place that taxes there depend on at an instant and that it does not say. */
export function partsNeeded(
  { taxes, ratesOf }: CompiledTaxes,
  place: Place,
  at: number,
): readonly PlacePart[] {
  const isMissing = {
    state: place.state === '',
    postcode: place.postcode.trim() === '',
    city: place.city.trim() === '',
  }
  const needed = new Set<PlacePart>()
  for (const tax of taxes) {
    if (tax.status !== 'active') continue
    for (const { rate, period } of ratesOf.get(tax.id) ?? []) {
      if (rate.country !== place.country || !matchWhen(period, at).matches) continue
      if (rate.state !== '' && isMissing.state) needed.add('state')
      if (rate.state !== '' && rate.state !== place.state) continue
      if (rate.postcode !== '' && isMissing.postcode) needed.add('postcode')
      if (rate.city !== '' && isMissing.city) needed.add('city')
    }
  }
  return [...needed]
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
      compareWeights(left.weight, right.weight) ||
      Number(left.rate.taxClass === null) - Number(right.rate.taxClass === null) ||
      (left.rate.id < right.rate.id ? -1 : 1),
  )
  if (best) return { tax, rate: best.rate, percent: best.rate.percent }
  const { from, to } = (ofClass[0] as CompiledRate).rate
  return { tax, code: 'not-now', from, to }
}

/** How much a rate says of a place. */
interface PlaceWeight {
  readonly city: boolean
  /** How many postcodes it covers; `null` where it names none. */
  readonly codes: bigint | null
  readonly state: boolean
  readonly country: boolean
}

/** Errors  `null` where a rate is for another place. */
function placeWeight({ rate, postcode }: CompiledRate, place: Place): PlaceWeight | null {
  if (rate.country !== '' && rate.country !== place.country) return null
  if (rate.state !== '' && rate.state !== place.state) return null
  const codes = postcode && codesCovered(postcode, place.postcode)
  if (postcode && codes === null) return null
  if (rate.city !== '' && rate.city.toLowerCase() !== place.city.trim().toLowerCase()) return null
  return { city: rate.city !== '', codes, state: rate.state !== '', country: rate.country !== '' }
}

/** A city says more than a postcode, that more than a state and a country; of postcodes the one that covers fewer. */
function compareWeights(left: PlaceWeight, right: PlaceWeight): number {
  return (
    Number(right.city) - Number(left.city) ||
    compareCodes(left.codes, right.codes) ||
    Number(right.state) - Number(left.state) ||
    Number(right.country) - Number(left.country)
  )
}

function compareCodes(left: bigint | null, right: bigint | null): number {
  if (left === right) return 0
  if (left === null) return 1
  if (right === null) return -1
  return left < right ? -1 : 1
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
