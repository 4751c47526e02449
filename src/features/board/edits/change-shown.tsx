'use client'

import { VantageLink } from '@/ui/frame/vantage-link'
import { useEffect, useState } from 'react'
import { BASE_COLUMN, FIXED_COLUMNS } from '../columns/board-columns'
import type { FoundRow, PastePlan } from './board-edits'
import type { BoardView } from '../board-view'
import { RangeBar } from './range-bar'
import { asShownWhole, countEditable, MOST_CHANGED, planRange } from './range-edit'
import type { useBoard } from '../use-board'

interface ChangeShownProps {
  readonly view: BoardView
  readonly board: ReturnType<typeof useBoard>
  readonly rowAt: (row: number) => FoundRow
  readonly onPreview: (plan: PastePlan) => void
  readonly onClose: () => void
}

/** Changes the prices of everything the board shows, in one of its columns, by one rule. */
export function ChangeShown({ view, board, rowAt, onPreview, onClose }: ChangeShownProps) {
  const [at, setAt] = useState(BASE_COLUMN)
  const [isRead, setRead] = useState(false)
  const isTooMuch = view.variantCount > MOST_CHANGED
  const { readAll } = board
  useEffect(() => {
    if (isTooMuch) return
    let isWanted = true
    void readAll().then(() => isWanted && setRead(true))
    return () => {
      isWanted = false
    }
  }, [isTooMuch, readAll])
  if (isTooMuch)
    return (
      <p role="status" className="mx-4 flex flex-wrap gap-x-4 border-t border-base-300 py-2">
        <span>
          {view.variantCount} variants are shown; at most {MOST_CHANGED} prices are changed one by one. Show
          fewer, or let one rule move them all:
        </span>
        <VantageLink href="/adjustments/new" className="link-name">
          New adjustment
        </VantageLink>
        <button type="button" className="ml-auto link-name" onClick={onClose}>
          Close
        </button>
      </p>
    )
  if (!isRead) return <p className="mx-4 border-t border-base-300 py-2 text-soft">Reading the prices …</p>
  const rows = (row: number) => (at === BASE_COLUMN ? asShownWhole(rowAt(row)) : rowAt(row))
  const range = { top: 0, bottom: board.rows.length - 1, left: at, right: at }
  return (
    <RangeBar
      count={countEditable(view, range, rows)}
      onPlan={(rule) => planRange(view, range, rule, rows)}
      onPreview={onPreview}
      whose={{
        at,
        columns: [
          { at: BASE_COLUMN, title: 'base' },
          ...view.columns.flatMap(({ title, ownLists, vantage }, column) =>
            ownLists.length > 0 || vantage.as.startsWith('account:')
              ? [{ at: column + FIXED_COLUMNS, title }]
              : [],
          ),
        ],
        onChoose: setAt,
        onClose,
      }}
    />
  )
}
