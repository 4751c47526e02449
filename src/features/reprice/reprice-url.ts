import type { ReferenceField } from '@/core/catalogue/product'

export const REPRICE_FIELDS: Readonly<Record<ReferenceField, string>> = {
  basePrice: 'base price',
  cost: 'cost',
  recommendedPrice: 'recommended price',
  floor: 'floor',
}

const REPRICE_TABS = ['all', 'outliers', 'same', 'problems'] as const
export type RepriceTab = (typeof REPRICE_TABS)[number]

const REPRICE_FILTERS = ['', 'low-margin', 'never-sold', 'sold', 'unchanged'] as const
export type RepriceFilter = (typeof REPRICE_FILTERS)[number]

/** What is repriced and how, as the address says. */
export interface RepriceShown {
  /** A scope as text; empty is everything. */
  readonly of: string
  readonly only: RepriceFilter
  readonly field: ReferenceField
  readonly from: ReferenceField
  /** `+5%`, or steps by what an amount is now: `+5%; 20: +4%; 60: +3%`. */
  readonly rule: string
  /** As roundings are typed; empty for the digits of the currency. */
  readonly rounding: string
  readonly tab: RepriceTab
  readonly sort: 'change' | 'name' | 'price'
  readonly page: number
}

const isField = (text: string | undefined): text is ReferenceField =>
  text !== undefined && text in REPRICE_FIELDS

/** What `repriceHref` wrote into the address; what is not understood is left as usual. */
export function parseReprice(fields: Readonly<Record<string, string | undefined>>): RepriceShown {
  const { field, from, only, show, sort, page } = fields
  const chosen = isField(field) ? field : 'basePrice'
  return {
    of: fields['of'] ?? '',
    only: REPRICE_FILTERS.find((each) => each === only) ?? '',
    field: chosen,
    from: isField(from) ? from : chosen,
    rule: fields['rule'] ?? '',
    rounding: fields['ending'] ?? '',
    tab: REPRICE_TABS.find((tab) => tab === show) ?? 'all',
    sort: sort === 'name' || sort === 'price' ? sort : 'change',
    page: page !== undefined && /^\d{1,6}$/.test(page) ? Number(page) : 0,
  }
}

export function repriceHref(shown: RepriceShown): string {
  const { of, only, field, from, rule, rounding, tab, sort, page } = shown
  const fields = new URLSearchParams()
  const put = (name: string, value: string, usual: string) => {
    if (value !== usual) fields.set(name, value)
  }
  put('of', of, '')
  put('only', only, '')
  put('field', field, 'basePrice')
  put('from', from, field)
  put('rule', rule, '')
  put('ending', rounding, '')
  put('show', tab, 'all')
  put('sort', sort, 'change')
  put('page', String(page), '0')
  const text = fields.toString()
  return text === '' ? '/reprice' : `/reprice?${text}`
}
