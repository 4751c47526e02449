import type { Decimal } from '@/core/decimal/decimal'

/** An open draft, to be chosen. */
interface DraftChoice {
  readonly code: string
  readonly name: string
}

/** A draft in figures, as the bar shows it. */
export interface DraftFigures extends DraftChoice {
  readonly changes: number
  readonly moved: number
  /** In percent, of what moves; `null` without costs. */
  readonly marginBefore: Decimal | null
  readonly marginAfter: Decimal | null
  readonly belowCost: number
  readonly conflicts: number
  /** Proofs that hold live and not in it. */
  readonly brokenProofs: number
  /** When it is to be published, in the store's time; empty where nobody planned it. */
  readonly planned: string
  /** Why it was not published when it was to be; empty where nothing went wrong. */
  readonly failure: string
}

/** The open drafts, and the one that is looked through, or was begun last. */
export interface DraftsView {
  readonly drafts: readonly DraftChoice[]
  readonly current: DraftFigures | null
  /** The code of a draft that was wanted and is not there. */
  readonly missing: string | null
  /** Whether the past is looked at, where nothing can be changed. */
  readonly isPast: boolean
}
