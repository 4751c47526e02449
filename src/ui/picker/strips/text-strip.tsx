'use client'

import { useState } from 'react'
import { PickerPanel } from '../panel/picker-panel'
import { Key } from '../panel/picker-parts'
import type { StripProps } from './strip'
import { useDone } from '../panel/use-done'

interface TextStripProps extends StripProps {
  readonly name: string
  readonly hint: string
  readonly isLong?: boolean
}

/** A word that is typed over. */
export function TextStrip({
  label,
  name,
  hint,
  initial,
  isLong = false,
  onDone,
  onCancel,
  onChange,
}: TextStripProps) {
  const [typed, setTyped] = useState(initial)
  const { problem, setProblem, isBusy, done } = useDone(onDone)
  const shared = {
    autoFocus: true,
    'aria-label': name,
    'aria-invalid': problem !== null,
    className:
      'w-full max-w-xl border border-base-300 bg-lifted px-2 py-1 text-sm focus:border-secondary aria-[invalid=true]:border-error',
    value: typed,
    onChange: (event: { target: { value: string } }) => {
      setTyped(event.target.value)
      setProblem(null)
      onChange?.(event.target.value.trim() || '…')
    },
  }
  return (
    <PickerPanel
      label={label}

      problem={problem}
      isBusy={isBusy}
      keys={<Key>Enter</Key>}
      onDone={() => void done(typed)}
      onCancel={onCancel}

      foot={<span className="text-soft">{hint || 'Type over it.'}</span>}
    >
      <div className="grid grid-cols-[9rem_1fr] items-baseline gap-x-4 px-6 py-3">
        <span className="text-soft">{name}</span>
        {isLong ? (
          <textarea {...shared} rows={3} />
        ) : (
          <input {...shared} onFocus={(event) => event.target.select()} />
        )}
      </div>
    </PickerPanel>
  )
}
