'use client'

import { useId, useRef, useState } from 'react'
import { PickerWord } from '@/ui/picker/picker-word'
import type { FieldView } from './record-view'

interface FieldRowProps {
  readonly view: FieldView
  /** What the sentence says while the picker of the field is open; `null` while it is closed. */
  readonly openWords: string | null
  readonly onOpen: () => void
  readonly disabled: boolean
  /** Resolves to what is wrong, or `null` when it was taken. */
  readonly onSave: (text: string) => Promise<string | null>
}

const INPUT =
  'w-full border border-transparent bg-transparent px-2 py-1 hover:border-base-300 focus:border-base-300 focus:bg-lifted aria-[invalid=true]:border-error'

/** A field of a record: what it says, typed over in place. Enter or leaving saves, Escape leaves it as it was. */
export function FieldRow({ view, openWords, onOpen, disabled, onSave }: FieldRowProps) {
  const [typed, setTyped] = useState<string | null>(null)
  const [problem, setProblem] = useState<string | null>(null)
  const hintId = useId()
  const saving = useRef<string | null>(null)
  const text = typed ?? view.text

  async function save(next: string): Promise<void> {
    if (next === view.text) {
      setTyped(null)
      return setProblem(null)
    }
    // Enter saves, and leaving the field would save the same once more.
    if (saving.current === next) return
    saving.current = next
    const wrong = await onSave(next)
    saving.current = null
    setProblem(wrong)
    if (wrong === null) setTyped(null)
  }
  const shared = {
    'aria-label': view.name,
    'aria-describedby': hintId,
    'aria-invalid': problem !== null,
    disabled,
    className: INPUT,
  }
  const leave = () => {
    setTyped(null)
    setProblem(null)
  }

  return (
    <div className="grid grid-cols-[9.5rem_1fr] items-baseline border-b border-dotted border-base-300 py-0.5">
      <dt className="text-soft">{view.name}</dt>
      <dd className="min-w-0">
        {view.control === 'who' || view.control === 'what' ? (
          <span className="px-2">
            <PickerWord
              word={openWords ?? view.phrase}
              label={view.name}
              isOpen={openWords !== null}
              disabled={disabled}
              onOpen={onOpen}
            />
          </span>
        ) : view.control === 'choice' ? (
          <select {...shared} value={text} onChange={(event) => void save(event.target.value)}>
            {view.options.map(({ value, name }) => (
              <option key={value} value={value}>
                {name}
              </option>
            ))}
          </select>
        ) : view.control === 'lines' ? (
          <textarea
            {...shared}
            rows={Math.max(1, text.split('\n').length)}
            value={text}
            onChange={(event) => setTyped(event.target.value)}
            onBlur={() => void save(text)}
            onKeyDown={(event) => event.key === 'Escape' && leave()}
          />
        ) : (
          <input
            {...shared}
            value={text}
            placeholder="–"
            onChange={(event) => setTyped(event.target.value)}
            onBlur={() => void save(text)}
            onKeyDown={(event) => {
              if (event.key === 'Enter') void save(text)
              if (event.key === 'Escape') leave()
            }}
          />
        )}
        {problem && (
          <p role="alert" className="px-2 text-xs text-error">
            {problem}
          </p>
        )}
        {!problem && typed === null && view.control === 'line' && view.phrase !== view.text && (
          <p className="px-2 text-xs text-soft">{view.phrase}</p>
        )}
        <p id={hintId} className={typed === null || problem ? 'sr-only' : 'px-2 text-xs text-soft'}>
          {view.hint}
        </p>
      </dd>
    </div>
  )
}
