'use client'

import { useFrame } from '@/ui/frame/frame-context'
import { toast } from 'sonner'
import { type RecordReference, takeOutOfDraft } from '../draft-actions'

/** Takes one change out of a draft. */
export function TakeOut({
  code,
  record,
  title,
}: {
  readonly code: string
  readonly record: RecordReference
  readonly title: string
}) {
  const { pricesChanged } = useFrame()
  async function take() {
    const outcome = await takeOutOfDraft(code, [record])
    if (!outcome.ok) return void toast.error(outcome.problem)
    if (outcome.changeSet !== undefined) pricesChanged(outcome.changeSet)
    toast(`${title}: removed from the draft.`)
  }
  return (
    <button type="button" className="link-name" aria-label={`Remove: ${title}`} onClick={() => void take()}>
      Remove
    </button>
  )
}
