import type { Decimal } from '@/core/decimal/decimal'
import { guessDecimalMark, plainAmount } from '@/core/decimal/written-amount'
import { listToEdit } from '@/core/price/lines/fix-price'
import { evaluatePriceExpression, parsePriceExpression } from '@/core/price/price-expression'
import type { AmountEdit } from '@/server/changes/edit-amounts'
import { refusalSentence } from '@/ui/format/refusal-sentence'
import type { PastedCell } from '@/ui/grid/grid-range'
import { BASE_COLUMN, FIXED_COLUMNS } from '../columns/board-columns'
import type { BoardRow } from '../rows/board-rows'
import type { BoardProduct, BoardVariant, BoardView } from '../board-view'

/** What stands in a row of the board; `product` is absent while its block is being read. */
export interface FoundRow {
  readonly place: BoardRow | undefined
  readonly product: BoardProduct | undefined
  readonly variant: BoardVariant | undefined
}

/** A cell that can be typed over: its figure now, what it is called, and the edit that a typed text makes. */
export interface EditableCell {
  readonly current: Decimal | null
  readonly cost: Decimal | null
  readonly digits: number
  readonly label: string
  /** The list the edit goes into; `null` for a base price. */
  readonly list: string | null
  /** Of a price of one account: whom else the list it would go into sets prices for. */
  readonly others: readonly string[]
  /** `only` keeps it from everybody else. */
  readonly edit: (typed: string, only?: boolean) => AmountEdit
}

/** Errors  `null` for a cell that nothing can be typed into. */
export function editableCell(
  view: BoardView,
  { place, product, variant }: FoundRow,
  column: number,
): EditableCell | null {
  if (!view.live || !place || !product) return null
  if (column === BASE_COLUMN) {
    // A product's only variant takes its price over: the product's own is what to edit then.
    const isAlone = place.kind === 'variant' && place.alone && product.isWhole
    const isShared = place.kind === 'product' || (isAlone && variant !== undefined && !variant.ownBase)
    const record = isShared ? product : variant
    if (!record) return null
    return {
      current: record.base,
      cost: variant?.cost ?? null,
      digits: view.digits,
      label: `base price of ${variant?.sku ?? product.code}`,
      list: null,
      others: [],
      edit: (typed) => ({
        kind: 'value',
        record: isShared ? 'product' : 'variant',
        id: record.id,
        field: 'basePrice',
        typed,
        seen: record.base,
      }),
    }
  }
  const buyer = view.columns[column - FIXED_COLUMNS]
  const cell = variant?.cells[column - FIXED_COLUMNS]
  const list = buyer && cell && listToEdit(buyer.ownLists, cell.list)
  const isAccount = buyer?.vantage.as.startsWith('account:') ?? false
  if (!variant || !buyer || !cell || (!list && !isAccount)) return null
  return {
    current: cell.amount,
    cost: cell.cost,
    digits: buyer.digits,
    label: `${variant.sku} for ${buyer.title}`,
    list: list?.name ?? null,
    others: list?.others ?? [],
    edit: (typed, only = false) => ({
      kind: 'list-price',
      // Without a list of their own, one is made for them.
      list: list?.id ?? '',
      only: only || !list,
      variant: variant.id,
      from: buyer.vantage,
      typed,
      seen: cell.amount,
    }),
  }
}

/** One pasted figure and what it would change. */
interface PastedChange {
  readonly label: string
  readonly before: Decimal | null
  readonly after: Decimal
  readonly digits: number
  readonly edit: AmountEdit
}

/** What a pasted block would do: nothing is written before somebody has seen it. */
export interface PastePlan {
  readonly changes: readonly PastedChange[]
  readonly unchanged: number
  readonly problems: readonly { readonly label: string; readonly problem: string }[]
}

/** So many figures go into the store at once by pasting; more are a file to import. */
const MOST_PASTED = 2_000

/** Reads a pasted block; empty cells leave what is there. */
export function planPaste(
  view: BoardView,
  cells: readonly PastedCell[],
  rowAt: (row: number) => FoundRow,
): PastePlan {
  const mark = guessDecimalMark(cells.map(({ text }) => text))
  const changes: PastedChange[] = []
  const problems: { label: string; problem: string }[] = []
  let unchanged = 0
  for (const { row, column, text } of cells) {
    if (text === '') continue
    const cell = editableCell(view, rowAt(row), column)
    if (!cell) {
      problems.push({ label: `“${text}”`, problem: whyNot(view, rowAt(row), column) })
      continue
    }
    const typed = plainAmount(text, mark)
    const expression = parsePriceExpression(typed)
    const amount = expression.ok ? evaluatePriceExpression(expression.value, cell) : expression
    if (!amount.ok)
      problems.push({
        label: cell.label,
        problem: refusalSentence({
          code: 'expression',
          error: amount.error,
          typed: text,
          digits: cell.digits,
        }),
      })
    else if (amount.value === cell.current) unchanged += 1
    else
      changes.push({
        label: cell.label,
        before: cell.current,
        after: amount.value,
        digits: cell.digits,
        edit: cell.edit(amount.value),
      })
  }
  if (changes.length > MOST_PASTED) {
    const problem = `${changes.length} figures are too many to paste at once (${MOST_PASTED} at most). Import them as a file instead.`
    return { changes: [], unchanged, problems: [{ label: 'Pasted', problem }] }
  }
  return { changes, unchanged, problems }
}

/** What would have to change instead, for a cell that was typed over; `null` where there is nothing to say. */
export function whyNotTyped(view: BoardView, found: FoundRow, column: number): string | null {
  if (column === 0 || !found.product || found.place?.kind === 'product') return null
  const buyer = view.columns[column - FIXED_COLUMNS]
  if (!view.live || !buyer) return whyNot(view, found, column)
  return buyer.vantage.as === 'guest'
    ? 'Guests have no price list of their own: this follows from the base price, or from a list for everyone. Change the base price on the left, or make a list for guests under Price lists.'
    : `${buyer.title} has no price list of its own: this follows from the base price, or from a list for others. Change the base price on the left, or make a list for ${buyer.title} under Price lists.`
}

function whyNot(view: BoardView, { place, product }: FoundRow, column: number): string {
  if (!view.live) return refusalSentence({ code: 'past' })
  if (!product) return 'This row is still being read. Scroll to it and paste again.'
  if (column === 0) return 'Names are not edited here.'
  if (column < FIXED_COLUMNS) return 'Costs are edited on the product’s sheet, or imported.'
  if (place?.kind === 'product')
    return 'A product’s own row has no price of a buyer: paste onto its variants.'
  return 'This buyer has no price list of their own. Edit the base price instead.'
}
