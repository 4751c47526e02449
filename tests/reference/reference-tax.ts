import type { Place } from '@/core/places/place'
import type { Store } from '@/core/store/store'
import type { Tax, TaxRate } from '@/core/tax/tax'
import { inWhen } from './reference-matching'
import { Rational } from './rational'

/** docs/model.md on taxes, written down the slow way: every rate of every tax is looked at for every question. */

/** A tax that falls on something, by so many percent. */
export interface Charged {
  readonly tax: Tax
  readonly rate: TaxRate
}

export interface TaxQuestion {
  readonly place: Place
  readonly taxClass: string | null
  readonly isDelivery: boolean
  readonly at: number
}

/** The taxes on something, each after those it is calculated on top of. */
export function chargedTaxes(store: Store, asked: TaxQuestion): readonly Charged[] {
  const found: Charged[] = []
  const visit = (tax: Tax) => {
    if (found.some((each) => each.tax === tax)) return
    for (const id of tax.upon) {
      const below = store.tax.get(id)
      if (below) visit(below)
    }
    const rate = rateOf(store, tax, asked)
    if (rate && !found.some((each) => each.tax === tax)) found.push({ tax, rate })
  }
  for (const tax of [...store.tax.values()].sort((a, b) => a.position - b.position)) visit(tax)
  return found
}

function rateOf(store: Store, tax: Tax, asked: TaxQuestion): TaxRate | null {
  if (tax.status !== 'active' || (asked.isDelivery && !tax.onDelivery)) return null
  const zone = store.settings.get('settings')!.timeZone
  const holding = [...store['tax-rate'].values()].filter(
    (rate) =>
      rate.tax === tax.id &&
      (rate.taxClass === null || rate.taxClass === asked.taxClass) &&
      (rate.country === '' || rate.country === asked.place.country) &&
      (rate.state === '' || rate.state === asked.place.state) &&
      (rate.city === '' || rate.city.toLowerCase() === asked.place.city.trim().toLowerCase()) &&
      (rate.postcode === '' || codesCovered(rate.postcode, asked.place.postcode) !== null) &&
      inWhen(
        { from: rate.from, to: rate.to, months: [], weekdays: [], hours: null, overrides: {} },
        zone,
        asked.at,
      ),
  )
  const says = (rate: TaxRate) =>
    [
      rate.city === '' ? 0 : 1,
      rate.postcode === '' ? -Infinity : -codesCovered(rate.postcode, asked.place.postcode)!,
      rate.state === '' ? 0 : 1,
      rate.country === '' ? 0 : 1,
      rate.taxClass === null ? 0 : 1,
    ] as const
  const [best] = holding.sort((a, b) => {
    const [mine, theirs] = [says(a), says(b)]
    for (const [at, value] of mine.entries()) {
      const other = theirs[at]!
      if (value !== other) return other > value ? 1 : -1
    }
    return a.id < b.id ? -1 : 1
  })
  return best ?? null
}

/** How many codes as long as this one a pattern covers, counting digits as ten and letters as 36; `null` when not this one. */
function codesCovered(pattern: string, postcode: string): number | null {
  const plain = (text: string) => text.toUpperCase().replace(/\s/g, '')
  const code = plain(postcode)
  const p = plain(pattern)
  if (code === '') return null
  const sign = (text: string) => (/^\d*$/.test(text) ? 10 : 36)
  if (p.endsWith('*')) {
    const start = p.slice(0, -1)
    return code.startsWith(start) ? sign(code) ** (code.length - start.length) : null
  }
  const [from, to] = p.split('-')
  if (from && to && from.length === to.length) {
    const head = code.slice(0, from.length)
    if (head.length < from.length || head < from || head > to) return null
    const base = /^\d+$/.test(from + to) ? 10 : 36
    return (parseInt(to, base) - parseInt(from, base) + 1) * sign(code) ** (code.length - from.length)
  }
  return code === p ? 1 : null
}

/** What each tax comes to in parts of the net, those it is on top of counted in. */
export function partsOfNet(charged: readonly Charged[]): readonly Rational[] {
  const parts = new Map<string, Rational>()
  return charged.map(({ tax, rate }) => {
    const base = tax.upon.reduce((sum, id) => sum.plus(parts.get(id) ?? 0), Rational.of(1))
    const part = base.times(rate.percent).div(100)
    parts.set(tax.id, part)
    return part
  })
}

/** 1 + what all taxes together come to. */
export function grossFactor(charged: readonly Charged[]): Rational {
  return partsOfNet(charged).reduce((sum, part) => sum.plus(part), Rational.of(1))
}
