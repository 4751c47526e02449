'use client'

import { useVirtualizer } from '@tanstack/react-virtual'
import {
  type KeyboardEvent,
  memo,
  type ReactNode,
  useCallback,
  useEffect,
  useId,
  useRef,
  useState,
} from 'react'
import { CellEditor, type EditResult } from './cell-editor'
import { type GridCell, moveInGrid, startsFigure } from './grid-moves'
import {
  cellsOfRange,
  type GridRange,
  isSingleCell,
  type PastedCell,
  placePasted,
  rangeBetween,
} from './grid-range'
import { readTabbed, writeTabbed } from './tabbed-text'

export interface GridColumn {
  readonly key: string
  readonly header: ReactNode
  /** A track of a CSS grid: `80px`, `minmax(180px, 1fr)`. */
  readonly width: string
  readonly align?: 'left' | 'right'
}

interface DataGridProps {
  /** What the grid is, for people who cannot see it. */
  readonly label: string
  readonly columns: readonly GridColumn[]
  readonly rowCount: number
  /** A key that stays with a row when others come and go. While it stays the same function, rows are not laid out again. */
  readonly rowKey: (row: number) => string
  readonly renderCell: (row: number, column: number) => ReactNode
  readonly cellClass?: (row: number, column: number) => string
  readonly rowClass?: (row: number) => string
  /** All that what a row shows is made of: while none of it changes, the row is not drawn again. */
  readonly rowContent?: (row: number) => readonly unknown[]
  /** The text an edit of the cell starts with; `null` for a cell that cannot be edited. */
  readonly editText?: (row: number, column: number) => string | null
  /** Somebody typed into a cell that cannot be edited. */
  readonly onRefused?: (row: number, column: number) => void
  readonly editLabel?: (row: number, column: number) => string
  readonly editHint?: (row: number, column: number) => string | null
  /** Resolves to what is wrong, or `null` when the edit was made. */
  readonly onEdit?: (row: number, column: number, typed: string) => Promise<EditResult>
  /** The keyboard or mouse came to a cell; `asked` when T or Space asked to show more. */
  readonly onCell?: (row: number, column: number, asked: boolean) => void
  /** Enter or a click on a row that opens and closes; `true` when it was one. */
  readonly onToggle?: (row: number) => boolean
  /** What a copied cell says in a spreadsheet. With it cells can be chosen as a range and copied. */
  readonly copyText?: (row: number, column: number) => string
  /** The chosen range changed. */
  readonly onRange?: (range: GridRange) => void
  /** A block of a spreadsheet was pasted. */
  readonly onPaste?: (cells: readonly PastedCell[]) => void
  /** Rows in sight changed. */
  readonly onVisible?: (first: number, last: number) => void
  readonly empty?: ReactNode
}

const ROW_HEIGHT = 27
const ROWS_BEYOND_SIGHT = 4
const HEADER_HEIGHT = 64

/**
 * The one grid of the product: rows only where they are seen, one cell under the keyboard, figures edited
 * in place. Arrow keys move, Enter or typing edits, Escape leaves, T shows how a figure came about.
 */
