'use client'

import { instantOf, localText } from '@/ui/format/local-time'
import { useDrafts } from '@/ui/frame/drafts-context'
import { useFrame } from '@/ui/frame/frame-context'
import { VantageLink } from '@/ui/frame/vantage-link'
import { useRouter } from 'next/navigation'
import { useState } from 'react'
import { toast } from 'sonner'
import { keepUnplanned, planPublication, publishNow } from '../draft-actions'
import type { ReviewView } from './review-view'

/** Makes a draft live, now or at a set time. */
export function PublishForm({ view }: { readonly view: ReviewView }) {
  const { code, name, conflicts, proofs, changes, planned, timeZone, today } = view
  const broken = proofs.broken.filter(({ isBlocking, isBrokenLive }) => isBlocking && !isBrokenLive).length
  const { setVantage, pricesChanged } = useFrame()
  const { renew } = useDrafts()
  const router = useRouter()
  const [isLater, setLater] = useState(planned !== null)
  const [local, setLocal] = useState(() => localText(planned?.at ?? today, timeZone))
  const [override, setOverride] = useState('')
  const [reason, setReason] = useState(planned?.reason ?? '')
  const [problem, setProblem] = useState('')
  const [isBusy, setBusy] = useState(false)
  const stands = conflicts.length > 0
  async function publish() {
    setBusy(true)
    setProblem('')
    const outcome = isLater
      ? await planPublication(code, instantOf(local, timeZone), reason)
      : await publishNow(code, reason, override)
    setBusy(false)
    if (!outcome.ok) return setProblem(outcome.problem)
    renew()
    if (isLater) return void toast(`“${name}” will be published by itself.`)
    if (outcome.changeSet !== undefined) pricesChanged(outcome.changeSet)
    toast(`“${name}” is live.`)
    setVantage({ draft: null })
    router.push('/drafts')
  }
  return (
    <form
      aria-label="Publish"
      className="flex min-h-12 shrink-0 flex-wrap items-center gap-x-4 gap-y-1 border-t border-accent bg-warning px-4 py-2 text-warning-content"
      onSubmit={(event) => {
        event.preventDefault()
        void publish()
      }}
    >
      <span className="font-semibold">Publish “{name}”</span>
      <label className="flex items-center gap-1.5">
        <input type="radio" name="when" checked={!isLater} onChange={() => setLater(false)} /> now
      </label>
      <label className="flex items-center gap-1.5">
        <input type="radio" name="when" checked={isLater} onChange={() => setLater(true)} /> at
        <input
          type="datetime-local"
          aria-label={`When, in the time of ${timeZone}`}
          className="border border-base-300 bg-lifted px-2 py-1 text-base-content"
          value={local}
          onFocus={() => setLater(true)}
          onChange={(event) => setLocal(event.target.value)}
        />
      </label>
      <span className="text-xs">{timeZone.split('/').at(-1)?.replace('_', ' ')} time, all or nothing</span>
      <input
        aria-label="Why"
        placeholder="Why, for whoever asks later"
        className="min-w-36 flex-1 border border-base-300 bg-lifted px-2 py-1 text-base-content"
        value={reason}
        onChange={(event) => setReason(event.target.value)}
      />
      {broken > 0 && (
        <input
          aria-label="Why proofs are overridden"
          placeholder={`Why ${broken === 1 ? 'the broken proof is' : 'broken proofs are'} overridden`}
          className="min-w-52 border border-error bg-lifted px-2 py-1 text-base-content"
          value={override}
          onChange={(event) => setOverride(event.target.value)}
        />
      )}
      {(problem || stands || broken > 0) && (
        <span role="alert" className="font-semibold text-error">
          {problem || wayText(broken, conflicts.length)}
        </span>
      )}
      <span className="ml-auto flex items-center gap-2">
        {planned && (
          <button
            type="button"
            className="btn border-accent bg-transparent btn-sm"
            onClick={() =>
              void keepUnplanned(code).then((outcome) => {
                if (!outcome.ok) return setProblem(outcome.problem)
                setLater(false)
                renew()
              })
            }
          >
            Do not publish by itself
          </button>
        )}
        <VantageLink href="/board" className="btn border-accent bg-transparent font-semibold btn-sm">
          Back to the work
        </VantageLink>
        <button
          type="submit"
          className="btn btn-primary btn-sm"
          disabled={
            isBusy || changes.length === 0 || (!isLater && (stands || (broken > 0 && override.trim() === '')))
          }
        >
          {isBusy ? 'Publishing…' : isLater ? (planned ? 'Change the plan' : 'Publish then') : 'Publish now'}
        </button>
      </span>
    </form>
  )
}

/** What keeps a draft from being published. */
function wayText(proofs: number, conflicts: number): string {
  const parts = [
    proofs > 0 ? `${proofs} ${proofs === 1 ? 'proof' : 'proofs'}` : '',
    conflicts > 0 ? `${conflicts} ${conflicts === 1 ? 'conflict' : 'conflicts'}` : '',
  ].filter(Boolean)
  return `${parts.join(' and ')} in the way`
}
