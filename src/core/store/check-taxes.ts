import { findReferenceCycle } from '../price/lines/price-references'
import type { Issue } from '../issue/issue'
import type { TaxRate } from '../tax/tax'
import { labelOf } from './references'
import type { Change, Store } from './store'

/** Rates that say two things at once, and taxes that come to be charged upon themselves, as far as the changes are the reason. */
export function checkTaxes(next: Store, changes: readonly Change[]): readonly Issue[] {
  const rates = changes.flatMap((change) =>
    change.kind === 'tax-rate' && change.after !== null ? [change.after] : [],
  )
  const taxes = changes.flatMap((change) =>
    change.kind === 'tax' && change.after !== null ? [change.after] : [],
  )
  const issues: Issue[] = []
  if (rates.length > 0) {
    const alike = new Map<string, TaxRate[]>()
    for (const rate of next['tax-rate'].values()) {
      const key = rateKey(rate)
      const known = alike.get(key)
      if (known) known.push(rate)
      else alike.set(key, [rate])
    }
    for (const rate of rates) {
      const other = alike.get(rateKey(rate))?.find((each) => each.id !== rate.id && overlaps(each, rate))
      if (!other) continue
      issues.push({
        code: 'overlap',
        kind: 'tax-rate',
        label: labelOf('tax-rate', rate),
        field: 'from',
        value: span(rate),
        expected: `${other.percent} % ${span(other)}`,
      })
    }
  }
  for (const tax of taxes) {
    const cycle = findReferenceCycle(tax.id, (id) => next.tax.get(id)?.upon ?? [])
    if (!cycle) continue
    const names = cycle.map((id) => next.tax.get(id)?.code ?? id).join(' › ')
    issues.push({ code: 'cycle', kind: 'tax', label: tax.code, field: 'upon', value: names, expected: null })
  }
  return issues
}

function rateKey({ tax, taxClass, country, state, postcode, city }: TaxRate): string {
  return [tax, taxClass ?? '', country, state, postcode, city.toLowerCase()].join('\t')
}

/** Local dates compare like their texts. */
function overlaps(left: TaxRate, right: TaxRate): boolean {
  return (
    (left.to === null || right.from === null || right.from < left.to) &&
    (right.to === null || left.from === null || left.from < right.to)
  )
}

function span({ from, to }: TaxRate): string {
  if (from === null && to === null) return 'always'
  if (to === null) return `from ${from?.slice(0, 10)}`
  return from === null ? `until ${to.slice(0, 10)}` : `${from.slice(0, 10)}–${to.slice(0, 10)}`
}
