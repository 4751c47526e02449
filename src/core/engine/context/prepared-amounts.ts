/** One amount of every item in one currency, each computed when first asked for. */
export interface Amounts {
  /** In smallest units, by number; NaN where there is none, −1 where it is not known yet. */
  readonly values: Float64Array
  readonly compute: (number: number) => number
  /** Whether no value is missing any more. */
  isComplete: boolean
}
