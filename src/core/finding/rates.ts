import { findConversion, rateTable } from '../currency/currency'
import { leviesOf } from '../engine/rules/find-tax'
import { openPricingContext } from '../engine/price/open-pricing-context'
import type { Steps } from '../steps/steps'
import { getSettings } from '../store/store'
import { aboutRecord, type Finding, type FindingKind, type Looking } from './finding'

const DAY = 86_400_000

/** Rates too old to be trusted, and currencies of places that are served without one. */
export const RATE_FINDINGS: FindingKind = {
  code: 'stale-rate',
  looksAt: ['currency', 'exchange-rate', 'region', 'settings'],
  *find({ prepared: { store }, at }: Looking): Steps<readonly Finding[]> {
    yield
    const home = getSettings(store).currency
    const table = rateTable(store['exchange-rate'].values(), at)
    return [...store.currency.values()].flatMap((currency): readonly Finding[] => {
      if (currency.status !== 'active' || currency.code === home) return []
      const cause = { kind: 'currency', id: currency.id } as const
      const conversion = findConversion(table, home, home, currency)
      if (!conversion) return [aboutRecord('no-exchange-rate', 'wrong-for-buyers', cause)]
      const oldest = Math.min(...conversion.rates.map(({ from }) => Date.parse(from)))
      const days = Math.floor((at - oldest) / DAY)
      if (currency.ageLimit === null || days <= currency.ageLimit) return []
      return [
        aboutRecord('stale-rate', 'soon', cause, { days: String(days), limit: String(currency.ageLimit) }),
      ]
    })
  },
}

/** Classes of goods without a rate in a place that is served. */
export const TAX_FINDINGS: FindingKind = {
  code: 'no-tax-rate',
  looksAt: ['tax', 'tax-rate', 'tax-class', 'region', 'settings', 'product', 'variant', 'channel'],
  *find({ prepared, at }: Looking): Steps<readonly Finding[]> {
    yield
    const { store } = prepared
    if (store.tax.size === 0) return []
    const used = new Set<string>()
    for (const { taxClass } of [...store.product.values(), ...store.variant.values()])
      if (taxClass !== null) used.add(taxClass)
    const usual = getSettings(store).taxClass
    if (usual !== null) used.add(usual)
    const findings: Finding[] = []
    for (const region of store.region.values()) {
      if (region.status !== 'active') continue
      for (const land of region.countries) {
        const [country = '', state = ''] = land.split('-')
        const opened = openPricingContext(prepared, {
          buyer: { kind: 'guest' },
          channel: null,
          deliverTo: { country, state, postcode: '', city: '' },
          currency: null,
          passcode: null,
          at,
        })
        if (!opened.ok) continue
        // Where nothing is taxed at all, the merchant has no duty there.
        const taxed = [...used].filter((id) => leviesOf(prepared, opened.value, id).levies.length > 0)
        if (taxed.length === 0) continue
        for (const id of used) {
          if (taxed.includes(id)) continue
          const found = aboutRecord('no-tax-rate', 'untidy', { kind: 'tax-class', id }, { place: land })
          findings.push({ ...found, key: `${found.key}/${land}` })
        }
      }
    }
    return findings
  },
}
