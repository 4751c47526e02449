import type { ReactNode } from 'react'
import { Chips } from './panel/picker-parts'

interface ChosenTermsProps<Term> {
  /** The word before what is taken in: "For", "In", "What". */
  readonly title: string
  readonly chosen: { readonly include: readonly Term[]; readonly exclude: readonly Term[] }
  readonly keyOf: (term: Term) => string
  readonly nameOf: (term: Term) => string
  /** Said while nothing is left out. */
  readonly nothingOut: string
  readonly label: string
  readonly placeholder: string
  readonly typed: string
  readonly onType: (text: string) => void
  /** Taking in what is in removes it, and leaving out what is out. */
  readonly onTake: (term: Term) => void
  readonly onLeave: (term: Term) => void
  /** Behind the field. */
  readonly beside?: ReactNode
  readonly notes?: ReactNode
}

/** The head of a picker: what is taken in, with a field to type more, and what is left out. */
export function ChosenTerms<Term>({
  title,
  chosen,
  keyOf,
  nameOf,
  nothingOut,
  label,
  placeholder,
  typed,
  onType,
  onTake,
  onLeave,
  beside,
  notes,
}: ChosenTermsProps<Term>) {
  return (
    <div className="grid gap-1 border-b border-base-300 px-6 py-2">
      <Chips title={title} terms={chosen.include} keyOf={keyOf} nameOf={nameOf} onRemove={onTake}>
        <input
          autoFocus
          aria-label={label}
          placeholder={placeholder}
          className="min-w-64 grow bg-transparent py-0.5 outline-none"
          value={typed}
          onChange={(event) => onType(event.target.value)}
        />
        {beside}
      </Chips>
      <Chips title="but not" terms={chosen.exclude} keyOf={keyOf} nameOf={nameOf} isOut onRemove={onLeave}>
        {chosen.exclude.length === 0 && <span className="text-soft">{nothingOut}</span>}
        {notes}
      </Chips>
    </div>
  )
}
