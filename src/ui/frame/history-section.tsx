'use client'

import { toast } from 'sonner'
import type { HistoryLine } from '../format/history-line'

interface HistorySectionProps {
  readonly history: readonly HistoryLine[]
  /** Takes a change back; resolves to what is wrong, or `null`. Left out where nothing can be changed. */
  readonly onUndo?: ((changeSet: number) => Promise<string | null>) | undefined
}

/** The change set that made the store: there is nothing to go back to before it. */
const FIRST_CHANGE_SET = 1

const ANSWER = 'undo'

/** What happened to a record, newest first, each change with a button that undoes it. */
export function HistorySection({ history, onUndo }: HistorySectionProps) {
  async function undo(changeSet: number): Promise<void> {
    const problem = await onUndo?.(changeSet)
    // One place for every answer: what was said of an undo before does not stay beside what is said now.
    if (problem) toast.error(problem, { id: ANSWER })
    else toast('Undone.', { id: ANSWER })
  }
  return (
    <section className="px-6 pt-4 pb-6" aria-label="History">
      <h2 className="pb-1 text-xs font-semibold">History</h2>
      <ul>
        {history.map(({ changeSet, when, author, note }) => (
          <li
            key={changeSet}
            className="grid grid-cols-[170px_120px_1fr_auto] gap-3 border-b border-dotted border-base-300 py-1"
          >
            <span className="text-soft">{when}</span>
            <span>{author}</span>
            <span className="truncate">{note}</span>
            {onUndo && changeSet > FIRST_CHANGE_SET && (
              <button
                type="button"
                aria-label={`Undo: ${note}`}
                className="link-name"
                onClick={() => void undo(changeSet)}
              >
                Undo
              </button>
            )}
          </li>
        ))}
      </ul>
    </section>
  )
}
