import type { Issue } from '@/core/issue/issue'
import type { MatchingProblem } from './import-field'

/** How far an import has come. */
export type ImportState =
  /** Columns are being matched; `problem` says why they cannot be read. */
  | { readonly step: 'matching'; readonly problem: MatchingProblem | null }
  | { readonly step: 'reading' | 'checking' | 'writing'; readonly done: number; readonly of: number }
  /** What would change is there to be looked at; `notice` says why nothing was written. */
  | {
      readonly step: 'preview'
      readonly notice: 'store-changed' | 'nothing' | 'cancelled' | 'drafts-only' | null
    }
  | { readonly step: 'refused'; readonly issues: readonly Issue[] }
  | { readonly step: 'done'; readonly changeSet: number; readonly rows: number }
  | { readonly step: 'broken'; readonly message: string }
