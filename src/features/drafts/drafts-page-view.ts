import type { ChangeWords } from '@/sheet/effect/change-words'

export interface OpenDraftRow {
  readonly code: string
  readonly name: string
  readonly author: string
  readonly since: string
  readonly changes: number
  readonly conflicts: number
  /** How many hold live and not in the draft. */
  readonly brokenProofs: number
  readonly planned: string
  readonly failure: string
}

export interface HistoryRow {
  readonly id: number
  readonly when: string
  /** To look at the minute before it. */
  readonly before: string
  /** What it changed for whom. */
  readonly moved: string
  readonly author: string
  readonly note: string
  readonly records: number
  /** Whether it still counts, so that it can be undone. */
  readonly isUndone: boolean
  readonly isFirst: boolean
  /** What it did, where it is opened. */
  readonly changes: readonly ChangeWords[] | null
}

export interface DraftsPageView {
  readonly drafts: readonly OpenDraftRow[]
  readonly history: readonly HistoryRow[]
  /** The number to go on from; `null` at the beginning of the history. */
  readonly older: number | null
  readonly isFirstPage: boolean
}
