'use client'

import { useFrame } from '@/ui/frame/frame-context'
import { NewDraft } from '@/ui/frame/new-draft'
import { withVantage } from '@/ui/frame/vantage-url'
import { useRouter } from 'next/navigation'
import { startDraft } from './draft-actions'

/** Begins a draft and looks through it. */
export function StartForm() {
  const { vantage } = useFrame()
  const router = useRouter()
  return (
    <div className="pt-3">
      <NewDraft
        startDraft={startDraft}
        onStarted={(draft) => router.push(withVantage('/board', { ...vantage, draft }))}
      />
    </div>
  )
}
