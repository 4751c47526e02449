'use client'

import { formatAmount } from '@/ui/format/amount'
import { useEffect, useRef, useState } from 'react'
import type { PastePlan } from './board-edits'

interface PastePanelProps {
  readonly plan: PastePlan
  /** Resolves to what is wrong, or `null` when all of it was written. */
  readonly onApply: () => Promise<string | null>
  readonly onClose: () => void
}

const SHOWN = 8

/** What a pasted block would change, before it does. */
export function PastePanel({ plan, onApply, onClose }: PastePanelProps) {
  const { changes, unchanged, problems } = plan
  const [problem, setProblem] = useState<string | null>(null)
  const [busy, setBusy] = useState(false)
  const first = useRef<HTMLButtonElement>(null)
  useEffect(() => first.current?.focus(), [plan])
  const size = [
    `${changes.length} ${changes.length === 1 ? 'figure changes' : 'figures change'}`,
    ...(unchanged > 0 ? [`${unchanged} the same`] : []),
    ...(problems.length > 0 ? [`${problems.length} cannot be changed`] : []),
  ].join(', ')
  return (
    <section
      aria-label="Figures to change"
      className="mx-4 border border-accent bg-warning px-3 py-2 text-warning-content"
      onKeyDown={(event) => {
        if (event.key !== 'Escape') return
        event.stopPropagation()
        onClose()
      }}
    >
      <h2 className="font-semibold">{size}</h2>
      <ul className="grid max-h-28 grid-cols-2 gap-x-8 overflow-auto py-1">
        {problems.slice(0, SHOWN).map((each, at) => (
          <li key={at} className="truncate text-error" title={each.problem}>
            {each.label}: {each.problem}
          </li>
        ))}
        {changes.slice(0, SHOWN).map(({ label, before, after, digits }, at) => (
          <li key={at} className="flex justify-between gap-3">
            <span className="truncate">{label}</span>
            <span className="shrink-0">
              {before === null ? 'none' : formatAmount(before, digits)} → <b>{formatAmount(after, digits)}</b>
            </span>
          </li>
        ))}
      </ul>
      {changes.length > SHOWN && <p>and {changes.length - SHOWN} more</p>}
      <p className="flex items-center gap-4 pt-1">
        {changes.length > 0 && (
          <button
            ref={first}
            type="button"
            className="btn btn-primary btn-xs"
            disabled={busy}
            onClick={() => {
              setBusy(true)
              void onApply().then((wrong) => {
                setBusy(false)
                setProblem(wrong)
              })
            }}
          >
            {changes.length === 1 ? 'Change it' : `Change these ${changes.length}`}
          </button>
        )}
        <button
          ref={changes.length === 0 ? first : undefined}
          type="button"
          className="underline"
          onClick={onClose}
        >
          Leave everything as it is
        </button>
        {problem && (
          <span role="alert" className="text-error">
            {problem}
          </span>
        )}
      </p>
    </section>
  )
}
