import type { CartView } from '../cart/cart-view'

/** An order that waits for approval, or waited, as its account sees it. */
export interface RequestView {
  readonly id: number
  readonly who: string
  readonly when: string
  readonly state: 'waiting' | 'ordered' | 'turned-down'
  readonly decided: string
  readonly reason: string
  readonly order: number | null
  /** What it comes to now, line by line. */
  readonly cart: CartView
  readonly seen: string
  /** What it came to when it was asked for, where that is something else by now. */
  readonly before: string
  readonly goesTo: string
  readonly payment: 'card' | 'terms'
  readonly terms: string
  /** Whether whoever looks may decide. */
  readonly mayDecide: boolean
}
