'use client'

import { useState } from 'react'
import { useHotkeys } from 'react-hotkeys-hook'
import type { SaveOutcome } from './save-record'
import type { SheetView } from '../sheet-view'

interface SaveBarProps {
  readonly view: SheetView
  /** What saving would bring about. */
  readonly summary: string
  readonly isBusy: boolean
  readonly onSave: (revision?: number | null) => Promise<SaveOutcome>
  /** Forgets what is typed, in one field or in all. */
  readonly onDiscard: (field?: string) => void
}

/** What is typed and not saved: how much, what it would move, and the two ways on. */
export function SaveBar({ view, summary, isBusy, onSave, onDiscard }: SaveBarProps) {
  const [outcome, setOutcome] = useState<SaveOutcome | null>(null)
  const [isSaving, setSaving] = useState(false)
  const isNew = view.id === ''
  const count = Object.keys(view.texts).length

  async function save(revision?: number | null): Promise<void> {
    setSaving(true)
    try {
      setOutcome(await onSave(revision))
    } catch {
      setOutcome({ ok: false, problem: 'The server did not answer. Nothing is lost; try again.' })
    }
    setSaving(false)
  }
  useHotkeys('mod+s', (event) => {
    event.preventDefault()
    void save()
  })
  const failed = outcome && !outcome.ok ? outcome : null
  const shownProblem = failed?.problem ?? (isNew ? '' : view.refusal)
  return (
    <footer className="flex flex-wrap items-center gap-x-5 gap-y-1 border-t border-accent/40 bg-warning px-6 py-2 text-warning-content">
      <b>{isNew ? 'Not made yet' : `${count} ${count === 1 ? 'change' : 'changes'} not saved`}</b>
      {summary && <span>{summary}</span>}
      {shownProblem && (
        <p role="alert" className="font-semibold text-error">
          {shownProblem}
        </p>
      )}
      {failed?.conflicts?.map(({ field, name, theirs, mine }) => (
        <span key={field} className="flex flex-wrap items-baseline gap-2">
          {name}:
          <button type="button" className="btn btn-sm" onClick={() => onDiscard(field)}>
            Keep theirs, “{theirs || 'nothing'}”
          </button>
          <button type="button" className="btn btn-sm" onClick={() => void save(failed.revision ?? null)}>
            Put mine, “{mine || 'nothing'}”
          </button>
        </span>
      ))}
      <span className="ml-auto flex gap-3">
        {count > 0 && (
          <button type="button" className="btn btn-sm" onClick={() => onDiscard()}>
            Discard
          </button>
        )}
        <button
          type="button"
          className="btn btn-primary btn-sm"
          disabled={isSaving || isBusy}
          onClick={() => void save()}
        >
          {isNew ? 'Create' : 'Save'}
        </button>
      </span>
    </footer>
  )
}
