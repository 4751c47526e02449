const REPRICE_TABS = ['all', 'outliers', 'same', 'problems'] as const
export type RepriceTab = (typeof REPRICE_TABS)[number]

/** What is repriced and how, as the address says; all of it in codes and words people can read. */
export interface RepriceShown {
  /** A scope as text; empty is everything. */
  readonly of: string
  /**
   * `low-margin`, `never-sold`, `sold`, `unchanged`, `has:NAME=VALUE` for an attribute, or `in:CODE` for what a price list speaks
   * of; empty for all of it.
   */
  readonly only: string
  /** `basePrice`, `basePrice@GBP` for one set in a currency, or `list:CODE` for the fixed prices of a list. */
  readonly field: string
  /** What the rule starts from; empty for the amount itself. */
  readonly from: string
  /** `+5%`, or steps by what an amount is now: `+5%; 20: +4%; 60: +3%`. */
  readonly rule: string
  /** As roundings are typed; empty for the digits of the currency. */
  readonly rounding: string
  readonly tab: RepriceTab
  readonly sort: 'change' | 'name' | 'price'
  readonly page: number
}

/** What `repriceHref` wrote into the address; what is not understood is left as usual. */
export function parseReprice(fields: Readonly<Record<string, string | undefined>>): RepriceShown {
  const { show, sort, page } = fields
  return {
    of: fields['of'] ?? '',
    only: fields['only'] ?? '',
    field: fields['field'] ?? 'basePrice',
    from: fields['from'] ?? '',
    rule: fields['rule'] ?? '',
    rounding: fields['ending'] ?? '',
    tab: REPRICE_TABS.find((tab) => tab === show) ?? 'all',
    sort: sort === 'name' || sort === 'price' ? sort : 'change',
    page: page !== undefined && /^\d{1,6}$/.test(page) ? Number(page) : 0,
  }
}

export function repriceHref(shown: Partial<RepriceShown>): string {
  const { of, only, field, from, rule, rounding, tab, sort, page } = { ...parseReprice({}), ...shown }
  const fields = new URLSearchParams()
  const put = (name: string, value: string, usual: string) => {
    if (value !== usual) fields.set(name, value)
  }
  put('of', of, '')
  put('only', only, '')
  put('field', field, 'basePrice')
  put('from', from, '')
  put('rule', rule, '')
  put('ending', rounding, '')
  put('show', tab, 'all')
  put('sort', sort, 'change')
  put('page', String(page), '0')
  const text = fields.toString()
  return text === '' ? '/reprice' : `/reprice?${text}`
}
