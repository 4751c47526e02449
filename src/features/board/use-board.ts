'use client'

import { useFrame } from '@/ui/frame/frame-context'
import { serializeVantage } from '@/ui/frame/vantage-url'
import { useCallback, useEffect, useMemo, useRef, useState, useSyncExternalStore } from 'react'
import { toast } from 'sonner'
import type { AmountEdit } from '@/server/changes/edit-amounts'
import { type BoardBlocks, layOutRows, patchBlocks } from './board-rows'
import { type BoardFilter, serializeBoardFilter } from './board-url'
import { BLOCK_SIZE, type BoardProduct, type BoardView } from './board-view'
import { type BoardOutcome, editBoard, undoOnBoard } from './edit-board'

/** Change sets made here and taken back here, the latest last. */
interface Stacks {
  readonly done: readonly number[]
  readonly undone: readonly number[]
}

const NOTHING_DONE: Stacks = { done: [], undone: [] }

/** The board's rows as they are read, opened, edited, taken back. */
export function useBoard(view: BoardView, filter: BoardFilter) {
  const { vantage, pricesChanged } = useFrame()
  const [blocks, setBlocks] = useState<BoardBlocks>(() => new Map([[0, view.firstBlock]]))
  const [closed, setClosed] = useState<ReadonlySet<number>>(new Set())
  const [stacks, setStacks] = useState(NOTHING_DONE)
  // What is pressed twice quickly must not take the same change back twice: writes wait for each other.
  const current = useRef(NOTHING_DONE)
  const writing = useRef<Promise<unknown>>(Promise.resolve())
  const asked = useRef(new Set([0]))
  const version = useRef(0)
  const [staleBlocks, setStaleBlocks] = useState(0)
  const rows = useMemo(() => layOutRows(view.counts, closed), [view.counts, closed])

  const readBlock = useCallback(
    async (block: number) => {
      if (asked.current.has(block)) return
      asked.current.add(block)
      const asOf = version.current
      const fields = new URLSearchParams([...serializeVantage(vantage), ...serializeBoardFilter(filter)])
      fields.set('block', String(block))
      const response = await fetch(`/api/board?${fields}`)
      if (!response.ok) return void asked.current.delete(block)
      const products = (await response.json()) as readonly BoardProduct[]
      // Rows asked for before a change and read after it would put old figures back.
      if (version.current !== asOf) {
        asked.current.delete(block)
        return void setStaleBlocks((count) => count + 1)
      }
      setBlocks((before) => new Map(before).set(block, products))
    },
    [vantage, filter],
  )

  const visible = useRef({ first: 0, last: 0 })
  const onVisible = useCallback(
    (first: number, last: number) => {
      visible.current = { first, last }
      const from = rows[first]?.product ?? 0
      const to = rows[last]?.product ?? from
      for (let block = Math.floor(from / BLOCK_SIZE); block <= Math.floor(to / BLOCK_SIZE); block += 1)
        void readBlock(block)
    },
    [rows, readBlock],
  )

  useEffect(() => {
    if (staleBlocks > 0) onVisible(visible.current.first, visible.current.last)
  }, [staleBlocks, onVisible])

  const reload = useCallback(() => {
    asked.current.clear()
    onVisible(visible.current.first, visible.current.last)
  }, [onVisible])

  const take = useCallback(
    (outcome: BoardOutcome): string | null => {
      if (!outcome.ok) return outcome.problem
      const { patch } = outcome
      version.current += 1
      if (patch.kind === 'reload') reload()
      else setBlocks((before) => patchBlocks(before, patch))
      pricesChanged()
      return null
    },
    [reload, pricesChanged],
  )

  const remember = useCallback((next: Stacks) => {
    current.current = next
    setStacks(next)
  }, [])

  const inTurn = useCallback(<Result>(act: () => Promise<Result>): Promise<Result> => {
    const turn = writing.current.then(act)
    writing.current = turn
    return turn
  }, [])

  const edit = useCallback(
    (edits: readonly AmountEdit[]): Promise<string | null> =>
      inTurn(async () => {
        const outcome = await attempt(() => editBoard(edits, vantage.as))
        if (outcome.ok) remember({ done: [...current.current.done, outcome.changeSet], undone: [] })
        return take(outcome)
      }),
    [vantage.as, take, remember, inTurn],
  )

  const takeBack = useCallback(
    (which: 'undo' | 'redo'): Promise<void> =>
      inTurn(async () => {
        const { done, undone } = current.current
        const changeSet = (which === 'undo' ? done : undone).at(-1)
        if (changeSet === undefined)
          return void toast(which === 'undo' ? 'Nothing to undo.' : 'Nothing to redo.')
        const outcome = await attempt(() => undoOnBoard(changeSet, vantage.as))
        const problem = take(outcome)
        if (!outcome.ok) return void toast.error(problem)
        remember(
          which === 'undo'
            ? { done: done.slice(0, -1), undone: [...undone, outcome.changeSet] }
            : { done: [...done, outcome.changeSet], undone: undone.slice(0, -1) },
        )
        toast(which === 'undo' ? 'Taken back.' : 'Done again.')
      }),
    [take, remember, inTurn, vantage.as],
  )

  const toggle = useCallback((product: number) => {
    setClosed((before) => {
      const after = new Set(before)
      if (!after.delete(product)) after.add(product)
      return after
    })
  }, [])
  const setAllClosed = useCallback(
    (close: boolean) => setClosed(new Set(close ? view.counts.keys() : [])),
    [view.counts],
  )

  const ready = useReady()
  const productAt = (product: number) => blocks.get(Math.floor(product / BLOCK_SIZE))?.[product % BLOCK_SIZE]
  return {
    rows,
    productAt,
    onVisible,
    edit,
    takeBack,
    toggle,
    setAllClosed,
    anyClosed: closed.size > 0,
    canUndo: stacks.done.length > 0,
    canRedo: stacks.undone.length > 0,
    ready,
  }
}

/** A server that cannot be reached must not lose what was typed. */
async function attempt(act: () => Promise<BoardOutcome>): Promise<BoardOutcome> {
  try {
    return await act()
  } catch {
    return { ok: false, problem: 'The server did not answer. Nothing was changed; try again.' }
  }
}

const NEVER_CHANGES = () => () => undefined

/** Whether the page answers to the keyboard yet: the mark browser tests wait for. */
function useReady(): boolean {
  return useSyncExternalStore(
    NEVER_CHANGES,
    () => true,
    () => false,
  )
}
