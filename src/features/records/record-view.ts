import type { BuyerCode } from '@/core/buyers/buyer-code'
import type { What } from '@/core/predicates/what'
import type { Who } from '@/core/predicates/who'
import type { Vantage } from '@/core/engine/vantage'
import type { HistoryLine } from '@/ui/format/history-line'
import type { EditableKind } from './sections'

/** One field of a record as a sheet shows it; every field is edited as text. */
export interface FieldView {
  readonly field: string
  readonly name: string
  readonly hint: string
  readonly text: string
  /** What the text means, where that is not the text itself. */
  readonly phrase: string
  readonly control: 'line' | 'lines' | 'choice' | 'who' | 'what'
  /** Of a field that is an audience, or a scope. */
  readonly who: Who | null
  readonly what: What | null
  readonly options: readonly { readonly value: string; readonly name: string }[]
}

/** A record of another kind that belongs to the story of this one. */
interface RelatedRow {
  readonly title: string
  readonly about: string
  readonly href: string | null
}

export interface RelatedTable {
  readonly title: string
  readonly about: string
  readonly rows: readonly RelatedRow[]
}

export interface RecordView {
  readonly kind: EditableKind
  /** Empty for a record that is being made. */
  readonly id: string
  readonly label: string
  readonly title: string
  /** What is worth knowing at once: "ends in 12 days". */
  readonly flag: string
  readonly fields: readonly FieldView[]
  readonly related: readonly RelatedTable[]
  /** Somebody to look as, or a place where the record's effect shows. */
  readonly links: readonly { readonly name: string; readonly href: string; readonly as: BuyerCode | null }[]
  /** How it is put away: archived, switched off, ended. */
  readonly archived: boolean
  readonly chart: RateChart | null
  readonly revision: number | null
  readonly live: boolean
  readonly vantage: Vantage
  readonly asOf: number
  readonly history: readonly HistoryLine[]
}

/** A currency's rates over time. */
export interface RateChart {
  readonly title: string
  readonly points: readonly { readonly at: string; readonly value: number }[]
}

interface RecordRow {
  readonly label: string
  readonly name: string
  /** In the order of the table's columns. */
  readonly cells: readonly string[]
  readonly flag: string
  readonly archived: boolean
  /** Steps below the top of a tree; 0 where there is none. */
  readonly depth: number
}

export interface RecordTableView {
  readonly columns: readonly string[]
  readonly rows: readonly RecordRow[]
  readonly live: boolean
}
