import type { Decimal } from '@/core/decimal/decimal'

/** What a typed row comes to for this buyer. */
export type ResolvedRow =
  | { readonly kind: 'empty' }
  | {
      readonly kind: 'ready'
      readonly sku: string
      readonly name: string
      readonly picture: string
      /** `null` where they see no price. */
      readonly unit: Decimal | null
      readonly total: Decimal | null
      /** What is worth knowing of the price; empty where nothing is. */
      readonly note: string
    }
  | {
      readonly kind: 'wrong'
      readonly sku: string
      readonly name: string
      readonly picture: string
      readonly unit: Decimal | null
      readonly problem: string
      /** Quantities that would do. */
      readonly fixes: readonly Decimal[]
    }
  | {
      readonly kind: 'unknown'
      /** What may be meant, of what they are shown. */
      readonly near: readonly { readonly sku: string; readonly name: string }[]
    }

/** A whole quick order, row by row. */
export interface ResolvedOrder {
  readonly rows: readonly ResolvedRow[]
  /** What all rows that are ready come to, as prices show; `null` where a price is not shown. */
  readonly total: Decimal | null
  readonly currency: string
  readonly digits: number
  readonly priceDigits: number
  /** What stands behind the prices. */
  readonly words: string
  /** Whether a quote can be asked for on some of it. */
  readonly mayAsk: boolean
  /** What keeps the order as a whole from being placed: a minimum of a contract, a limit over several lines. */
  readonly notes: readonly string[]
}
