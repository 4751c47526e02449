'use client'

import { useDrafts } from '@/ui/frame/drafts-context'
import { useFrame } from '@/ui/frame/frame-context'
import { useRouter } from 'next/navigation'
import { withVantage } from '@/ui/frame/vantage-url'
import { useState } from 'react'
import { startDraft } from './draft-actions'

/** Begins a draft and looks through it. */
export function StartForm() {
  const { vantage } = useFrame()
  const { renew } = useDrafts()
  const router = useRouter()
  const [name, setName] = useState('')
  const [problem, setProblem] = useState('')
  async function start() {
    const outcome = await startDraft(name)
    if (!outcome.ok) return setProblem(outcome.problem)
    renew()
    router.push(withVantage('/board', { ...vantage, draft: outcome.draft ?? null }))
  }
  return (
    <form
      className="flex items-center gap-2 pt-3"
      onSubmit={(event) => {
        event.preventDefault()
        void start()
      }}
    >
      <input
        aria-label="Name of the draft"
        aria-invalid={problem !== ''}
        placeholder="Spring"
        className="w-56 border border-base-300 bg-lifted px-2 py-1"
        value={name}
        onChange={(event) => setName(event.target.value)}
      />
      <button type="submit" className="btn btn-primary btn-sm">
        Start a draft
      </button>
      {problem && (
        <span role="alert" className="text-error">
          {problem}
        </span>
      )}
    </form>
  )
}
