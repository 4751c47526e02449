import { typedAmount } from '@/core/decimal/written-amount'
import type { RoundingRule } from '@/core/decimal/rounding'
import { InputReader } from '@/core/issue/input-reader'
import { parseRounding } from '@/core/issue/parse-rounding'
import { readRounding } from '@/core/notation/rounding-text'
import {
  evaluatePriceExpression,
  parsePriceExpression,
  type PriceExpression,
} from '@/core/price/price-expression'
import { refusalSentence } from '@/ui/format/refusal-sentence'
import type { GridRange } from '@/ui/grid/grid-range'
import { editableCell, type FoundRow, type PastePlan } from './board-edits'
import type { BoardView } from '../board-view'

/** What is done to every price of a range: an expression, and how the result is rounded. */
export interface RangeRule {
  readonly expression: PriceExpression
  readonly rounding: RoundingRule | null
}

export type ReadRangeRule =
  { readonly ok: true; readonly value: RangeRule } | { readonly ok: false; readonly problem: string }

const HOW = 'Type +4%, -2, 19.90, x1.2 or m35, and a rounding behind it: +4% .90, +4% ends .49 .99, -5% 0.05.'

/** `+4% .90`: what each price becomes, and behind a blank how that is rounded. */
export function readRangeRule(text: string): ReadRangeRule {
  const [first = '', ...rest] = text.trim().split(/\s+/)
  const sign = /^[+\-−x×m]/i.exec(first)?.[0] ?? ''
  const isPercent = first.endsWith('%')
  const size = typedAmount(first.slice(sign.length).replace(/%$/, ''))
  const expression = parsePriceExpression(`${sign}${size}${isPercent ? '%' : ''}`)
  if (!expression.ok) return { ok: false, problem: `“${first}” is not a change of a price. ${HOW}` }
  if (rest.length === 0) return { ok: true, value: { expression: expression.value, rounding: null } }
  const read = readRounding(rest.join(' '))
  if (!read.ok) return { ok: false, problem: `“${rest.join(' ')}” is not a rounding. ${HOW}` }
  if (read.value === null) return { ok: true, value: { expression: expression.value, rounding: null } }
  const reader = new InputReader('price-list', '')
  const parsed = reader.result(parseRounding(reader, read.value, 6))
  return parsed.ok
    ? { ok: true, value: { expression: expression.value, rounding: parsed.value } }
    : { ok: false, problem: `“${rest.join(' ')}” rounds to nothing. ${HOW}` }
}

/** So many prices at once; more are repriced, or imported as a file. */
export const MOST_CHANGED = 2_000

/** What a rule would do to every price of a range that can be changed. A product's own row stays out: its variants follow. */
export function planRange(
  view: BoardView,
  { top, bottom, left, right }: GridRange,
  { expression, rounding }: RangeRule,
  rowAt: (row: number) => FoundRow,
): PastePlan {
  const changes: PastePlan['changes'][number][] = []
  const problems: PastePlan['problems'][number][] = []
  let unchanged = 0
  for (let row = top; row <= bottom; row += 1)
    for (let column = left; column <= right; column += 1) {
      const found = rowAt(row)
      if (found.place?.kind === 'product' && found.place.open) continue
      const cell = editableCell(view, found, column)
      if (!cell) continue
      const amount = evaluatePriceExpression(expression, { ...cell, rounding })
      if (!amount.ok) {
        const refusal = { code: 'expression', error: amount.error, typed: 'It', digits: cell.digits } as const
        problems.push({ label: cell.label, problem: refusalSentence(refusal) })
        continue
      }
      const after = amount.value
      if (after === cell.current) unchanged += 1
      else
        changes.push({
          label: cell.label,
          before: cell.current,
          after,
          digits: cell.digits,
          edit: cell.edit(after, cell.others.length > 0),
        })
    }
  if (changes.length > MOST_CHANGED) {
    const problem = `${changes.length} prices are too many at once (${MOST_CHANGED} at most). Choose fewer rows.`
    return { changes: [], unchanged, problems: [{ label: 'Chosen', problem }] }
  }
  return { changes, unchanged, problems }
}

/** Every price of a range takes over the one in its column's first row. */
export function planFillDown(view: BoardView, range: GridRange, rowAt: (row: number) => FoundRow): PastePlan {
  const plans: PastePlan[] = []
  for (let column = range.left; column <= range.right; column += 1) {
    const first = editableCell(view, rowAt(range.top), column)
    if (!first?.current) continue
    const rule: RangeRule = { expression: { kind: 'amount', amount: first.current }, rounding: null }
    plans.push(planRange(view, { ...range, top: range.top + 1, left: column, right: column }, rule, rowAt))
  }
  return {
    changes: plans.flatMap(({ changes }) => changes),
    unchanged: plans.reduce((sum, { unchanged }) => sum + unchanged, 0),
    problems: plans.flatMap(({ problems }) => problems),
  }
}

/** More cells than this are not counted one by one. */
const MOST_COUNTED = 5_000

/** How many prices of a range can be changed. */
export function countEditable(view: BoardView, range: GridRange, rowAt: (row: number) => FoundRow): number {
  const { top, bottom, left, right } = range
  if ((bottom - top + 1) * (right - left + 1) > MOST_COUNTED) return 0
  let count = 0
  for (let row = top; row <= bottom; row += 1) {
    const found = rowAt(row)
    if (found.place?.kind === 'product' && found.place.open) continue
    for (let column = left; column <= right; column += 1) if (editableCell(view, found, column)) count += 1
  }
  return count
}

/**
 * A row as its base price is changed with all others: once on the product, where every variant that takes it over is
 * shown, and on each variant otherwise.
 */
export function asShownWhole(row: FoundRow): FoundRow {
  const { place, product, variant } = row
  if (!place || !product?.isWhole) return row
  if (place.kind === 'product')
    return { ...row, place: product.base === null ? undefined : { ...place, open: false } }
  return place.alone || variant?.ownBase ? row : { ...row, place: undefined }
}
