import type { Decimal } from '../../decimal/decimal'

/** What a computed price starts from: an amount of the item, or its price in another list. */
export type PriceReference =
  | { readonly kind: 'base' }
  | { readonly kind: 'recommended' }
  | { readonly kind: 'cost' }
  | { readonly kind: 'list'; readonly list: string }

/**
 * How a line makes a price. Percent and amount are signed: −10 is ten off. Markup is on cost, margin of the
 * price: cost × (1 + markup), cost ÷ (1 − margin).
 *
 * Source  markup and margin: commercial arithmetic (checks.md §4.2).
 */
export type PriceMethod =
  | { readonly kind: 'fixed'; readonly amount: Decimal }
  | { readonly kind: 'percent'; readonly percent: Decimal; readonly reference: PriceReference }
  | { readonly kind: 'amount'; readonly amount: Decimal; readonly reference: PriceReference }
  | { readonly kind: 'markup'; readonly percent: Decimal }
  | { readonly kind: 'margin'; readonly percent: Decimal }

/** What a method holds on from a quantity on. */
export interface QuantityBreak {
  /** The first quantity it is for; 0 is any. */
  readonly from: Decimal
  readonly method: PriceMethod
}

/** Whose quantity a break counts: of the variant, of all variants of its product, of everything in the line's scope. */
export type BreakCounting = 'variant' | 'product' | 'line'

/** Whether a reached break prices all units or only those inside its bracket. */
export type BreakPricing = 'all-units' | 'graduated'

export interface Breaks {
  /** Rising, at least one. */
  readonly breaks: readonly QuantityBreak[]
  readonly counting: BreakCounting
  readonly pricing: BreakPricing
}

/** One method for any quantity. */
export function forAnyQuantity(method: PriceMethod): Breaks {
  return {
    breaks: [{ from: '0' as Decimal, method }],
    counting: 'variant',
    pricing: 'all-units',
  }
}

/** The one method of something without quantity breaks; `null` where the quantity matters. */
export function onlyMethod({ breaks }: Breaks): PriceMethod | null {
  const [first] = breaks
  return breaks.length === 1 && first?.from === '0' ? first.method : null
}

/** What a method starts from; `null` for a fixed amount. */
export function referenceOf(method: PriceMethod): PriceReference | null {
  switch (method.kind) {
    case 'fixed':
      return null
    case 'percent':
    case 'amount':
      return method.reference
    case 'markup':
    case 'margin':
      return { kind: 'cost' }
  }
}

/** Whether the result is a multiple of what it starts from, so that it can be computed in any currency. */
export function isProportional(method: PriceMethod): boolean {
  return method.kind === 'percent' || method.kind === 'markup' || method.kind === 'margin'
}
