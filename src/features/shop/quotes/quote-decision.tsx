'use client'

import type { Decimal } from '@/core/decimal/decimal'
import { LOST_REASONS } from '@/core/quote/quote-event'
import { LOST_WORDS } from '@/ui/format/quote-phrases'
import { useRouter } from 'next/navigation'
import { useState, useTransition } from 'react'
import { Labelled, SHOP_INPUT } from '../frame/labelled'
import { acceptOffer, answerOffer, declineOffer, type QuoteAnswer } from './quote-actions'
import type { ShopQuoteView } from './shop-quote-view'

interface QuoteDecisionProps {
  readonly view: ShopQuoteView
  readonly lines: readonly number[]
  /** What they come to; `null` where they cannot be ordered. */
  readonly total: Decimal | null
}

/** What the buyer says to it: accept and order, answer, or decline. */
export function QuoteDecision({ view, lines, total }: QuoteDecisionProps) {
  const { number, version, steps, byCard } = view
  const [open, setOpen] = useState<'answer' | 'decline' | null>(null)
  const [message, setMessage] = useState('')
  const [reason, setReason] = useState('')
  const [reference, setReference] = useState('')
  const [card, setCard] = useState('')
  const [problems, setProblems] = useState<QuoteAnswer['problems']>({})
  const [isBusy, start] = useTransition()
  const router = useRouter()

  function run(act: () => Promise<QuoteAnswer>): void {
    start(async () => {
      const answer = await act().catch(() => ({
        problems: { all: 'The server did not answer. Nothing was done; try again.' } as const,
      }))
      // Where an order came of it, the order is what comes next.
      if (!answer) return
      setProblems(answer.problems)
      if (Object.keys(answer.problems).length === 0) router.refresh()
    })
  }
  const alert = (field: string) =>
    problems[field] && (
      <p role="alert" className="pt-2 text-error">
        {problems[field]}
      </p>
    )
  if (steps.length === 0) return null
  return (
    <div className="pt-4">
      {steps.includes('accept') && open === null && (
        <>
          <Labelled label="Your reference, if you have one">
            <input
              className={SHOP_INPUT}
              maxLength={60}
              autoComplete="off"
              value={reference}
              onChange={(event) => setReference(event.target.value)}
            />
          </Labelled>
          {byCard && (
            <div className="pt-2">
              <Labelled label="Card number (simulated)" problem={problems['card']}>
                <input
                  className={SHOP_INPUT}
                  inputMode="numeric"
                  aria-invalid={problems['card'] !== undefined}
                  value={card}
                  onChange={(event) => setCard(event.target.value)}
                />
              </Labelled>
            </div>
          )}
          <button
            type="button"
            className="btn mt-3 h-12 w-full text-base btn-primary"
            disabled={isBusy || total === null || lines.length === 0}
            onClick={() =>
              run(() => acceptOffer(number, version, { lines, total: total ?? '', reference, card }))
            }
          >
            {lines.length === view.lines.filter(({ insteadOf }) => insteadOf === null).length
              ? 'Accept and order'
              : `Accept ${lines.length} ${lines.length === 1 ? 'line' : 'lines'} and order`}
          </button>
        </>
      )}
      {open === null && (
        <div className="grid grid-cols-2 gap-3 pt-3">
          {steps.includes('answer') && (
            <button type="button" className="btn btn-outline" onClick={() => setOpen('answer')}>
              {steps.includes('accept') ? 'Answer' : 'Write to us'}
            </button>
          )}
          {steps.includes('decline') && (
            <button type="button" className="btn btn-outline" onClick={() => setOpen('decline')}>
              Decline
            </button>
          )}
        </div>
      )}
      {open !== null && (
        <form
          className="grid gap-3"
          onSubmit={(event) => {
            event.preventDefault()
            run(() =>
              open === 'answer'
                ? answerOffer(number, version, message)
                : declineOffer(number, version, { reason, message }),
            )
          }}
          onKeyDown={(event) => event.key === 'Escape' && setOpen(null)}
        >
          {open === 'decline' && (
            <Labelled label="Why not?" problem={problems['reason']}>
              <select
                className={SHOP_INPUT}
                autoFocus
                value={reason}
                onChange={(event) => setReason(event.target.value)}
              >
                <option value="">Choose a reason</option>
                {LOST_REASONS.map((each) => (
                  <option key={each} value={each}>
                    {LOST_WORDS[each]}
                  </option>
                ))}
              </select>
            </Labelled>
          )}
          <Labelled label={open === 'answer' ? 'What would settle it?' : 'Anything to add'}>
            <textarea
              className={SHOP_INPUT}
              rows={4}
              autoFocus={open === 'answer'}
              value={message}
              onChange={(event) => setMessage(event.target.value)}
            />
          </Labelled>
          <div className="grid grid-cols-2 gap-3">
            <button type="button" className="btn" onClick={() => setOpen(null)}>
              Back
            </button>
            <button type="submit" className="btn btn-primary" disabled={isBusy}>
              {open === 'answer' ? 'Send' : 'Decline the offer'}
            </button>
          </div>
        </form>
      )}
      {alert('all')}
    </div>
  )
}
