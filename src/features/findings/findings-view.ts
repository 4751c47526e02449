import type { BuyerCode } from '@/core/buyers/buyer-code'
import type { FindingGroup } from '@/core/finding/finding'

export interface CaseRow {
  readonly who: string
  readonly as: BuyerCode | null
  readonly title: string
  readonly sku: string
  readonly price: string
  /** What it is compared with: the cost, or what guests pay. */
  readonly beside: string
  /** What it would become; empty where nothing is put right at once. */
  readonly fixed: string
}

export interface FindingRow {
  readonly key: string
  readonly group: FindingGroup
  readonly count: number
  readonly sentence: string
  readonly cause: { readonly name: string; readonly href: string | null }
  readonly place: string
  /** What putting it right is called; empty where a person has to decide. */
  readonly fix: string
  /** Told where it is opened. */
  readonly cases: readonly CaseRow[] | null
  readonly muted: { readonly reason: string; readonly until: string; readonly by: string } | null
}

export interface FindingsView {
  readonly rows: readonly FindingRow[]
  /** How many are at each place, and how many are muted. */
  readonly places: readonly { readonly place: string; readonly count: number }[]
  readonly mutedCount: number
  readonly all: number
  readonly shown: { readonly place: string | null; readonly open: string | null; readonly muted: boolean }
  readonly about: string
  /** Where a fix goes: into the draft looked through, or into a new one. */
  readonly draft: string | null
  readonly live: boolean
}
