import { type ItemFacts, matchWhat } from '../../predicates/what'
import type { PriceLine } from '../../price/lines/price-list'

/** A line that reaches an item. */
export interface Candidate {
  readonly line: number
  readonly specificity: number
}

/** A row of candidate lines for each key: those of key k stand at `starts[k]` up to `starts[k + 1]`. */
export interface CandidateRows {
  readonly starts: Int32Array
  readonly lines: Int32Array
  readonly specificities: Int32Array
}

/** The rows of keys 0 up to `count`. */
export function toRows(count: number, rowOf: (key: number) => readonly Candidate[]): CandidateRows {
  const starts = new Int32Array(count + 1)
  const lines: number[] = []
  const specificities: number[] = []
  for (let key = 0; key < count; key += 1) {
    for (const { line, specificity } of rowOf(key)) {
      lines.push(line)
      specificities.push(specificity)
    }
    starts[key + 1] = lines.length
  }
  return { starts, lines: Int32Array.from(lines), specificities: Int32Array.from(specificities) }
}

/** The lines among some that reach an item, most specific first. */
export function matching(
  lines: readonly PriceLine[],
  among: readonly number[],
  facts: ItemFacts,
): Candidate[] {
  const found: Candidate[] = []
  for (const line of among) {
    const match = matchWhat((lines[line] as PriceLine).scope, facts)
    if (match.matches) found.push({ line, specificity: match.specificity })
  }
  return found.sort((left, right) => right.specificity - left.specificity || left.line - right.line)
}