export function DataGrid(props: DataGridProps) {
  const { columns, rowCount, onVisible } = props
  const id = useId()
  const scroller = useRef<HTMLDivElement>(null)
  /** Where the mouse was pressed, and whether it moved to another cell since. */
  const pressed = useRef<GridCell | null>(null)
  const dragged = useRef(false)
  const [chosen, setActive] = useState<GridCell>({ row: 0, column: 0 })
  // A filter can take the row away that the keyboard stood on.
  const active = { row: Math.max(0, Math.min(chosen.row, rowCount - 1)), column: chosen.column }
  const [editing, setEditing] = useState<Editing | null>(null)
  const [chosenAnchor, setAnchor] = useState<GridCell>({ row: 0, column: 0 })
  const anchor = { row: Math.max(0, Math.min(chosenAnchor.row, rowCount - 1)), column: chosenAnchor.column }
  const range = rangeBetween(anchor, active)
  const template = columns.map(({ width }) => width).join(' ')

  const virtual = useVirtualizer({
    count: rowCount,
    getScrollElement: () => scroller.current,
    estimateSize: () => ROW_HEIGHT,
    overscan: ROWS_BEYOND_SIGHT,
    // The column headers stand in front of the rows.
    scrollPaddingEnd: HEADER_HEIGHT,
    getItemKey: props.rowKey,
  })
  const items = virtual.getVirtualItems()
  const first = items[0]?.index ?? 0
  const last = items.at(-1)?.index ?? 0
  useEffect(() => onVisible?.(first, last), [first, last, rowCount, onVisible])

  const goTo = useCallback(
    (cell: GridCell, by: 'keyboard' | 'mouse', from: GridCell = cell) => {
      setActive(cell)
      setAnchor(from)
      setEditing(null)
      props.onRange?.(rangeBetween(from, cell))
      // What is under the mouse must not move: a double click would land on another row.
      if (by === 'keyboard') virtual.scrollToIndex(cell.row)
      props.onCell?.(cell.row, cell.column, false)
    },
    [virtual, props],
  )

  const onEditorClosed = useCallback((how: 'done' | 'left') => {
    setEditing(null)
    const stillHere = document.activeElement?.closest('[role=grid]') === scroller.current
    if (how === 'done' || stillHere) scroller.current?.focus()
  }, [])

  function startEditing(cell: GridCell, typed: string | null): boolean {
    const text = props.editText?.(cell.row, cell.column) ?? null
    if (text === null) {
      props.onRefused?.(cell.row, cell.column)
      return false
    }
    setActive(cell)
    setAnchor(cell)
    setEditing({ text: typed ?? text, select: typed === null })
    return true
  }

  function onKeyDown(event: KeyboardEvent): void {
    if (editing || event.altKey || rowCount === 0) return
    const control = event.ctrlKey || event.metaKey
    const page = Math.max(1, Math.floor((scroller.current?.clientHeight ?? ROW_HEIGHT) / ROW_HEIGHT) - 2)
    const next = moveInGrid(active, event.key, { control }, { rows: rowCount, columns: columns.length, page })
    if (next) {
      event.preventDefault()
      return goTo(next, 'keyboard', event.shiftKey && props.copyText ? anchor : next)
    }
    if (control) return
    if (event.key === 'Escape' && !isSingleCell(range)) {
      event.stopPropagation()
      return goTo(active, 'keyboard')
    }
    let taken = true
    if (event.key === 'Enter' || event.key === 'F2') {
      taken = props.onToggle?.(active.row) || startEditing(active, null)
    } else if (event.key === 'Delete' || event.key === 'Backspace') {
      taken = startEditing(active, '')
    } else if (event.key === 't' || event.key === ' ') {
      props.onCell?.(active.row, active.column, true)
    } else {
      taken = startsFigure(event.key) && startEditing(active, event.key)
    }
    if (taken) event.preventDefault()
  }

  return (
    <div
      ref={scroller}
      role="grid"
      aria-label={props.label}
      aria-rowcount={rowCount + 1}
      aria-colcount={columns.length}
      aria-activedescendant={rowCount > 0 ? `${id}-${active.row}-${active.column}` : undefined}
      aria-multiselectable={props.copyText !== undefined}
      tabIndex={0}
      onKeyDown={onKeyDown}
      onCopy={(event) => {
        if (editing || !props.copyText || rowCount === 0) return
        event.preventDefault()
        event.clipboardData.setData('text/plain', writeTabbed(cellsOfRange(range, props.copyText)))
      }}
      onPaste={(event) => {
        if (editing || !props.onPaste || rowCount === 0) return
        event.preventDefault()
        const block = readTabbed(event.clipboardData.getData('text/plain'))
        props.onPaste(placePasted(block, range, { rows: rowCount, columns: columns.length }))
      }}
      className="relative min-h-0 flex-1 overflow-auto outline-offset-[-2px]"
    >
      <div role="rowgroup" className="sticky top-0 z-30 min-w-fit">
        <div
          role="row"
          aria-rowindex={1}
          className="grid items-end border-b border-base-content/80 bg-base-100"
          style={{ gridTemplateColumns: template }}
        >
          {columns.map(({ key, header, align }) => (
            <div
              key={key}
              role="columnheader"
              className={`min-w-0 px-1.5 pt-1 pb-1.5 leading-4 font-semibold ${align === 'right' ? 'text-right' : ''}`}
            >
              {header}
            </div>
          ))}
        </div>
      </div>
      {rowCount === 0 && props.empty}
      <div
        role="rowgroup"
        className={`relative min-w-fit ${props.copyText ? 'select-none' : ''}`}
        style={{ height: virtual.getTotalSize() }}
        onMouseDown={(event) => {
          dragged.current = false
          pressed.current =
            props.copyText && event.button === 0 && !event.shiftKey ? cellOf(event.target) : null
        }}
        onMouseOver={(event) => {
          const from = pressed.current
          if (!from || event.buttons !== 1 || editing) return
          const cell = cellOf(event.target)
          if (!cell || (!dragged.current && cell.row === from.row && cell.column === from.column)) return
          dragged.current = true
          scroller.current?.focus()
          goTo(cell, 'mouse', from)
        }}
        onClick={(event) => {
          const cell = cellOf(event.target)
          if (!cell || (editing && cell.row === active.row && cell.column === active.column)) return
          if (dragged.current) return
          scroller.current?.focus()
          if (event.shiftKey && props.copyText) return goTo(cell, 'mouse', anchor)
          goTo(cell, 'mouse')
          if (cell.column === 0) props.onToggle?.(cell.row)
        }}
        onDoubleClick={(event) => {
          const cell = cellOf(event.target)
          if (cell && !editing) startEditing(cell, null)
        }}
      >
        {items.map(({ index: row, key, start }) => (
          <GridRow
            key={key}
            id={id}
            grid={props}
            row={row}
            start={start}
            template={template}
            activeColumn={active.row === row ? active.column : null}
            {...(props.copyText && !isSingleCell(range) && row >= range.top && row <= range.bottom
              ? { chosenFrom: range.left, chosenTo: range.right }
              : NOTHING_CHOSEN)}
            editing={active.row === row ? editing : null}
            onEditorClosed={onEditorClosed}
          />
        ))}
      </div>
    </div>
  )
}

