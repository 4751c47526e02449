import type { Decimal } from '@/core/decimal/decimal'
import type { DeskContent } from '@/server/desk/desk-shape'

/** What a line of a desk order comes to. */
export interface DeskLineFigures {
  readonly name: string
  readonly productHref: string | null
  /** Of one; `null` without a price. */
  readonly unit: Decimal | null
  /** How it came about, in a few words. */
  readonly how: string
  readonly tax: string
  /** Of the whole line before promotions. */
  readonly total: Decimal | null
  /** What promotions took off it. */
  readonly less: readonly { readonly name: string; readonly amount: Decimal }[]
  readonly margin: Decimal | null
  readonly stock: Decimal | null
  readonly problem: string
  /** Which of its fields that is about; `null` without a problem. */
  readonly wrong: 'quantity' | 'price' | 'reason' | null
  /** A quantity that would do. */
  readonly fix: Decimal | null
}

/** Something free that comes with it. */
interface DeskGift {
  readonly name: string
  readonly sku: string
  readonly quantity: Decimal
  readonly promotion: string
}

export interface DeskOffer {
  readonly code: string
  readonly name: string
  readonly href: string
  readonly about: string
  readonly saves: Decimal
  /** `always` where nothing need be said to it. */
  readonly choice: 'open' | 'taken' | 'left' | 'always'
}

export interface DeskFigures {
  readonly currency: string
  readonly digits: number
  readonly priceDigits: number
  readonly basis: 'net' | 'gross'
  readonly lines: readonly DeskLineFigures[]
  readonly gifts: readonly DeskGift[]
  readonly offers: readonly DeskOffer[]
  readonly sums: readonly {
    readonly label: string
    readonly amount: Decimal
    readonly look?: 'soft' | 'bold'
  }[]
  readonly total: Decimal | null
  /** What was looked at when it is placed: `EUR 944.65`. */
  readonly seen: string
  readonly units: Decimal
  readonly weight: Decimal | null
  readonly margin: Decimal | null
  /** What keeps it from being placed, beside what stands on lines. */
  readonly problems: readonly string[]
  readonly limits: readonly {
    readonly name: string
    readonly href: string
    readonly about: string
    readonly isBroken: boolean
  }[]
}

/** What is known of who orders. */
export interface DeskBuyer {
  readonly name: string
  readonly href: string | null
  readonly about: string
  readonly people: readonly { readonly name: string; readonly email: string }[]
  readonly addresses: readonly string[]
  readonly terms: string
  readonly last: {
    readonly number: number
    readonly when: string
    readonly lines: readonly DeskContent['lines'][number][]
  } | null
  /** What they order again and again and is not in this one. */
  readonly regular: readonly {
    readonly sku: string
    readonly name: string
    readonly quantity: Decimal
    readonly unit: Decimal | null
    readonly about: string
  }[]
}

interface DeskState {
  /** `null` while nothing was written down. */
  readonly number: number | null
  readonly version: number
  readonly begun: string
  readonly content: DeskContent
  readonly figures: DeskFigures | null
  readonly buyer: DeskBuyer
}

export interface DeskView extends DeskState {
  readonly channels: readonly { readonly code: string; readonly name: string }[]
  /** Others that are begun and not finished. */
  readonly held: readonly { readonly number: number; readonly about: string }[]
}

/** An item that was found by what was typed, at the buyer's price. */
export interface DeskFound {
  readonly sku: string
  readonly name: string
  readonly unit: Decimal | null
  readonly how: string
  readonly tax: string
  readonly total: Decimal | null
}

/** What came of saving: the figures are of what was saved. */
export type DeskSaved =
  | {
      readonly ok: true
      readonly number: number
      readonly version: number
      readonly figures: DeskFigures | null
      readonly buyer: DeskBuyer
    }
  | { readonly ok: false; readonly problem: string }
