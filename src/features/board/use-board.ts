'use client'

import { NO_ANSWER } from '@/ui/format/no-answer'
import type { AmountEdit } from '@/server/changes/edit-amounts'
import { useFrame } from '@/ui/frame/frame-context'
import { useCallback, useMemo } from 'react'
import { useReady } from '@/ui/frame/use-ready'
import { toast } from 'sonner'
import type { BoardFilter } from './rows/board-url'
import type { BoardView } from './board-view'
import { type BoardOutcome, editBoard, undoOnBoard } from './edits/edit-board'
import {
  currentUndoStacks,
  inTurn,
  moveBetweenStacks,
  setUndoStacks,
  useUndoStacks,
} from './edits/undo-stacks'
import { useBoardRows } from './rows/use-board-rows'

/** The board's rows, and what can be done to their figures. */
export function useBoard(view: BoardView, filter: BoardFilter) {
  const { pricesChanged } = useFrame()
  const columns = useMemo(() => view.columns.map(({ vantage }) => vantage), [view.columns])
  const { applyPatch, ...rows } = useBoardRows(view, filter)
  const stacks = useUndoStacks()

  const take = useCallback(
    (outcome: BoardOutcome): string | null => {
      if (!outcome.ok) return outcome.problem
      applyPatch(outcome.patch)
      pricesChanged(outcome.changeSet)
      return null
    },
    [applyPatch, pricesChanged],
  )

  const edit = useCallback(
    (edits: readonly AmountEdit[]): Promise<string | null> =>
      inTurn(async () => {
        const outcome = await attempt(() => editBoard(edits, columns))
        if (outcome.ok) setUndoStacks({ done: [...currentUndoStacks().done, outcome.changeSet], undone: [] })
        return take(outcome)
      }),
    [columns, take],
  )

  const undoOrRedo = useCallback(
    (which: 'undo' | 'redo'): Promise<void> =>
      inTurn(async () => {
        const before = currentUndoStacks()
        const changeSet = (which === 'undo' ? before.done : before.undone).at(-1)
        if (changeSet === undefined) {
          return void toast(which === 'undo' ? 'Nothing to undo.' : 'Nothing to redo.')
        }
        const outcome = await attempt(() => undoOnBoard(changeSet, columns))
        const problem = take(outcome)
        if (!outcome.ok) return void toast.error(problem)
        setUndoStacks(moveBetweenStacks(before, which, outcome.changeSet))
        toast(which === 'undo' ? 'Undone.' : 'Redone.')
      }),
    [take, columns],
  )

  return {
    ...rows,
    edit,
    undoOrRedo,
    canUndo: stacks.done.length > 0,
    canRedo: stacks.undone.length > 0,
    ready: useReady(),
  }
}

/** A server that cannot be reached must not lose what was typed. */
async function attempt(act: () => Promise<BoardOutcome>): Promise<BoardOutcome> {
  try {
    return await act()
  } catch {
    return { ok: false, problem: NO_ANSWER }
  }
}
