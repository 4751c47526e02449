'use client'

import { useId, useRef, useState } from 'react'

interface CellEditorProps {
  readonly label: string
  readonly initial: string
  /** Whether the text is there to be typed over. */
  readonly select: boolean
  /** What else is worth knowing while typing: which record the edit goes to. */
  readonly hint: string | null
  /** On which side of the figure the note is flush with it, so that it stays inside the grid. */
  readonly noteSide: 'left' | 'right'
  /** Resolves to what is wrong, or `null` when the edit was made. */
  readonly onSubmit: (typed: string) => Promise<string | null>
  readonly onClose: (how: 'done' | 'left') => void
}

/** One figure being typed, in its cell. Stays open with what was typed while something is wrong with it. */
export function CellEditor({ label, initial, select, hint, noteSide, onSubmit, onClose }: CellEditorProps) {
  const [typed, setTyped] = useState(initial)
  const [problem, setProblem] = useState<string | null>(null)
  const [busy, setBusy] = useState(false)
  const changed = useRef(false)
  const noteId = useId()
  const note = problem ?? hint

  async function submit(how: 'done' | 'left'): Promise<void> {
    if (busy) return
    if (!changed.current && typed === initial && how === 'left') return onClose('left')
    setBusy(true)
    const wrong = await onSubmit(typed)
    setBusy(false)
    if (wrong === null) onClose(how)
    else setProblem(wrong)
  }

  return (
    <span className="absolute inset-0 z-20">
      <input
        ref={(input) => {
          if (!input || input === document.activeElement || changed.current) return
          input.focus()
          if (select) input.select()
        }}
        aria-label={label}
        aria-invalid={problem !== null}
        aria-describedby={note ? noteId : undefined}
        className="h-full w-full bg-lifted px-2 text-right text-base-content outline-2 -outline-offset-2 outline-secondary aria-[invalid=true]:outline-error"
        value={typed}
        onChange={(event) => {
          changed.current = true
          setTyped(event.target.value)
        }}
        onBlur={() => void submit('left')}
        onKeyDown={(event) => {
          event.stopPropagation()
          if (event.key === 'Enter') {
            event.preventDefault()
            void submit('done')
          }
          if (event.key === 'Escape') {
            event.preventDefault()
            onClose('left')
          }
        }}
      />
      {note && (
        <span
          id={noteId}
          role={problem ? 'alert' : undefined}
          className={`absolute top-full ${noteSide === 'left' ? 'left-0' : 'right-0'} mt-0.5 block w-64 border px-2 py-1 text-left text-xs whitespace-normal ${
            problem ? 'border-error bg-base-100 text-error' : 'border-base-300 bg-base-100 text-soft'
          }`}
        >
          {note}
        </span>
      )}
    </span>
  )
}
