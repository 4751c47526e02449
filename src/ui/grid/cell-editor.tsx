'use client'

import { useId, useRef, useState } from 'react'

/** Something to decide before an edit is made; the first option is what Enter means. */
export interface EditChoice {
  readonly question: string
  readonly options: readonly { readonly label: string; readonly run: () => Promise<string | null> }[]
}

/** What is wrong, what to decide first, or `null` when the edit was made. */
export type EditResult = string | EditChoice | null

interface CellEditorProps {
  readonly label: string
  readonly initial: string
  /** Whether the text is there to be typed over. */
  readonly select: boolean
  /** What else is worth knowing while typing: which record the edit goes to. */
  readonly hint: string | null
  /** On which side of the figure the note is flush with it, so that it stays inside the grid. */
  readonly noteSide: 'left' | 'right'
  readonly onSubmit: (typed: string) => Promise<EditResult>
  readonly onClose: (how: 'done' | 'left') => void
}

/** One figure being typed, in its cell. Stays open with what was typed while something is wrong with it. */
export function CellEditor({ label, initial, select, hint, noteSide, onSubmit, onClose }: CellEditorProps) {
  const [typed, setTyped] = useState(initial)
  const [problem, setProblem] = useState<string | null>(null)
  const [busy, setBusy] = useState(false)
  const changed = useRef(false)
  const noteId = useId()
  const [choice, setChoice] = useState<EditChoice | null>(null)
  const note = choice ? choice.question : (problem ?? hint)

  async function submit(how: 'done' | 'left'): Promise<void> {
    if (busy) return
    if (!changed.current && typed === initial && how === 'left') return onClose('left')
    if (choice) return how === 'left' ? onClose('left') : decide(0)
    await come(() => onSubmit(typed), how)
  }

  async function come(act: () => Promise<EditResult>, how: 'done' | 'left'): Promise<void> {
    setBusy(true)
    const result = await act()
    setBusy(false)
    setChoice(typeof result === 'object' ? result : null)
    if (result === null) onClose(how)
    else if (typeof result === 'string') setProblem(result)
  }

  function decide(at: number): Promise<void> {
    const option = choice?.options[at]
    return option ? come(option.run, 'done') : Promise.resolve()
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
          setChoice(null)
          setTyped(event.target.value)
        }}
        onBlur={(event) => {
          // The options of a choice are part of the editor.
          if (event.currentTarget.parentElement?.contains(event.relatedTarget)) return
          void submit('left')
        }}
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
          role={problem || choice ? 'alert' : undefined}
          className={`absolute top-full ${noteSide === 'left' ? 'left-0' : 'right-0'} mt-0.5 block w-64 border px-2 py-1 text-left text-xs whitespace-normal ${
            problem && !choice
              ? 'border-error bg-base-100 text-error'
              : 'border-base-300 bg-base-100 text-soft'
          }`}
        >
          {note}
          {choice && (
            <span className="flex flex-wrap gap-2 pt-1">
              {choice.options.map(({ label }, at) => (
                <button
                  key={label}
                  type="button"
                  className={`rounded-field border px-2 py-0.5 font-semibold text-base-content ${at === 0 ? 'border-primary' : 'border-base-300'}`}
                  disabled={busy}
                  onKeyDown={(event) => {
                    event.stopPropagation()
                    if (event.key === 'Escape') onClose('left')
                  }}
                  onMouseDown={(event) => event.preventDefault()}
                  onClick={() => void decide(at)}
                >
                  {label}
                </button>
              ))}
            </span>
          )}
        </span>
      )}
    </span>
  )
}
