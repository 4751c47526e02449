'use client'

import { useState } from 'react'
import { PickerPanel } from '../panel/picker-panel'
import { Key } from '../panel/picker-parts'
import type { StripProps } from './strip'
import { useDone } from '../panel/use-done'

interface ChoiceStripProps extends StripProps {
  readonly name: string
  readonly hint: string
  readonly options: readonly { readonly value: string; readonly name: string }[]
}

/** One of a few: a click or a number keeps it at once. */
export function ChoiceStrip({
  label,
  name,
  hint,
  options,
  initial,
  onDone,
  onCancel,
  onChange,
}: ChoiceStripProps) {
  const [chosen, setChosen] = useState(initial)
  const { problem, isBusy, done } = useDone(onDone)
  const choose = (value: string) => {
    setChosen(value)
    onChange?.(options.find((each) => each.value === value)?.name ?? value)
  }
  return (
    <PickerPanel
      label={label}

      problem={problem}
      isBusy={isBusy}
      keys={
        <>
          <Key>↑</Key> <Key>↓</Key> or a number choose · <Key>Enter</Key> keeps it
        </>
      }
      onDone={() => void done(chosen)}
      onCancel={onCancel}

      foot={<span className="text-soft">{hint || 'Choose one.'}</span>}
    >
      <fieldset
        className="grid grid-cols-[9rem_1fr] items-baseline gap-x-4 px-6 py-3"
        onKeyDown={({ key }) => {
          const option = /^[1-9]$/.test(key) ? options[Number(key) - 1] : undefined
          if (option) choose(option.value)
        }}
      >
        <legend className="sr-only">{name}</legend>
        <span className="text-soft" aria-hidden>
          {name}
        </span>
        <div className="flex flex-wrap gap-x-6 gap-y-1">
          {options.map(({ value, name: option }, at) => (
            <label key={value} className="flex items-center gap-2">
              <input
                type="radio"
                name={`choice-${name}`}
                autoFocus={value === chosen}
                checked={value === chosen}
                value={value}
                onChange={() => choose(value)}
                onDoubleClick={() => void done(value)}
              />
              <span className={value === chosen ? 'font-semibold' : ''}>{option}</span>
              {at < 9 && <Key>{at + 1}</Key>}
            </label>
          ))}
        </div>
      </fieldset>
    </PickerPanel>
  )
}
