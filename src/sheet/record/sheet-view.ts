import type { Vantage } from '@/core/engine/context/vantage'
import type { What } from '@/core/predicates/what'
import type { Where } from '@/core/predicates/where'
import type { Who } from '@/core/predicates/who'
import type { HistoryLine } from '@/ui/format/history-line'
import type { ChoiceSource } from '@/ui/picker/records/record-choices'
import type { ControlKind } from '../fields/control-kind'
import type { EditableKind } from './sections'

/** One field of a record as its sheet shows it: a word that opens the control that changes it. */
export interface FieldView {
  readonly field: string
  readonly name: string
  readonly hint: string
  /** As it is typed. */
  readonly text: string
  /** What the text means. */
  readonly phrase: string
  readonly control: ControlKind
  readonly chooses: { readonly from: ChoiceSource; readonly many: boolean } | null
  readonly options: readonly { readonly value: string; readonly name: string }[]
  /** Of a field that is an audience, a scope, a place or an assortment. */
  readonly who: Who | null
  readonly what: What | null
  readonly where: Where | null
  /** What it says in the store, where something else is being tried. */
  readonly before: string | null
}

/** A word of a sentence that opens the control of its field. */
export interface SentenceWord {
  readonly field: string
  readonly words: string
}

/** A rule as a sentence: plain text, and words that can be changed. */
export type Sentence = readonly (string | SentenceWord)[]

/** What every sheet shows of its record, whatever the kind. */
export interface SheetView {
  readonly kind: EditableKind
  /** Empty for a record that is being made. */
  readonly id: string
  readonly label: string
  readonly title: string
  /** Behind the title, in small: "adjustment · switched on". */
  readonly about: string
  /** What is worth knowing at once: "ends in 12 days". */
  readonly flag: string
  readonly sentence: Sentence
  /** What is set seldom, in a line of its own. */
  readonly details: Sentence
  readonly fields: readonly FieldView[]
  /** What is typed and not saved, by field. */
  readonly texts: Readonly<Record<string, string>>
  /** What is wrong with it, by field. */
  readonly problems: Readonly<Record<string, string>>
  /** Why it could not be saved as it stands; empty when it could. */
  readonly refusal: string
  readonly copyOf: string | null
  /** Whether it is archived, or a contract that has ended. */
  readonly archived: boolean
  readonly revision: number | null
  readonly live: boolean
  readonly vantage: Vantage
  readonly asOf: number
  readonly history: readonly HistoryLine[]
}
