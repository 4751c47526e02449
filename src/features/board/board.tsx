'use client'

import { serializeVantage } from '@/ui/frame/vantage-url'
import { ALLOWED_PRICES } from '@/ui/format/refusal-sentence'
import { formatAmount } from '@/ui/format/amount'
import { useFrame, useFresh } from '@/ui/frame/frame-context'
import { ColumnHeading } from '@/ui/grid/column-heading'
import { someOf } from '@/ui/format/some-of'
import type { EditResult } from '@/ui/grid/cell-editor'
import { DataGrid, type GridColumn } from '@/ui/grid/data-grid'
import { type GridRange, isSingleCell } from '@/ui/grid/grid-range'
import { useCallback, useState } from 'react'
import { useHotkeys } from 'react-hotkeys-hook'
import { BuyerCellContent, BuyerHeading, LiveFigureText, ProductName, VariantName } from './cells/board-cells'
import { BASE_COLUMN, FIXED_COLUMNS } from './columns/board-columns'
import { cellFacts, copiedText, rangeFacts } from './cells/board-facts'
import { editableCell, type FoundRow, type PastePlan, planPaste, whyNotTyped } from './edits/board-edits'
import { firstAmount, fromText, isCellBelowCost, type Measure, measureRange } from './cells/board-measures'
import { ChangeShown } from './edits/change-shown'
import { BoardToolbar } from './board-toolbar'
import type { BoardFilter } from './rows/board-url'
import type { BoardColumn, BoardView } from './board-view'
import { FirstLook } from './first-look'
import { FirstSteps } from './first-steps'
import { PastePanel } from './edits/paste-panel'
import { RangeBar } from './edits/range-bar'
import { countEditable, planFillDown, planRange } from './edits/range-edit'
import { useBoard } from './use-board'

interface BoardProps {
  readonly title: 'Board' | 'Compare'
  readonly view: BoardView
  readonly filter: BoardFilter
}

/** So few columns have room for the difference beside the price. */
const WIDE_COLUMNS = 4

