'use client'

import type { DeskContent, DeskLine } from '@/server/desk/desk-shape'
import { useEffect, useRef, useState } from 'react'
import type { DeskBuyer, DeskFigures, DeskSaved, DeskView } from './desk-view'

/** How long typing must rest before it is saved, in milliseconds. */
const REST = 200
const MOST_UNDONE = 100

interface Known {
  readonly number: number | null
  readonly version: number
  /** What was saved last, and what it comes to. */
  readonly content: DeskContent
  readonly figures: DeskFigures | null
  readonly buyer: DeskBuyer
  readonly problem: string
}

/** An order of the desk while it is written down: it is saved as it is typed. */
export interface Desk extends Known {
  readonly typed: DeskContent
  /** Whether what is typed is saved, and the figures are of it. */
  readonly isSettled: boolean
  readonly change: (part: Partial<DeskContent>) => void
  readonly changeLine: (at: number, part: Partial<DeskLine>) => void
  readonly addLines: (lines: readonly DeskLine[]) => void
  readonly removeLine: (at: number) => void
  readonly undo: () => void
}

export function useDesk(view: DeskView): Desk {
  const { number, version, content, figures, buyer } = view
  const [typed, setTyped] = useState(content)
  const [known, setKnown] = useState<Known>({ number, version, content, figures, buyer, problem: '' })
  const before = useRef<DeskContent[]>([])
  const isSaving = useRef(false)

  useEffect(() => {
    if (typed === known.content || known.problem !== '') return
    const timer = setTimeout(() => {
      // One at a time: each says which it saw.
      if (isSaving.current) return
      isSaving.current = true
      fetch('/api/desk', {
        method: 'POST',
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify({ number: known.number, version: known.version, content: typed }),
      })
        .then(async (response) => (await response.json()) as DeskSaved)
        .then((saved) => {
          if (saved.ok) setKnown({ ...saved, content: typed, problem: '' })
          else setKnown((last) => ({ ...last, problem: saved.problem }))
        })
        .catch(() =>
          setKnown((last) => ({
            ...last,
            problem: 'The server does not answer. What you typed is still here.',
          })),
        )
        .finally(() => {
          isSaving.current = false
        })
    }, REST)
    return () => clearTimeout(timer)
  }, [typed, known])

  function become(next: DeskContent): void {
    before.current = [...before.current.slice(1 - MOST_UNDONE), typed]
    // What went wrong is tried again with what is typed next.
    if (known.problem !== '') setKnown({ ...known, problem: '' })
    setTyped(next)
  }
  return {
    ...known,
    typed,
    isSettled: known.content === typed && known.problem === '',
    change: (part) => become({ ...typed, ...part }),
    changeLine: (at, part) =>
      become({
        ...typed,
        lines: typed.lines.map((line, place) => (place === at ? { ...line, ...part } : line)),
      }),
    addLines: (lines) => become({ ...typed, lines: lines.reduce(withLine, typed.lines) }),
    removeLine: (at) => become({ ...typed, lines: typed.lines.filter((_, place) => place !== at) }),
    undo: () => {
      const last = before.current.pop()
      if (last) setTyped(last)
    },
  }
}

/** What is there already becomes more. */
function withLine(lines: readonly DeskLine[], wanted: DeskLine): readonly DeskLine[] {
  const at = lines.findIndex(
    ({ sku, extras, price }) =>
      sku.toLowerCase() === wanted.sku.toLowerCase() &&
      extras.join() === wanted.extras.join() &&
      price === '',
  )
  const same = lines[at]
  const [has, more] = [Number(same?.quantity), Number(wanted.quantity)]
  if (!same || !Number.isInteger(has) || !Number.isInteger(more)) return [...lines, wanted]
  return lines.with(at, { ...same, quantity: String(has + more) })
}
