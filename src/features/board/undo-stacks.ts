import { useSyncExternalStore } from 'react'

/** Change sets made on the board and taken back there, the latest last. */
export interface UndoStacks {
  readonly done: readonly number[]
  readonly undone: readonly number[]
}

const NOTHING_DONE: UndoStacks = { done: [], undone: [] }

// Kept outside the board: who filters, looks as somebody else or visits another place can still undo.
let stacks = NOTHING_DONE
let writing: Promise<unknown> = Promise.resolve()
const listeners = new Set<() => void>()

function subscribe(listener: () => void): () => void {
  listeners.add(listener)
  return () => listeners.delete(listener)
}

export function currentUndoStacks(): UndoStacks {
  return stacks
}

export function useUndoStacks(): UndoStacks {
  return useSyncExternalStore(subscribe, currentUndoStacks, () => NOTHING_DONE)
}

export function setUndoStacks(next: UndoStacks): void {
  stacks = next
  for (const listener of listeners) listener()
}

/** Does one write after the other: what is pressed twice quickly must not take the same change back twice. */
export function inTurn<Result>(act: () => Promise<Result>): Promise<Result> {
  const turn = writing.then(act)
  writing = turn.catch(() => undefined)
  return turn
}

/** The stacks after the latest change was taken back (or done again) by a change set of its own. */
export function moveBetweenStacks(
  { done, undone }: UndoStacks,
  which: 'undo' | 'redo',
  by: number,
): UndoStacks {
  return which === 'undo'
    ? { done: done.slice(0, -1), undone: [...undone, by] }
    : { done: [...done, by], undone: undone.slice(0, -1) }
}
