import type { Decimal } from '@/core/decimal/decimal'
import type { What, WhatTerm } from '@/core/predicates/what'

/** Base prices from `from` up to below `to`; `null` leaves a side open. */
export interface PriceSpan {
  readonly from: Decimal | null
  readonly to: Decimal | null
}

type StockTerm = Extract<WhatTerm, { readonly kind: 'stock' }>
export type StockChoice = StockTerm['state'] | 'any'

/** The span of base prices a scope is narrowed to: what it leaves out below and above, or all that it names. */
export function priceSpanOf({ include, exclude }: What): PriceSpan {
  const [only] = include
  if (include.length === 1 && only?.kind === 'price-range') return { from: only.from, to: only.to }
  let span: PriceSpan = { from: null, to: null }
  for (const term of exclude) {
    if (isBelow(term)) span = { ...span, from: term.to }
    if (isAbove(term)) span = { ...span, to: term.from }
  }
  return span
}

/**
 * A scope narrowed to a span of base prices. Terms that are taken in add to each other, so that what is outside the
 * span is left out; where nothing else is taken in, the span itself is.
 */
export function withPriceSpan(what: What, { from, to }: PriceSpan): What {
  const { include, exclude } = withoutPriceSpan(what)
  if (from === null && to === null) return { include, exclude }
  if (include.length === 0) return { include: [{ kind: 'price-range', from, to }], exclude }
  const outside: WhatTerm[] = []
  if (from !== null) outside.push({ kind: 'price-range', from: null, to: from })
  if (to !== null) outside.push({ kind: 'price-range', from: to, to: null })
  return { include, exclude: [...exclude, ...outside] }
}

/** The same scope for any base price. */
export function withoutPriceSpan({ include, exclude }: What): What {
  return {
    include: include.length === 1 && include[0]?.kind === 'price-range' ? [] : include,
    exclude: exclude.filter((term) => !isBelow(term) && !isAbove(term)),
  }
}

function isBelow(
  term: WhatTerm,
): term is Extract<WhatTerm, { readonly kind: 'price-range' }> & { readonly to: Decimal } {
  return term.kind === 'price-range' && term.from === null && term.to !== null
}

function isAbove(
  term: WhatTerm,
): term is Extract<WhatTerm, { readonly kind: 'price-range' }> & { readonly from: Decimal } {
  return term.kind === 'price-range' && term.from !== null && term.to === null
}

/** The state of stock a scope is narrowed to. */
export function stockOf({ include, exclude }: What): StockChoice {
  const [only] = include
  if (include.length === 1 && only?.kind === 'stock') return only.state
  const out = exclude.find((term) => term.kind === 'stock')
  return out ? otherState(out.state) : 'any'
}

/** A scope narrowed to a state of stock: what is in the other is left out, as with a span of prices. */
export function withStock(what: What, stock: StockChoice): What {
  const { include, exclude } = withoutStock(what)
  if (stock === 'any') return { include, exclude }
  if (include.length === 0) return { include: [{ kind: 'stock', state: stock }], exclude }
  return { include, exclude: [...exclude, { kind: 'stock', state: otherState(stock) }] }
}

/** The same scope for any state of stock. */
export function withoutStock({ include, exclude }: What): What {
  return {
    include: include.length === 1 && include[0]?.kind === 'stock' ? [] : include,
    exclude: exclude.filter(({ kind }) => kind !== 'stock'),
  }
}

function otherState(state: StockTerm['state']): StockTerm['state'] {
  return state === 'in-stock' ? 'out-of-stock' : 'in-stock'
}
