'use client'

import { useState } from 'react'
import { useDrafts } from './drafts-context'

export type StartDraft = (
  name: string,
) => Promise<
  { readonly ok: true; readonly draft?: string } | { readonly ok: false; readonly problem: string }
>

/** Begins a draft by its name. */
export function NewDraft({
  startDraft,
  onStarted,
}: {
  readonly startDraft: StartDraft
  readonly onStarted: (code: string) => void
}) {
  const { renew } = useDrafts()
  const [name, setName] = useState('')
  const [problem, setProblem] = useState('')
  async function start() {
    const outcome = await startDraft(name)
    if (!outcome.ok) return setProblem(outcome.problem)
    renew()
    onStarted(outcome.draft ?? '')
  }
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault()
        void start()
      }}
    >
      <div className="flex gap-2">
        <input
          aria-label="Name of a new draft"
          aria-invalid={problem !== ''}
          placeholder="New draft, such as Spring"
          className="max-w-64 min-w-0 flex-1 border border-base-300 bg-lifted px-2 py-1"
          value={name}
          onChange={(event) => setName(event.target.value)}
        />
        <button type="submit" className="btn btn-primary btn-sm">
          Start
        </button>
      </div>
      {problem && (
        <p role="alert" className="pt-1 text-xs text-error">
          {problem}
        </p>
      )}
    </form>
  )
}
