import type { Issue } from '@/core/issue/issue'

/** A field a row changes. */
export interface RowEffect {
  readonly field: string
  readonly before: string
  readonly after: string
  /** Digits an amount is shown with; absent for a text. */
  readonly digits?: number
}

/** Why a row cannot be imported. */
export type RowProblem =
  | { readonly code: 'no-key'; readonly fields: readonly string[] }
  | { readonly code: 'repeated'; readonly field: string; readonly value: string; readonly row: number }
  | { readonly code: 'needed-when-new'; readonly field: string }
  | {
      readonly code: 'unknown'
      readonly field: string
      readonly value: string
      readonly nearest: string | null
    }
  | {
      readonly code: 'not-among'
      readonly field: string
      readonly value: string
      readonly allowed: readonly string[]
    }
  | { readonly code: 'other-product'; readonly sku: string; readonly product: string; readonly typed: string }
  | {
      readonly code: 'differs'
      readonly field: string
      readonly value: string
      readonly other: string
      readonly row: number
    }
  | { readonly code: 'option-absent'; readonly axis: string }
  | { readonly code: 'option-unknown'; readonly axis: string; readonly product: string }
  | { readonly code: 'options-alike'; readonly sku: string }
  | { readonly code: 'no-price' }
  | { readonly code: 'not-a-rule'; readonly value: string }
  | { readonly code: 'record'; readonly issue: Issue }

export type RowResult = 'new' | 'changed' | 'unchanged' | 'wrong' | 'left-out'

/** What importing one row of a file comes to. */
export interface RowOutcome {
  /** As a spreadsheet counts. */
  readonly number: number
  /** What the row is about: a SKU, or a line's item. */
  readonly label: string
  readonly result: RowResult
  readonly effects: readonly RowEffect[]
  readonly problems: readonly RowProblem[]
}

/** Gathers what is found out about each row while rows are read together. */
export class RowBook {
  private readonly entries = new Map<
    number,
    { label: string; isNew: boolean; effects: RowEffect[]; problems: RowProblem[] }
  >()

  open(number: number, label: string): void {
    this.entries.set(number, { label, isNew: false, effects: [], problems: [] })
  }

  markNew(number: number): void {
    this.entry(number).isNew = true
  }

  effect(number: number, effect: RowEffect): void {
    this.entry(number).effects.push(effect)
  }

  refuse(number: number, problem: RowProblem): void {
    this.entry(number).problems.push(problem)
  }

  isWrong(number: number): boolean {
    return this.entry(number).problems.length > 0
  }

  /** `leftOut` are rows somebody took out of the import. */
  outcomes(leftOut: ReadonlySet<number>): readonly RowOutcome[] {
    return [...this.entries]
      .sort(([left], [right]) => left - right)
      .map(([number, { label, isNew, effects, problems }]) => ({
        number,
        label,
        result: leftOut.has(number)
          ? 'left-out'
          : problems.length > 0
            ? 'wrong'
            : isNew
              ? 'new'
              : effects.length > 0
                ? 'changed'
                : 'unchanged',
        effects,
        problems,
      }))
  }

  private entry(number: number) {
    const entry = this.entries.get(number)
    if (!entry) throw new RangeError(`row ${number} was not opened`)
    return entry
  }
}
