import type { BuyerCode } from '@/core/buyers/buyer-code'
import type { Decimal } from '@/core/decimal/decimal'
import type { RecordKind } from '@/core/issue/issue'
import type { ChangeWords } from '@/sheet/effect/change-words'

/** One class of buyers whose prices move. */
export interface ClassRow {
  /** In the address, to open it. */
  readonly key: string
  readonly name: string
  readonly about: string
  readonly as: BuyerCode
  readonly currency: string | null
  readonly moved: number
  /** How far each price moves, in percent, rising; thinned where there are very many. */
  readonly percents: readonly number[]
  readonly median: number | null
  readonly marginBefore: Decimal | null
  readonly marginAfter: Decimal | null
  readonly breakEven: Decimal | null
  readonly belowCost: number
}

/** One price that moves. */
export interface CellRow {
  readonly sku: string
  readonly title: string
  /** "from 10" beyond the first piece. */
  readonly from: string
  readonly quantity: number
  readonly before: string
  readonly after: string
  readonly marginBefore: Decimal | null
  readonly marginAfter: Decimal | null
  readonly isBelowCost: boolean
  readonly isAbovePublic: boolean
}

export interface SeesRow {
  readonly name: string
  /** What happens, such as "no longer see". */
  readonly what: string
  readonly count: number
  readonly some: string
}

/** A change of a draft that live stands in the way of. */
export interface ConflictView {
  readonly record: { readonly kind: RecordKind; readonly id: string }
  readonly title: string
  readonly href: string | null
  readonly because: string
  /** Fields to settle one by one; empty for a record that is settled as a whole. */
  readonly fields: readonly {
    readonly field: string
    readonly name: string
    readonly mine: string
    readonly theirs: string
    /** Whether another value can be typed. */
    readonly isPlain: boolean
  }[]
  /** What keeping live, and keeping the draft's, comes to, for a record settled as a whole. */
  readonly whole: { readonly mine: string; readonly theirs: string } | null
}

interface BrokenProof {
  readonly sentence: string
  readonly href: string
  readonly found: string
  /** Whether it stops the publication. */
  readonly isBlocking: boolean
  /** Whether it is broken live, too: then this publication is not what breaks it, and is not stopped. */
  readonly isBrokenLive: boolean
}

export interface BelowCostRow {
  readonly who: string
  readonly title: string
  readonly price: string
  readonly cost: string
}

/** What moves for whom between two states of the store. */
export interface ImpactView {
  /** Where it is shown, without what is opened. */
  readonly address: string
  /** What the two states are called. */
  readonly names: readonly [before: string, after: string]
  readonly exportHref: string
  readonly moved: number
  readonly classCount: number
  /** How many prices stay while their cost is another one. */
  readonly costs: number
  readonly belowCost: number
  readonly abovePublic: number
  /** How many prices of each move, and fall below cost. */
  readonly contracts: readonly {
    readonly name: string
    readonly href: string
    readonly moved: number
    readonly below: number
  }[]
  readonly classes: readonly ClassRow[]
  readonly all: Omit<ClassRow, 'key' | 'name' | 'about' | 'as' | 'currency' | 'percents' | 'median'>
  /** The class that is opened, and its prices, worst first. */
  readonly opened: { readonly key: string; readonly rows: readonly CellRow[]; readonly more: number } | null
  readonly sees: readonly SeesRow[]
  readonly below: readonly BelowCostRow[]
  /** Limits and taxes of how many variants are others, by class. */
  readonly others: readonly string[]
}

export interface ReviewView extends ImpactView {
  readonly code: string
  readonly name: string
  readonly about: string
  readonly changes: readonly ChangeWords[]
  readonly conflicts: readonly ConflictView[]
  /** How many proofs hold, and those the draft breaks. */
  readonly proofs: { readonly holds: number; readonly broken: readonly BrokenProof[] }
  readonly planned: { readonly at: string; readonly text: string; readonly reason: string } | null
  readonly failure: string
  readonly timeZone: string
  readonly today: string
}
