'use client'

import { useState } from 'react'

/**
 * A word of a sentence that is typed: Enter, or leaving it, says it, and Escape takes back what was typed. Keyed by its value, so
 * that it shows another one that comes from elsewhere. `width` is the least, in characters.
 */
export function TypedWord({
  label,
  value,
  placeholder,
  isWrong = false,
  isNumber = false,
  width,
  onDone,
}: {
  readonly label: string
  readonly value: string
  readonly placeholder: string
  readonly isWrong?: boolean
  /** Stands in a column of numbers. */
  readonly isNumber?: boolean
  readonly width: number
  readonly onDone: (text: string) => void
}) {
  const [text, setText] = useState(value)
  const done = () => {
    if (text.trim() !== value) onDone(text.trim())
  }
  return (
    <input
      aria-label={label}
      aria-invalid={isWrong}
      placeholder={placeholder}
      className={`[field-sizing:content] max-w-full bg-transparent word text-base-content aria-[invalid=true]:border-error ${isNumber ? 'text-right' : ''}`}
      style={{ minWidth: `${width}ch` }}
      value={text}
      onChange={(event) => setText(event.target.value)}
      onBlur={done}
      onKeyDown={(event) => {
        if (event.key === 'Enter') done()
        if (event.key === 'Escape') setText(value)
      }}
    />
  )
}
