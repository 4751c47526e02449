import type { AgreedWith } from '@/sheet/price-lines/party'
import type { BuyerCode } from '@/core/buyers/buyer-code'
import type { Decimal } from '@/core/decimal/decimal'
import type { QuoteState, QuoteStepKind } from '@/core/quote/quote-event'
import type { WorkingOffer } from '@/server/quotes/quote-shape'

/** What a line of an offer comes to, as it is written. Percents have one digit. */
export interface LineFigures {
  readonly name: string
  readonly productHref: string | null
  readonly their: Decimal | null
  readonly price: Decimal | null
  readonly cost: Decimal | null
  /** How far the price stands from theirs. */
  readonly toTheirs: Decimal | null
  readonly margin: Decimal | null
  readonly total: Decimal | null
  /** Whether it leaves less margin than needs no approval. */
  readonly isBelow: boolean
  /** How many can still be promised; `null` where nobody counts. */
  readonly stock: Decimal | null
  /** What is wrong with it; empty where nothing is. */
  readonly problem: string
}

/** What a whole offer comes to, as it is written; sums are `null` while a line is wrong. */
export interface OfferFigures {
  readonly lines: readonly LineFigures[]
  readonly atTheirs: Decimal | null
  readonly goods: Decimal | null
  readonly delivery: Decimal | null
  readonly taxes: readonly { readonly label: string; readonly amount: Decimal }[]
  readonly total: Decimal | null
  /** Goods without tax less what they cost; `null` where a cost is not known. */
  readonly earned: Decimal | null
  readonly margin: Decimal | null
}

/** What was said and done, as it is read. */
export interface QuoteNote {
  readonly who: string
  readonly when: string
  readonly text: string
  /** Whether the buyer does not see it. */
  readonly isInternal: boolean
}

export interface QuoteView {
  readonly number: number
  readonly name: string
  readonly version: number
  readonly workingVersion: number
  readonly state: QuoteState
  readonly buyer: string
  readonly buyerHref: string | null
  /** Code the board looks as them by. */
  readonly as: BuyerCode
  readonly email: string
  readonly about: string
  readonly deliverTo: string
  readonly currency: string
  readonly digits: number
  readonly priceDigits: number
  readonly basis: 'net' | 'gross'
  readonly asked: readonly {
    readonly quantity: Decimal
    readonly wish: Decimal | null
    readonly variant: string
  }[]
  readonly neededBy: string
  readonly working: WorkingOffer
  readonly figures: OfferFigures
  readonly notes: readonly QuoteNote[]
  /** What came with the request. */
  readonly files: readonly { readonly id: string; readonly name: string; readonly size: number }[]
  readonly steps: readonly QuoteStepKind[]
  /** Each offer that was sent, the first first. */
  readonly offers: readonly {
    readonly when: string
    readonly who: string
    readonly total: string
    /** What changed since the one before, in words. */
    readonly changes: readonly string[]
  }[]
  /** Percent below which somebody has to approve; `null` for never. */
  readonly least: Decimal | null
  readonly order: number | null
  /** Where the offered prices can be kept; none for a guest. */
  readonly keepers: readonly { readonly party: AgreedWith; readonly name: string }[]
  /** Where the offered prices were kept, as a draft; `null` where nowhere. */
  readonly keptIn: { readonly draft: string; readonly list: string } | null
  readonly today: string
}

/** What is worth knowing of one line while a price for it is thought about. */
export interface LineAbout {
  readonly paid: readonly {
    readonly order: number
    readonly when: string
    readonly quantity: Decimal
    readonly unit: Decimal
  }[]
  readonly others: readonly {
    readonly quote: number
    readonly buyer: string
    readonly when: string
    readonly about: string
  }[]
  /** How far down it could go, the highest first. */
  readonly down: readonly { readonly what: string; readonly href: string | null; readonly price: Decimal }[]
  /** From how many on they would pay less anyway. */
  readonly breaks: readonly { readonly from: Decimal; readonly unit: Decimal }[]
  readonly mind: readonly string[]
}
