import { decimal } from '@/core/decimal/decimal'
import type { PriceMethod } from '@/core/price/price-list'
import type { WhatTerm } from '@/core/predicates/what'
import type { WhoTerm } from '@/core/predicates/who'
import type { RoundingRule } from '@/core/decimal/rounding'
import { applyChanges, type Change, emptyStore, type RecordOfKind, type Store } from '@/core/store/store'

/** How large a generated store is. */
export interface StoreSize {
  readonly variants: number
  readonly lists: number
  readonly linesPerList: number
}

const GROUPS = 12
const VARIANTS_PER_PRODUCT = 4

/** The same numbers every time: a small linear congruential generator (constants of Numerical Recipes). */
function numbers(seed: number): (below: number) => number {
  let state = seed
  return (below) => {
    state = (Math.imul(state, 1_664_525) + 1_013_904_223) >>> 0
    return Math.floor((state / 2 ** 32) * below)
  }
}

/** A made-up store of any size, the same every time: every kind of line, rounding and audience in it. */
export function largeStore({ variants, lists, linesPerList }: StoreSize): Store {
  const pick = numbers(20_270_401)
  const cents = (least: number, most: number) => decimal(((least + pick(most - least)) / 100).toFixed(2))
  const products = Math.ceil(variants / VARIANTS_PER_PRODUCT)
  const branches = 120
  const unset = { cost: null, recommendedPrice: null, weight: null }

  const method = (): PriceMethod => {
    const kind = pick(10)
    if (kind < 4) return { kind: 'fixed', amount: cents(100, 90_000) }
    if (kind < 9)
      return { kind: 'percent', percent: decimal((-pick(4000) / 100).toFixed(2)), reference: 'base' }
    return { kind: 'amount', amount: cents(-200, 0), reference: 'base' }
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
    const kind = pick(20)
    if (kind === 0) return { kind: 'category', category: `c${pick(branches)}`, descendants: true }
    if (kind < 4) return { kind: 'product', product: `p${pick(products)}` }
    return { kind: 'variant', variant: `v${pick(variants)}` }
  }
  const audience = (list: number): WhoTerm => {
    if (list % 10 === 0) return { kind: 'everyone' }
    return { kind: 'group', group: `g${list % GROUPS}` }
  }
  const made = <Kind extends keyof RecordOfKind>(
    kind: Kind,
    count: number,
    make: (at: number) => RecordOfKind[Kind],
  ): Change[] =>
    Array.from({ length: count }, (_, at) => {
      const after = make(at)
      return { kind, id: after.id, before: null, after } as unknown as Change
    })

  return applyChanges(emptyStore(), [
    ...made('settings', 1, () => ({
      id: 'settings',
      name: 'Large',
      currency: 'EUR',
      priceDigits: 2,
      timeZone: 'UTC',
      country: 'IE',
    })),
    ...made('category', branches, (at) => ({
      id: `c${at}`,
      code: `c${at}`,
      name: `Branch ${at}`,
      parent: at < 8 ? null : `c${at % 8}`,
      position: at,
    })),
    ...made('group', GROUPS, (at) => ({
      id: `g${at}`,
      code: `g${at}`,
      name: `Group ${at}`,
      trade: at % 2 === 0,
      position: at,
    })),
    ...made('product', products, (at) => ({
      ...unset,
      id: `p${at}`,
      code: `P${at}`,
      name: `Product ${at}`,
      description: '',
      picture: 'box',
      unit: 'each',
      status: 'active' as const,
      categories: pick(5) === 0 ? [`c${8 + pick(branches - 8)}`, `c${pick(8)}`] : [`c${pick(branches)}`],
      attributes: {},
      axes: ['size'],
      basePrice: cents(100, 100_000),
    })),
    ...made('variant', variants, (at) => ({
      ...unset,
      id: `v${at}`,
      sku: `V${at}`,
      product: `p${Math.floor(at / VARIANTS_PER_PRODUCT)}`,
      options: { size: String(at % VARIANTS_PER_PRODUCT) },
      position: at % VARIANTS_PER_PRODUCT,
      basePrice: pick(3) === 0 ? cents(100, 100_000) : null,
    })),
    ...made('price-list', lists, (at) => ({
      id: `l${at}`,
      code: `L${at}`,
      name: `List ${at}`,
      purpose: 'level' as const,
      state: 'on' as const,
      audience: { include: [audience(at)], exclude: [] },
      rank: 1 + Math.floor(at / GROUPS),
      defaultLine: at % 17 === 16 ? method() : null,
      rounding: rounding(),
    })),
    ...made('price-line', lists * linesPerList, (at) => ({
      id: `n${at}`,
      list: `l${at % lists}`,
      position: Math.floor(at / lists),
      scope: { include: [scope()], exclude: [] },
      method: method(),
      rounding: null,
    })),
  ])
}
