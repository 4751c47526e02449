/** What stands in a sample cart, as it is typed. */
export interface SampleLine {
  readonly sku: string
  readonly quantity: string
}

/** An order that can be put into a sample cart. */
export interface SampleOrder {
  readonly name: string
  readonly lines: readonly SampleLine[]
}

/** One row of a sample cart; amounts are in the buyer's currency, as the store enters them. */
export interface SampleRow {
  readonly sku: string
  readonly name: string
  readonly href: string
  readonly quantity: string
  readonly each: string
  readonly before: string
  /** The number of the set each unit is in, from 1; of other promotions one mark for all it took. */
  readonly taken: readonly number[]
  /** How many more units were taken than are drawn. */
  readonly more: number
  /** What stands where nothing was taken. */
  readonly note: string
  readonly saved: string
  readonly pays: string
  readonly isGift: boolean
  readonly isIn: boolean
}

/** A set as it is drawn: each line's part of it, and what of it is saved, as shares of the whole. */
export interface SampleSet {
  readonly number: number
  readonly times: number
  readonly before: string
  readonly after: string
  /** From 0 to 1, of the set before. */
  readonly paid: number
}

export interface SampleCompetitor {
  readonly rank: number
  readonly name: string
  readonly href: string
  readonly offer: string
  readonly standing: string
  readonly isThis: boolean
  readonly isWinner: boolean
}

export interface SampleCartView {
  readonly buyer: string
  readonly basis: string
  readonly currency: string
  readonly rows: readonly SampleRow[]
  /** Delivery, and what is added or taken off for how one pays; empty where nothing is. */
  readonly charges: readonly { readonly name: string; readonly saved: string; readonly pays: string }[]
  readonly before: string
  readonly saved: string
  readonly total: string
  readonly sets: readonly SampleSet[]
  /** The margin of what the promotion takes or gives, in percent before and with it; `null` where no cost is known. */
  readonly margin: { readonly before: string; readonly now: string } | null
  /** What is sold below its cost then. */
  readonly belowCost: readonly string[]
  readonly competitors: readonly SampleCompetitor[]
  /** What keeps the promotion from saving anything here; empty where it does. */
  readonly why: string
  /** When it begins, where the vantage looks at another time: an instant, and how it is called. */
  readonly begins: { readonly on: string; readonly words: string } | null
}

export type SampleOutcome =
  { readonly ok: true; readonly view: SampleCartView } | { readonly ok: false; readonly problem: string }
