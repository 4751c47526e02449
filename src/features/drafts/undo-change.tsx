'use client'

import { useDrafts } from '@/ui/frame/drafts-context'
import { useFrame } from '@/ui/frame/frame-context'
import { withVantage } from '@/ui/frame/vantage-url'
import { useRouter } from 'next/navigation'
import { useState } from 'react'
import { toast } from 'sonner'
import { reverseChange, reverseInDraft } from './draft-actions'

/** Undoes a change of live; what has been changed again since is settled in a draft. */
export function UndoChange({ changeSet, note }: { readonly changeSet: number; readonly note: string }) {
  const { vantage, pricesChanged } = useFrame()
  const { renew } = useDrafts()
  const router = useRouter()
  const [problem, setProblem] = useState('')
  async function undo() {
    const outcome = await reverseChange(changeSet)
    if (outcome.ok) {
      if (outcome.changeSet !== undefined) pricesChanged(outcome.changeSet)
      return void toast(`Undone: ${note}`)
    }
    if (outcome.conflicts) setProblem(outcome.problem)
    else toast.error(outcome.problem)
  }
  async function settle() {
    const outcome = await reverseInDraft(changeSet)
    if (!outcome.ok) return void toast.error(outcome.problem)
    renew()
    const draft = outcome.draft ?? ''
    router.push(withVantage(`/drafts/${encodeURIComponent(draft)}`, { ...vantage, draft }))
  }
  return (
    <>
      <button type="button" className="link-name" aria-label={`Undo: ${note}`} onClick={() => void undo()}>
        Undo
      </button>
      {problem && (
        <span role="alert" className="block text-left text-xs whitespace-normal text-error">
          {problem}{' '}
          <button type="button" className="link-name" onClick={() => void settle()}>
            Undo it in a draft, and settle it there
          </button>
        </span>
      )}
    </>
  )
}