const NOTHING_CHOSEN = { chosenFrom: 0, chosenTo: -1 }

interface Editing {
  readonly text: string
  readonly select: boolean
}

interface GridRowProps {
  readonly id: string
  readonly grid: DataGridProps
  readonly row: number
  readonly start: number
  readonly template: string
  /** Where the keyboard stands in this row, if it does. */
  readonly activeColumn: number | null
  /** Columns of the chosen range in this row; the second below the first for none. */
  readonly chosenFrom: number
  readonly chosenTo: number
  readonly editing: Editing | null
  readonly onEditorClosed: (how: 'done' | 'left') => void
}

/** One row; drawn again only when something of it changes, so that scrolling draws only what comes into sight. */
const GridRow = memo(function GridRow(props: GridRowProps) {
  const { id, grid, row, start, template, activeColumn, chosenFrom, chosenTo, editing, onEditorClosed } =
    props
  return (
    <div
      role="row"
      aria-rowindex={row + 2}
      className={`absolute inset-x-0 grid border-b border-base-300 ${
        // The note under the figure being typed must lie over the rows below.
        editing ? 'z-20' : ''
      } ${grid.rowClass?.(row) ?? ''}`}
      style={{ gridTemplateColumns: template, height: ROW_HEIGHT, transform: `translateY(${start}px)` }}
    >
      {grid.columns.map(({ key, align }, column) => {
        const here = activeColumn === column
        const isChosen = column >= chosenFrom && column <= chosenTo
        return (
          <div
            key={key}
            id={`${id}-${row}-${column}`}
            role="gridcell"
            aria-selected={here || isChosen}
            aria-colindex={column + 1}
            data-cell={key}
            data-row={row}
            className={`relative flex min-w-0 items-center px-1.5 leading-[26px] ${align === 'right' ? 'justify-end text-right' : ''} ${
              here ? 'z-10 outline-2 -outline-offset-2 outline-secondary' : ''
            } ${isChosen ? 'bg-chosen!' : ''} ${grid.cellClass?.(row, column) ?? ''}`}
          >
            {here && editing ? (
              <CellEditor
                label={grid.editLabel?.(row, column) ?? 'New value'}
                initial={editing.text}
                select={editing.select}
                hint={grid.editHint?.(row, column) ?? null}
                noteSide={column < grid.columns.length / 2 ? 'left' : 'right'}
                onSubmit={(typed) => grid.onEdit?.(row, column, typed) ?? Promise.resolve(null)}
                onClose={onEditorClosed}
              />
            ) : (
              grid.renderCell(row, column)
            )}
          </div>
        )
      })}
    </div>
  )
}, isDrawn)

/** Whether a row that was drawn is drawn as it would be now. */
function isDrawn({ grid: drawn, ...before }: GridRowProps, { grid, ...now }: GridRowProps): boolean {
  const isSame = (Object.keys(now) as (keyof typeof now)[]).every((name) => before[name] === now[name])
  if (!isSame || drawn === grid) return isSame
  // What is typed is answered by the grid as it is now.
  if (now.editing || drawn.columns.length !== grid.columns.length) return false
  const [was, is] = [drawn.rowContent?.(before.row), grid.rowContent?.(now.row)]
  return was !== undefined && is !== undefined && is.every((each, at) => each === was[at])
}

/** The cell something on the page belongs to. */
function cellOf(target: EventTarget): GridCell | null {
  const cell = target instanceof Element ? target.closest<HTMLElement>('[role=gridcell]') : null
  if (!cell) return null
  return { row: Number(cell.dataset['row']), column: Number(cell.getAttribute('aria-colindex')) - 1 }
}
