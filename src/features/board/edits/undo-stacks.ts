import { useSyncExternalStore } from 'react'

/** Change sets made on the board and undone there, the latest last. */
export interface UndoStacks {
  readonly done: readonly number[]
  readonly undone: readonly number[]
}

const NOTHING_DONE: UndoStacks = { done: [], undone: [] }

/** Where this window keeps its stacks, so that a reload loses none of them. */
const KEPT_AS = 'steppe-undo'

// Kept outside the board: who filters, looks as somebody else or visits another place can still undo.
let stacks = readStacks()
let writing: Promise<unknown> = Promise.resolve()
const listeners = new Set<() => void>()

function readStacks(): UndoStacks {
  try {
    const kept = JSON.parse(
      globalThis.sessionStorage?.getItem(KEPT_AS) ?? 'null',
    ) as Partial<UndoStacks> | null
    const numbers = (list: unknown) =>
      Array.isArray(list) ? list.filter((each): each is number => Number.isSafeInteger(each)) : []
    return kept ? { done: numbers(kept.done), undone: numbers(kept.undone) } : NOTHING_DONE
  } catch {
    // A browser may keep nothing, or something else may have been kept.
    return NOTHING_DONE
  }
}

function keepStacks(): void {
  try {
    globalThis.sessionStorage?.setItem(KEPT_AS, JSON.stringify(stacks))
  } catch {
    // Without it, undo lasts until the page is reloaded.
  }
}

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
  keepStacks()
  for (const listener of listeners) listener()
}

/** Does one write after the other: what is pressed twice quickly must not take the same change back twice. */
export function inTurn<Result>(act: () => Promise<Result>): Promise<Result> {
  const turn = writing.then(act)
  writing = turn.catch(() => undefined)
  return turn
}

/** The stacks after the latest change was undone (or redone) by a change set of its own. */
export function moveBetweenStacks(
  { done, undone }: UndoStacks,
  which: 'undo' | 'redo',
  by: number,
): UndoStacks {
  return which === 'undo'
    ? { done: done.slice(0, -1), undone: [...undone, by] }
    : { done: [...done, by], undone: undone.slice(0, -1) }
}
