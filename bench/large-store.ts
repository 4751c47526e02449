import type { Decimal } from '@/core/decimal/decimal'
import { decimal } from '@/core/decimal/decimal'
import type { RoundingRule } from '@/core/decimal/rounding'
import type { RecordKind } from '@/core/issue/issue'
import type { WhatTerm } from '@/core/predicates/what'
import { ALWAYS } from '@/core/predicates/when'
import type { WhoTerm } from '@/core/predicates/who'
import { type Breaks, forAnyQuantity, type PriceMethod } from '@/core/price/lines/price-method'
import { RECORD_DEFAULTS } from '@/core/store/record-defaults'
import { emptyStore, type RecordOfKind, type Store } from '@/core/store/store'

/** How large a generated store is. */
export interface StoreSize {
  readonly variants: number
  readonly lists: number
  readonly linesPerList: number
  readonly accounts: number
}

export const GROUPS = 12
const VARIANTS_PER_PRODUCT = 4
const BRANCHES = 120

/** The same numbers every time: a small linear congruential generator (constants of Numerical Recipes). */
export function numbers(seed: number): (below: number) => number {
  let state = seed
  return (below) => {
    state = (Math.imul(state, 1_664_525) + 1_013_904_223) >>> 0
    return Math.floor((state / 2 ** 32) * below)
  }
}

/**
 * A made-up store of any size, the same every time: every kind of line, rounding and audience the SQL query it is
 * held against can also compute, a tenth of the lines with quantity breaks, a tenth of the lists dated.
 */
export function largeStore({ variants, lists, linesPerList, accounts }: StoreSize): Store {
  const pick = numbers(20_270_401)
  const cents = (least: number, most: number) => decimal(((least + pick(most - least)) / 100).toFixed(2))
  const products = Math.ceil(variants / VARIANTS_PER_PRODUCT)
  // As a store read from its database: one text an id, however often it is spoken of.
  const named = (prefix: string, count: number) => Array.from({ length: count }, (_, at) => `${prefix}${at}`)
  const ids = { v: named('v', variants), p: named('p', products), l: named('l', lists) }

  const method = (): PriceMethod => {
    const kind = pick(10)
    if (kind < 4) return { kind: 'fixed', amount: cents(100, 90_000) }
    if (kind < 9)
      return {
        kind: 'percent',
        percent: decimal((-pick(4000) / 100).toFixed(2)),
        reference: { kind: 'base' },
      }
    return { kind: 'amount', amount: cents(-200, 0), reference: { kind: 'base' } }
  }
  const breaks = (): Breaks => {
    if (pick(10) > 0) return forAnyQuantity(method())
    return {
      counting: 'variant',
      pricing: 'all-units',
      breaks: ['0', '10', '50']
        .slice(0, 2 + pick(2))
        .map((from) => ({ from: from as Decimal, method: method() })),
    }
  }
  const rounding = (): RoundingRule | null => {
    const kind = pick(4)
    if (kind === 0) return { kind: 'step', step: decimal('0.05'), mode: 'half-up' }
    if (kind === 1)
      return {
        kind: 'endings',
        period: decimal(1),
        endings: [decimal('0.45'), decimal('0.95')],
        mode: 'nearest',
      }
    return null
  }
  const scope = (): WhatTerm => {
    const kind = pick(200)
    if (kind === 0) return { kind: 'category', category: `c${pick(BRANCHES)}`, descendants: true }
    if (kind < 16) return { kind: 'product', product: ids.p[pick(products)] as string }
    return { kind: 'variant', variant: ids.v[pick(variants)] as string }
  }
  const audience = (list: number): WhoTerm => {
    if (list % 50 === 0) return { kind: 'everyone' }
    if (list % 5 < 3) return { kind: 'account', account: `a${list % accounts}` }
    return { kind: 'group', group: `g${list % GROUPS}` }
  }
  const schedule = (list: number) => {
    if (list % 10 !== 3) return ALWAYS
    return list % 20 === 3
      ? { ...ALWAYS, from: '2027-01-01T00:00', to: '2027-06-01T00:00' }
      : { ...ALWAYS, from: '2027-06-01T00:00' }
  }
  const made = <Kind extends RecordKind>(
    count: number,
    make: (at: number) => RecordOfKind[Kind],
  ): ReadonlyMap<string, RecordOfKind[Kind]> => {
    const records = new Map<string, RecordOfKind[Kind]>()
    for (let at = 0; at < count; at += 1) {
      // Spreading gives nearly every record a shape of its own in the machine's eyes, which records read one field
      // after the other from a database do not have.
      const record = Object.fromEntries(Object.entries(make(at))) as unknown as RecordOfKind[Kind]
      records.set(record.id, record)
    }
    return records
  }

  return {
    ...emptyStore(),
    settings: made<'settings'>(1, () => ({
      ...RECORD_DEFAULTS.settings,
      name: 'Large',
      priceDigits: 2,
      currency: 'EUR',
    })),
    category: made<'category'>(BRANCHES, (at) => ({
      ...RECORD_DEFAULTS.category,
      id: `c${at}`,
      code: `c${at}`,
      name: `Branch ${at}`,
      parent: at < 8 ? null : `c${at % 8}`,
      position: at,
    })),
    group: made<'group'>(GROUPS, (at) => ({
      ...RECORD_DEFAULTS.group,
      id: `g${at}`,
      code: `g${at}`,
      name: `Group ${at}`,
      trade: at % 2 === 0,
      position: at,
    })),
    account: made<'account'>(accounts, (at) => ({
      ...RECORD_DEFAULTS.account,
      id: `a${at}`,
      code: `a${at}`,
      name: `Account ${at}`,
      groups: [`g${at % GROUPS}`],
    })),
    product: made<'product'>(products, (at) => ({
      ...RECORD_DEFAULTS.product,
      id: ids.p[at] as string,
      code: `P${at}`,
      name: `Product ${at}`,
      categories: pick(5) === 0 ? [`c${8 + pick(BRANCHES - 8)}`, `c${pick(8)}`] : [`c${pick(BRANCHES)}`],
      axes: ['size'],
      basePrice: cents(100, 100_000),
    })),
    variant: made<'variant'>(variants, (at) => ({
      ...RECORD_DEFAULTS.variant,
      id: ids.v[at] as string,
      sku: `V${at}`,
      product: ids.p[Math.floor(at / VARIANTS_PER_PRODUCT)] as string,
      options: { size: String(at % VARIANTS_PER_PRODUCT) },
      position: at % VARIANTS_PER_PRODUCT,
      basePrice: pick(3) === 0 ? cents(100, 100_000) : null,
    })),
    'price-list': made<'price-list'>(lists, (at) => ({
      ...RECORD_DEFAULTS['price-list'],
      id: ids.l[at] as string,
      code: `L${at}`,
      name: `List ${at}`,
      purpose: 'level',
      currency: 'EUR',
      audience: { include: [audience(at)], exclude: [] },
      schedule: schedule(at),
      rank: 1 + Math.floor(at / GROUPS),
      defaultLine: at % 17 === 16 ? breaks() : null,
      rounding: rounding(),
    })),
    'price-line': made<'price-line'>(lists * linesPerList, (at) => ({
      ...RECORD_DEFAULTS['price-line'],
      id: `n${at}`,
      list: ids.l[at % lists] as string,
      position: Math.floor(at / lists),
      scope: { include: [scope()], exclude: [] },
      ...breaks(),
    })),
  }
}
