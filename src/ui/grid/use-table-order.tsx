'use client'

import { type ReactNode, useMemo, useState } from 'react'
import { inOrder, type Order, type OrderedColumn, rowsFound } from './table-order'

/** A table's rows as they are searched, filtered and sorted, and the controls for it. */
export function useTableOrder<Row>(
  rows: readonly Row[],
  columns: readonly OrderedColumn<Row>[],
  { isPutAway, label }: { readonly isPutAway: (row: Row) => boolean; readonly label: string },
) {
  const [words, setWords] = useState('')
  const [order, setOrder] = useState<Order | null>(null)
  const [withPutAway, setWithPutAway] = useState(true)
  const putAway = useMemo(() => rows.filter(isPutAway).length, [rows, isPutAway])
  const shown = useMemo(() => {
    const found = rowsFound(rows, columns, words)
    const kept = withPutAway ? found : found.filter((row) => !isPutAway(row))
    return inOrder(kept, columns, order)
  }, [rows, columns, words, order, withPutAway, isPutAway])

  const header = (key: string): ReactNode => {
    const column = columns.find((each) => each.key === key)
    const isSorted = order?.key === key
    return (
      <button
        type="button"
        aria-label={`Sort by ${column?.title ?? key}${isSorted ? (order.isDown ? ', now from the end' : ', now from the start') : ''}`}
        className={`truncate hover:underline ${isSorted ? 'text-base-content' : ''}`}
        onClick={() =>
          setOrder(isSorted ? (order.isDown ? null : { key, isDown: true }) : { key, isDown: false })
        }
      >
        {column?.title}
        {isSorted && <span aria-hidden>{order.isDown ? ' ↓' : ' ↑'}</span>}
      </button>
    )
  }
  const tools = (
    <span className="flex flex-wrap items-baseline gap-x-4">
      <input
        type="search"
        aria-label={`Find in ${label}`}
        placeholder={`Find in ${rows.length}`}
        className="w-56 border border-base-300 bg-lifted px-2 py-1"
        value={words}
        onChange={(event) => setWords(event.target.value)}
      />
      {putAway > 0 && (
        <label className="flex items-center gap-1.5">
          <input
            type="checkbox"
            checked={withPutAway}
            onChange={(event) => setWithPutAway(event.target.checked)}
          />
          with {putAway} archived or switched off
        </label>
      )}
      {(words !== '' || !withPutAway) && (
        <span className="text-soft" role="status">
          {shown.length} of {rows.length}
        </span>
      )}
    </span>
  )
  return { shown, header, tools }
}