/** What each kind of buyer sees and pays, side by side. */
export function Board({ title, view, filter }: BoardProps) {
  const { vantage, showTrace, setVantage } = useFrame()
  const [measure, setMeasure] = useState<Measure>('price')
  const [at, setAt] = useState({ row: 0, column: 0 })
  const [range, setRange] = useState<GridRange | null>(null)
  const [pasted, setPasted] = useState<PastePlan | null>(null)
  const [isChangingShown, setChangingShown] = useState(false)
  /** What would have to change instead of a cell that was typed over in vain. */
  const [refused, setRefused] = useState<string | null>(null)
  const board = useBoard(view, filter)
  useFresh(view.asOf)
  const { rows, productAt } = board
  const rowKey = useCallback(
    (row: number) => {
      const place = rows[row]
      return place ? `${place.product}/${place.kind === 'variant' ? place.variant : 'product'}` : String(row)
    },
    [rows],
  )
  const isWide = view.columns.length <= WIDE_COLUMNS
  useHotkeys('mod+z', () => void board.undoOrRedo('undo'), { preventDefault: true })
  useHotkeys(['mod+shift+z', 'mod+y'], () => void board.undoOrRedo('redo'), { preventDefault: true })

  const columns: readonly GridColumn[] = [
    {
      key: 'name',
      header: <span className="font-normal text-soft">{sizeText(view)}</span>,
      width: 'minmax(158px, 1fr)',
    },
    {
      key: 'base',
      header: <ColumnHeading title="Base" subtitle={`net ${view.currency}`} />,
      width: view.isDraft ? '86px' : '62px',
      align: 'right',
    },
    {
      key: 'cost',
      header: <ColumnHeading title="Cost" subtitle={`net ${view.currency}`} />,
      width: '62px',
      align: 'right',
    },
    ...view.columns.map((column) => ({
      key: column.key,
      header: (
        <BuyerHeading
          title={column.title}
          subtitle={column.subtitle}
          looked={isLooked(column)}
          onLook={() => setVantage(column.vantage)}
        />
      ),
      width: isWide
        ? 'minmax(76px, 160px)'
        : // Room for what is live beside what the draft says.
          `minmax(${view.isDraft ? 90 : 76}px, 9%)`,
      align: 'right' as const,
    })),
  ]

  function isLooked(column: BoardColumn | undefined): boolean {
    return (
      column !== undefined &&
      serializeVantage(column.vantage).toString() === serializeVantage(vantage).toString()
    )
  }

  function find(row: number) {
    const place = rows[row]
    const product = place && productAt(place.product)
    const variant = place?.kind === 'variant' ? product?.variants[place.variant] : undefined
    return { place, product, variant }
  }

  function renderCell(row: number, column: number) {
    const { place, product, variant } = find(row)
    if (!place || !product) return column === 0 ? <span className="text-soft">…</span> : null
    if (place.kind === 'product') {
      if (column === 0) return <ProductName product={product} row={place} />
      if (column === 1 && place.open)
        return (
          product.base && (
            <span className="font-semibold">
              <LiveFigureText live={product.liveBase} digits={view.digits} />
              {formatAmount(product.base, view.digits)}
            </span>
          )
        )
      if (place.open) return null
      const text =
        column >= FIXED_COLUMNS
          ? measureRange(
              measure,
              product,
              view.columns,
              column - FIXED_COLUMNS,
              view.columns[column - FIXED_COLUMNS]?.digits ?? view.digits,
            )
          : fromText(
              product.variants.map((each) => (column === 1 ? each.base : each.cost)),
              view.digits,
            )
      const below = product.variants.some((each) => {
        const cell = each.cells[column - FIXED_COLUMNS]
        return cell !== undefined && isCellBelowCost(cell, measure)
      })
      return (
        <span className={`truncate text-2xs ${below ? 'font-semibold text-error' : 'text-soft'}`}>
          {text}
          {below && (
            <>
              {' '}
              <span aria-hidden>▾</span>
              <span className="sr-only">some below cost</span>
            </>
          )}
        </span>
      )
    }
    if (!variant) return null
    if (column === 0) return <VariantName product={product} variant={variant} alone={place.alone} />
    if (column === 1) {
      if (variant.base === null) return <span className="text-soft">none</span>
      return (
        <span className={variant.ownBase || place.alone ? 'font-semibold' : 'text-soft italic'}>
          <LiveFigureText live={variant.liveBase} digits={view.digits} />
          {formatAmount(variant.base, view.digits)}
        </span>
      )
    }
    if (column === 2)
      return (
        <span className="text-soft">
          <LiveFigureText live={variant.liveCost} digits={view.digits} />
          {variant.cost === null ? '–' : formatAmount(variant.cost, view.digits)}
        </span>
      )
    const cell = variant.cells[column - FIXED_COLUMNS]
    return (
      cell && (
        <BuyerCellContent
          cell={cell}
          measure={measure}
          digits={view.columns[column - FIXED_COLUMNS]?.digits ?? view.digits}
          listNames={view.listNames}
          first={firstAmount(view.columns, variant, column - FIXED_COLUMNS)}
          compared={isWide && filter.columns.length > 0}
        />
      )
    )
  }

  const editable = (row: number, column: number) => editableCell(view, find(row), column)
  const chosen = range && view.live ? countEditable(view, range, find) : 0
  const fillDown = () => {
    if (range && !isSingleCell(range)) setPasted(planFillDown(view, range, find))
  }
  useHotkeys('mod+d', fillDown, { preventDefault: true })

  async function onEdit(row: number, column: number, typed: string): Promise<EditResult> {
    const cell = editable(row, column)
    if (!cell) return 'This buyer has no price list of their own. Edit the base price instead.'
    if (cell.others.length === 0) return board.edit([cell.edit(typed)])
    const buyer = view.columns[column - FIXED_COLUMNS]?.title ?? ''
    return {
      question: `${cell.list} sets prices for ${cell.others.length + 1} buyers: ${buyer}, ${someOf(cell.others)}.`,
      options: [
        { label: `Only ${buyer}`, run: () => board.edit([cell.edit(typed, true)]) },
        { label: `All ${cell.others.length + 1}`, run: () => board.edit([cell.edit(typed)]) },
      ],
    }
  }

  function editHint(row: number, column: number): string | null {
    const { place, variant } = find(row)
    if (column === BASE_COLUMN)
      return place?.kind === 'product'
        ? `For every variant without its own. ${ALLOWED_PRICES}`
        : ALLOWED_PRICES
    const cell = editable(row, column)
    if (!cell) return null
    return cell.list
      ? `Goes into ${cell.list} as a line for ${variant?.sku}. ${ALLOWED_PRICES}`
      : `Makes a price list for this buyer alone. ${ALLOWED_PRICES}`
  }

  function onCell(row: number, column: number, asked: boolean): void {
    setRefused(null)
    setAt({ row, column })
    const { variant } = find(row)
    const from = view.columns[column - FIXED_COLUMNS]?.vantage ?? null
    if (variant) showTrace({ sku: variant.sku, from }, asked)
  }

  return (
    <section className="flex min-h-0 flex-1 flex-col" data-ready={board.ready} aria-label={title}>
      <BoardToolbar
        title={title}
        view={view}
        filter={filter}
        measure={measure}
        onMeasure={setMeasure}
        board={board}
        onChangeShown={() => setChangingShown(true)}
      />
      <FirstLook />
      <div className="flex min-h-0 flex-1 flex-col px-4">
        <DataGrid
          label="Prices by product and buyer"
          columns={columns}
          rowCount={rows.length}
          rowKey={rowKey}
          renderCell={renderCell}
          rowContent={(row) => {
            const { place, product } = find(row)
            return [place, product, measure, view, filter, vantage]
          }}
          rowClass={(row) => (rows[row]?.kind === 'product' ? 'font-semibold' : '')}
          cellClass={(row, column) =>
            isOfDraft(find(row), column)
              ? 'bg-warning'
              : cellTint(
                  rows[row]?.kind === 'variant',
                  column,
                  isLooked(view.columns[column - FIXED_COLUMNS]),
                )
          }
          editText={(row, column) => {
            const cell = editable(row, column)
            return cell && (cell.current ?? '')
          }}
          editHint={editHint}
          editLabel={(row, column) => `New ${editable(row, column)?.label}`}
          onEdit={onEdit}
          onRefused={(row, column) => setRefused(whyNotTyped(view, find(row), column))}
          copyText={(row, column) => copiedText(view, measure, find(row), column)}
          onRange={setRange}
          onPaste={(cells) => setPasted(planPaste(view, cells, find))}
          onCell={onCell}
          onToggle={(row) => {
            const place = rows[row]
            if (place?.kind !== 'product') return false
            board.toggle(place.product)
            return true
          }}
          onVisible={board.onVisible}
          empty={
            view.has.variants === 0 || view.has.lists === 0 ? (
              <FirstSteps counts={view.has} />
            ) : (
              <p className="px-2 py-6 text-soft">
                Nothing in the catalogue matches. Clear the filter above to see everything.
              </p>
            )
          }
        />
      </div>
      {refused && (
        <p role="alert" className="mx-4 border-t border-accent bg-warning px-3 py-2 text-warning-content">
          {refused}
        </p>
      )}
      {!pasted && isChangingShown && (
        <ChangeShown
          view={view}
          board={board}
          rowAt={find}
          onPreview={setPasted}
          onClose={() => setChangingShown(false)}
        />
      )}
      {!pasted && !isChangingShown && chosen > 1 && range && (
        <RangeBar
          key={JSON.stringify(range)}
          count={chosen}
          onPlan={(rule) => planRange(view, range, rule, find)}
          onPreview={setPasted}
          onFillDown={fillDown}
        />
      )}
      {pasted && (
        <PastePanel
          plan={pasted}
          onApply={async () => {
            const problem = await board.edit(pasted.changes.map(({ edit }) => edit))
            if (problem === null) {
              setPasted(null)
              setChangingShown(false)
            }
            return problem
          }}
          onClose={() => setPasted(null)}
        />
      )}
      <BoardFooter
        facts={
          range && !isSingleCell(range)
            ? rangeFacts(view, range, find)
            : cellFacts(view, find(at.row), at.column)
        }
        isDraft={view.isDraft}
      />
    </section>
  )
}

