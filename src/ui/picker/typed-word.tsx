'use client'

import { useState } from 'react'
import { PickerButtons } from './picker-buttons'
import { WordPopover } from './word-popover'

interface TypedWordProps {
  readonly word: string
  readonly label: string
  readonly initial: string
  /** What can be typed. */
  readonly hint: string
  readonly disabled: boolean
  /** Resolves to what is wrong, or `null` when it was taken. */
  readonly onSave: (typed: string) => Promise<string | null>
}

/** A word of a sentence that is changed by typing. */
export function TypedWord({ word, label, initial, hint, disabled, onSave }: TypedWordProps) {
  return (
    <WordPopover word={word} label={label} disabled={disabled}>
      {(close) => <TypedForm label={label} initial={initial} hint={hint} onSave={onSave} onDone={close} />}
    </WordPopover>
  )
}

function TypedForm({
  label,
  initial,
  hint,
  onSave,
  onDone,
}: Pick<TypedWordProps, 'label' | 'initial' | 'hint' | 'onSave'> & { readonly onDone: () => void }) {
  const [typed, setTyped] = useState(initial)
  const [problem, setProblem] = useState<string | null>(null)
  return (
    <form
      className="flex flex-col gap-2 p-3"
      onSubmit={(event) => {
        event.preventDefault()
        void onSave(typed).then((wrong) => (wrong === null ? onDone() : setProblem(wrong)))
      }}
    >
      <label className="flex flex-col gap-1">
        <span className="text-xs font-semibold">{label}</span>
        <input
          autoFocus
          aria-invalid={problem !== null}
          className="border border-base-300 bg-lifted px-2 py-1 aria-[invalid=true]:border-error"
          value={typed}
          onChange={(event) => setTyped(event.target.value)}
          onFocus={(event) => event.target.select()}
        />
      </label>
      {!problem && <p className="text-xs text-soft">{hint}</p>}
      <PickerButtons problem={problem} onCancel={onDone} />
    </form>
  )
}
