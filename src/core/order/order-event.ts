import type { Decimal } from '../decimal/decimal'

/** So much of a line, by its position in the order. */
export interface LinePart {
  readonly line: number
  readonly quantity: Decimal
}

/** What can be done with an order. */
export type OrderStep =
  | { readonly kind: 'confirm' }
  /** Some of it, or all, is on its way. */
  | { readonly kind: 'send'; readonly parts: readonly LinePart[]; readonly tracking: string }
  | { readonly kind: 'invoice' }
  /** It is paid, and nothing is left to do. */
  | { readonly kind: 'close' }
  /** Whatever has not been sent will not be. */
  | { readonly kind: 'cancel'; readonly reason: string }
  /** Some of what was sent came back; `restocks` where it can be sold again. */
  | {
      readonly kind: 'return'
      readonly parts: readonly LinePart[]
      readonly reason: string
      readonly restocks: boolean
    }
  | { readonly kind: 'note'; readonly text: string }

export type OrderStepKind = OrderStep['kind']

/** A step that was taken, by whom and when. */
export interface OrderEvent {
  readonly step: OrderStep
  /** Epoch milliseconds. */
  readonly at: number
  readonly author: string
  /** Of the invoice, delivery note or credit note it made; `null` where it made none. */
  readonly document: number | null
}

/** How an order stands. */
export type OrderState =
  'placed' | 'confirmed' | 'sent-in-part' | 'sent' | 'invoiced' | 'closed' | 'cancelled'

export const ORDER_STATES: readonly OrderState[] = [
  'placed',
  'confirmed',
  'sent-in-part',
  'sent',
  'invoiced',
  'closed',
  'cancelled',
]
