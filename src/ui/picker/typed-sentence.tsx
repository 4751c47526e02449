import type { ReactNode } from 'react'

interface TypedSentenceProps {
  /** The word before the field. */
  readonly title: string
  readonly label: string
  readonly placeholder?: string
  readonly value: string
  readonly isWrong: boolean
  /** What is wrong with it, where that can be said. */
  readonly problem?: string
  readonly onType: (text: string) => void
  readonly children?: ReactNode
}

/** What a picker chooses, as a sentence that can be typed instead, and whether it is understood. */
export function TypedSentence({
  title,
  label,
  placeholder,
  value,
  isWrong,
  problem = 'not understood yet',
  onType,
  children,
}: TypedSentenceProps) {
  const isEmptyAndWrong = isWrong && value.trim() === ''
  return (
    <div className="flex flex-wrap items-center gap-x-3 gap-y-1 border-b border-base-300 px-6 py-2">
      <span className="text-soft">{title}</span>
      <input
        autoFocus
        aria-label={label}
        aria-invalid={isWrong && !isEmptyAndWrong}
        placeholder={placeholder}
        className="min-w-72 grow rounded-[3px] border-2 border-secondary bg-lifted px-2 py-1 font-semibold aria-[invalid=true]:border-error"
        value={value}
        onChange={(event) => onType(event.target.value)}
        onFocus={(event) => event.target.select()}
      />
      <span className={`text-xs ${isWrong ? 'text-error' : 'text-primary'}`}>
        {!isWrong ? 'understood' : isEmptyAndWrong ? '' : problem}
      </span>
      {children}
    </div>
  )
}
