/** What a review shows, as its address says. */
export interface ReviewShown {
  readonly tab: ReviewTab
  /** Key of the class that is opened. */
  readonly who: string | null
  readonly isWhole: boolean
  /** The price that is opened: a SKU and a quantity. */
  readonly sku: string | null
  readonly quantity: number
  /** What each price counts: once, or as often as it was sold. */
  readonly counts: 'once' | 'sold'
}

const REVIEW_TABS = ['pays', 'sees', 'contracts', 'changes'] as const
export type ReviewTab = (typeof REVIEW_TABS)[number]

const FIRST: ReviewShown = { tab: 'pays', who: null, isWhole: false, sku: null, quantity: 1, counts: 'once' }

/** Holds  `parseReview(serializeReview(shown))` is `shown`. */
export function parseReview(fields: Readonly<Record<string, string | undefined>>): ReviewShown {
  const quantity = Number(fields['from'])
  return {
    tab: REVIEW_TABS.find((tab) => tab === fields['show']) ?? FIRST.tab,
    who: fields['who'] ?? null,
    isWhole: fields['all'] === '1',
    sku: fields['sku'] ?? null,
    quantity: Number.isFinite(quantity) && quantity > 0 ? quantity : 1,
    counts: fields['counts'] === 'sold' ? 'sold' : 'once',
  }
}

/** The address of a draft's review, with nothing opened. */
export function reviewAddress(code: string): string {
  return `/drafts/${encodeURIComponent(code)}`
}

/** An address with what it shows. */
export function reviewHref(address: string, shown: Partial<ReviewShown>): string {
  const [path = '', query] = address.split('?')
  const fields = new URLSearchParams(query)
  const { tab, who, isWhole, sku, quantity, counts } = { ...FIRST, ...shown }
  if (tab !== FIRST.tab) fields.set('show', tab)
  if (who !== null) fields.set('who', who)
  if (isWhole) fields.set('all', '1')
  if (sku !== null) fields.set('sku', sku)
  if (quantity !== 1) fields.set('from', String(quantity))
  if (counts !== 'once') fields.set('counts', counts)
  const text = fields.toString()
  return text === '' ? path : `${path}?${text}`
}
