import type { ReactNode } from 'react'
import { MarkBox } from '../mark-box'
import type { Mark } from '../mark'

export function Heading({ children }: { readonly children: ReactNode }) {
  return <h2 className="pt-1 pb-0.5 text-xs font-semibold text-soft not-first:pt-3">{children}</h2>
}

export function Key({ children }: { readonly children: ReactNode }) {
  return (
    <kbd className="rounded-[3px] border border-base-content/25 bg-lifted px-1 text-xs text-base-content">
      {children}
    </kbd>
  )
}

interface ChipsProps<Term> {
  readonly title: string
  readonly terms: readonly Term[]
  readonly keyOf: (term: Term) => string
  readonly nameOf: (term: Term) => string
  readonly isOut?: boolean
  readonly onRemove: (term: Term) => void
  readonly children: ReactNode
}

export function Chips<Term>({
  title,
  terms,
  keyOf,
  nameOf,
  isOut = false,
  onRemove,
  children,
}: ChipsProps<Term>) {
  return (
    <div className="flex flex-wrap items-baseline gap-x-4 gap-y-1">
      <span className="w-14 text-soft">{title}</span>
      {terms.map((term) => (
        <span
          key={keyOf(term)}
          className={`border-b font-semibold ${isOut ? 'border-error' : 'border-primary'}`}
        >
          {nameOf(term)}{' '}
          <button
            type="button"
            aria-label={`Remove ${nameOf(term)}`}
            className="px-0.5 text-soft hover:text-error"
            onClick={() => onRemove(term)}
          >
            ×
          </button>
        </span>
      ))}
      {children}
    </div>
  )
}

const CHECKED: Readonly<Record<Mark, boolean | 'mixed'>> = {
  chosen: true,
  through: true,
  part: 'mixed',
  out: false,
  'out-through': false,
  none: false,
}
const SAID: Readonly<Record<Mark, string>> = {
  chosen: '',
  through: ', in through something else',
  part: ', in for a part',
  out: ', left out',
  'out-through': ', left out through something else',
  none: '',
}

interface ChoiceRowProps {
  readonly name: string
  /** Behind the name, in small: what kind of thing it is. */
  readonly kind?: string
  /** Steps to the right, in a tree. */
  readonly depth?: number
  readonly mark: Mark
  readonly about: ReactNode
  readonly onTake: () => void
  readonly onLeave: () => void
  readonly onUnder?: () => void
  /** Whether it can be opened; `null` for what has nothing below it. */
  readonly isOpen?: boolean | null
  /** Whether others beside it can be opened, so that it keeps the place for it. */
  readonly isInTree?: boolean
  readonly onOpen?: () => void
}

export function ChoiceRow(props: ChoiceRowProps) {
  const {
    name,
    kind,
    depth = 0,
    mark,
    about,
    onTake,
    onLeave,
    onUnder,
    isOpen = null,
    isInTree = false,
    onOpen,
  } = props
  const isOut = mark === 'out' || mark === 'out-through'
  return (
    <button
      type="button"
      role="checkbox"
      aria-checked={CHECKED[mark]}
      aria-label={`${name}${SAID[mark]}`}
      data-row
      style={depth === 0 ? undefined : { paddingLeft: `${0.25 + depth * 1.1}rem` }}
      className="flex w-full items-center gap-2 rounded-[3px] px-1 py-0.5 text-left hover:bg-base-200 focus:bg-chosen"
      onClick={onTake}
      onFocus={onUnder}
      onMouseEnter={onUnder}
      onKeyDown={(event) => {
        if (event.key === '-' || event.key === '−') {
          event.preventDefault()
          onLeave()
        } else if (
          (event.key === 'ArrowRight' && isOpen === false) ||
          (event.key === 'ArrowLeft' && isOpen)
        ) {
          event.preventDefault()
          onOpen?.()
        }
      }}
    >
      {isOpen === null && isInTree && <span aria-hidden className="w-3 shrink-0" />}
      {isOpen !== null && (
        <span
          aria-hidden
          className="w-3 shrink-0 text-center text-soft"
          onClick={(event) => {
            event.stopPropagation()
            onOpen?.()
          }}
        >
          {isOpen ? '▾' : '▸'}
        </span>
      )}
      <MarkBox mark={mark} />
      <span
        className={`min-w-0 grow truncate ${mark === 'chosen' ? 'font-semibold' : ''} ${isOut ? 'text-error line-through' : ''}`}
      >
        {name}
        {kind && <span className="text-xs font-normal text-soft"> {kind}</span>}
      </span>
      <span className="shrink-0 text-xs text-soft">{about}</span>
    </button>
  )
}

interface PickerFootProps {
  /** What it comes to, live. */
  readonly children: ReactNode
  readonly problem: string | null
  readonly isBusy: boolean
  /** What the keys do here, where it is not choosing in columns. */
  readonly keys?: ReactNode
  readonly onDone: () => void
  readonly onCancel: () => void
}

/** The foot of a picker: what is matched, the keys, and the two ways out. */
export function PickerFoot({ children, problem, isBusy, keys, onDone, onCancel }: PickerFootProps) {
  return (
    <footer className="flex items-center gap-x-6 gap-y-2 border-t border-base-300 bg-base-200 px-6 py-2 max-md:flex-wrap">
      <div className="min-w-0 grow">
        <p aria-live="polite" data-testid="reach">
          {children}
        </p>
        {problem ? (
          <p role="alert" className="text-error">
            {problem}
          </p>
        ) : (
          <p className="text-xs text-soft">
            {keys ?? (
              <>
                <Key>↑</Key> <Key>↓</Key> move · <Key>Space</Key> take in · <Key>−</Key> leave out ·{' '}
                <Key>⌫</Key> remove the last · <Key>Tab</Key> next column
              </>
            )}
          </p>
        )}
      </div>
      <button type="button" className="btn shrink-0 border-base-content/30" onClick={onCancel}>
        Cancel <Key>Esc</Key>
      </button>
      <button type="button" className="btn shrink-0 btn-primary" disabled={isBusy} onClick={onDone}>
        Done <Key>Enter</Key>
      </button>
    </footer>
  )
}