function sizeText({ counts, variantCount }: BoardView): string {
  return `${counts.length} ${counts.length === 1 ? 'product' : 'products'}, ${variantCount} variants`
}

/** Whether the draft that is looked through says something else here than what is live. */
function isOfDraft({ place, product, variant }: FoundRow, column: number): boolean {
  if (column === 1) return Boolean(place?.kind === 'product' ? product?.liveBase : variant?.liveBase)
  if (column === 2) return Boolean(variant?.liveCost)
  return Boolean(variant?.cells[column - FIXED_COLUMNS]?.live)
}

function cellTint(isVariant: boolean, column: number, looked: boolean): string {
  if (column === 1) return isVariant ? 'bg-lifted' : ''
  return looked ? 'bg-chosen/40' : ''
}

function BoardFooter({ facts, isDraft }: { readonly facts: readonly string[]; readonly isDraft: boolean }) {
  return (
    <footer className="mx-4 flex justify-between gap-6 border-t border-base-300 py-2 text-xs text-soft">
      <span className="min-w-0 truncate">
        <b className="font-semibold">L</b> price list <b className="font-semibold">C</b> contract{' '}
        <b className="font-semibold">Q</b> by quantity <b className="font-semibold">A</b> adjusted{' '}
        <b className="font-semibold">≈</b> converted <b className="font-semibold">P</b> promotion ·{' '}
        <i>italic</i> from the product ·{' '}
        {isDraft && (
          <>
            <span className="bg-warning px-1 text-warning-content">changed by the draft</span>, live before it
            ·{' '}
          </>
        )}
        <span className="font-semibold text-error">▾</span> below cost
      </span>
      <span className="shrink-0">{facts.join(' · ')}</span>
    </footer>
  )
}
