'use client'

import type { Settlement } from '@/core/drafts/amend'
import { useFrame } from '@/ui/frame/frame-context'
import { VantageLink } from '@/ui/frame/vantage-link'
import { useId, useState } from 'react'
import { toast } from 'sonner'
import { settleConflict } from '../draft-actions'
import type { ConflictView } from './review-view'

/** A conflict with live, and the ways to settle it. */
export function SettleForm({ code, conflict }: { readonly code: string; readonly conflict: ConflictView }) {
  const { pricesChanged } = useFrame()
  const [problem, setProblem] = useState('')
  async function settle(settlement: Settlement) {
    const outcome = await settleConflict(code, conflict.record, settlement)
    if (!outcome.ok) return setProblem(outcome.problem)
    setProblem('')
    if (outcome.changeSet !== undefined) pricesChanged(outcome.changeSet)
    toast('Settled.')
  }
  return (
    <section
      className="border-l-2 border-accent bg-lifted py-2 pr-2 pl-3"
      aria-label={`Conflict: ${conflict.title}`}
    >
      <p>
        {conflict.href ? (
          <VantageLink href={conflict.href} className="link-name">
            {conflict.title}
          </VantageLink>
        ) : (
          <b>{conflict.title}</b>
        )}{' '}
        {conflict.because}
      </p>
      {conflict.fields.map((field) => (
        <FieldChoice key={field.field} field={field} onSettle={settle} />
      ))}
      {conflict.whole && (
        <p className="flex flex-wrap gap-x-4 pt-1">
          {conflict.whole.mine !== '' && (
            <button type="button" className="link-name" onClick={() => void settle({ keep: 'mine' })}>
              {conflict.whole.mine}
            </button>
          )}
          <button type="button" className="link-name" onClick={() => void settle({ keep: 'live' })}>
            {conflict.whole.theirs}
          </button>
        </p>
      )}
      {problem && (
        <p role="alert" className="pt-1 text-error">
          {problem}
        </p>
      )}
    </section>
  )
}

type Kept = 'live' | 'mine' | 'another'

function FieldChoice({
  field: { field, name, mine, theirs, isPlain },
  onSettle,
}: {
  readonly field: ConflictView['fields'][number]
  readonly onSettle: (settlement: Settlement) => Promise<void>
}) {
  const group = useId()
  const [kept, setKept] = useState<Kept>('mine')
  const [typed, setTyped] = useState('')
  const choice = (value: Kept, text: string, about: string) => (
    <label className="flex items-center gap-1.5">
      <input type="radio" name={group} checked={kept === value} onChange={() => setKept(value)} />
      <b>{text}</b> <span className="text-soft">{about}</span>
    </label>
  )
  return (
    <form
      className="flex flex-wrap items-center gap-x-4 gap-y-1 pt-1.5"
      onSubmit={(event) => {
        event.preventDefault()
        void onSettle(
          kept === 'another'
            ? { field, value: typed.trim() === '' ? null : typed.trim() }
            : { keep: kept, field },
        )
      }}
    >
      <span className="text-soft">{name}</span>
      {choice('live', theirs || 'nothing', 'is live')}
      {choice('mine', mine || 'nothing', 'says the draft')}
      {isPlain && (
        <label className="flex items-center gap-1.5">
          <input type="radio" name={group} checked={kept === 'another'} onChange={() => setKept('another')} />
          another
          <input
            aria-label={`Another value for ${name}`}
            className="w-20 border border-base-300 bg-base-100 px-1.5 py-0.5"
            value={typed}
            onFocus={() => setKept('another')}
            onChange={(event) => setTyped(event.target.value)}
          />
        </label>
      )}
      <button type="submit" className="btn btn-primary btn-xs">
        Settle
      </button>
    </form>
  )
}
