'use client'

import { NO_ANSWER } from '@/ui/format/no-answer'
import { useFrame } from '@/ui/frame/frame-context'
import { useRouter } from 'next/navigation'
import { type Dispatch, type SetStateAction, useState, useTransition } from 'react'
import { toast } from 'sonner'
import type { PublishedView } from './load-published'
import {
  askForRates,
  leavePublishedRate,
  type PublishedOutcome,
  takePublishedRate,
} from './published-actions'

/** What is published of a currency beside what is in force, and what to do about it. */
export function PublishedRate({
  view,
  onTry,
}: {
  readonly view: PublishedView
  /** What is tried below, to see what it would make of real prices. */
  readonly onTry: Dispatch<SetStateAction<string>>
}) {
  const { currency, home, published, follows, isDeclined, isSimulated, asked } = view
  const [problem, setProblem] = useState('')
  const [isBusy, start] = useTransition()
  const router = useRouter()
  const { pricesChanged } = useFrame()
  const act = (ask: () => Promise<PublishedOutcome>) =>
    start(async () => {
      const outcome = await ask().catch((): PublishedOutcome => ({ ok: false, problem: NO_ANSWER }))
      setProblem(outcome.ok ? '' : outcome.problem)
      if (!outcome.ok) return
      toast(outcome.told)
      onTry((now) => (now === published?.rate ? '' : now))
      if (outcome.changeSet !== null) pricesChanged(outcome.changeSet)
      router.refresh()
    })
  const verdict = published?.verdict ?? null
  const isOffered = published?.rate && !(verdict === 'known' && follows)
  const waits = follows && verdict === 'leaps' && !isDeclined
  return (
    <section
      aria-label="Published rate"
      className={`mb-4 border-l-4 py-1 pl-4 ${waits ? 'border-warning' : 'border-base-300'}`}
    >
      <p>
        {published === null ? (
          'No rate has been published yet.'
        ) : published.rate === null ? (
          <>
            The reference rates of {published.day} leave {currency} out.
          </>
        ) : (
          <>
            Reference rate of {published.day}:{' '}
            <b>
              1 {home} = {published.rate} {currency}
            </b>
            {published.change !== '' && verdict !== 'known' && (
              <span className={waits ? 'font-semibold' : 'text-soft'}>
                , {published.change} from the one in force
              </span>
            )}
          </>
        )}
      </p>
      <p className="text-soft">{standing(view)}</p>
      {(problem || view.problem) && (
        <p role="alert" className="text-error">
          {problem || `It could not be read when it was asked last: ${view.problem}.`}
        </p>
      )}
      <p className="flex flex-wrap items-baseline gap-x-5 pt-1">
        {isOffered && (
          <button
            type="button"
            className={`btn btn-sm ${waits ? 'btn-primary' : ''}`}
            disabled={isBusy}
            onClick={() => act(() => takePublishedRate(currency))}
          >
            {follows ? 'Use this rate' : 'Use it, and follow the reference rates'}
          </button>
        )}
        {isOffered && (
          <button type="button" className="link-name" onClick={() => onTry(published.rate ?? '')}>
            See what it does to prices
          </button>
        )}
        {waits && (
          <button
            type="button"
            className="link-name"
            disabled={isBusy}
            onClick={() => act(() => leavePublishedRate(currency))}
          >
            Leave the rate as it is
          </button>
        )}
        <span className="text-soft">
          {isSimulated ? 'Made-up rates of the demo' : 'From the service of rates'}
          {asked && `, asked ${asked}`}
        </span>
        <button type="button" className="link-name" disabled={isBusy} onClick={() => act(askForRates)}>
          Ask now
        </button>
      </p>
    </section>
  )
}

function standing({ published, follows, isDeclined }: PublishedView): string {
  if (!follows)
    return 'The rate in force was typed. Reference rates are used by themselves once you have taken one.'
  switch (published?.verdict) {
    case 'known':
      return 'In force. The next one is used by itself, unless it moves by more than 5 %; a rate you type ends that.'
    case 'leaps':
      return isDeclined
        ? 'You left the rate as it is. The next one that is published is looked at anew.'
        : 'It moves by more than 5 %, so it waits for you.'
    case 'old':
      return 'It is too old to be used by itself: the service is late.'
    case 'missing':
      return 'The rate in force stays.'
    default:
      return 'It is used with the next look at the service.'
  }
}
