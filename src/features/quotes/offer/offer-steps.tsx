'use client'

import type { AgreedWith } from '@/sheet/price-lines/party'
import { useState, useTransition } from 'react'
import { VantageLink } from '@/ui/frame/vantage-link'
import type { QuoteView } from './offer-view'
import { KeepPricesForm } from './keep-prices-form'
import { keepForLater, keepPrices, type QuoteActed, sendOffer, takeMerchantStep } from '../quote-actions'
import type { OfferBeingWritten } from './use-offer'

type Asking = 'refuse' | 'send-back' | 'note'

const ASKED: Readonly<Record<Asking, { readonly title: string; readonly button: string }>> = {
  refuse: { title: 'Why there is no offer; they read it', button: 'Refuse' },
  'send-back': { title: 'What should change', button: 'Send back' },
  note: { title: 'A note for us alone', button: 'Keep the note' },
}

/** What can be done with the quote now. */
export function OfferSteps({ view, offer }: { readonly view: QuoteView; readonly offer: OfferBeingWritten }) {
  const { number, version, workingVersion, steps, email, state } = view
  const [asking, setAsking] = useState<Asking | null>(null)
  const [isKeeping, setKeeping] = useState(false)
  const [text, setText] = useState('')
  const [outcome, setOutcome] = useState<QuoteActed | null>(null)
  const [isBusy, start] = useTransition()
  const seen = { number, version }
  function run(act: () => Promise<QuoteActed>): void {
    start(async () => {
      const acted = await act().catch((): QuoteActed => ({
        ok: false,
        problem: 'The server did not answer. Nothing was done; what you typed is still here.',
      }))
      setOutcome(acted)
      if (acted.ok) {
        setAsking(null)
        setKeeping(false)
        setText('')
      }
    })
  }
  const [only, ...others] = view.keepers
  const keepAs = (party: AgreedWith) => run(() => keepPrices(seen, party))
  function startKeeping(): void {
    if (others.length > 0) setKeeping(true)
    else if (only) keepAs(only.party)
  }
  const problem = outcome?.ok === false ? outcome.problem : ''
  const isReady = offer.isSettled && offer.figures.total !== null
  const below = offer.figures.lines.filter(({ isBelow }) => isBelow).length
  const needsApproval = below > 0 || (outcome?.ok === false && outcome.needsApproval === true)
  return (
    <footer className="border-t border-base-300 bg-base-100 px-6 py-2.5">
      {problem && (
        <p role="alert" className="pb-2 text-error">
          {problem}
        </p>
      )}
      {offer.isOff && (
        <p role="alert" className="pb-2 text-error">
          The server does not answer. What you typed is still here.
        </p>
      )}
      {isKeeping ? (
        <KeepPricesForm
          keepers={view.keepers}
          isBusy={isBusy}
          onKeep={keepAs}
          onBack={() => setKeeping(false)}
        />
      ) : asking ? (
        <form
          className="flex items-end gap-3"
          onSubmit={(event) => {
            event.preventDefault()
            run(() => takeMerchantStep(seen, asking, text))
          }}
          onKeyDown={(event) => event.key === 'Escape' && setAsking(null)}
        >
          <label className="flex-1">
            <span className="text-xs text-soft">{ASKED[asking].title}</span>
            <input
              autoFocus
              maxLength={4_000}
              className="w-full rounded-field border border-base-300 bg-lifted px-2 py-1"
              value={text}
              onChange={(event) => setText(event.target.value)}
            />
          </label>
          <button type="button" className="btn btn-sm" onClick={() => setAsking(null)}>
            Back
          </button>
          <button type="submit" className="btn btn-primary btn-sm" disabled={isBusy || text.trim() === ''}>
            {ASKED[asking].button}
          </button>
        </form>
      ) : (
        <div className="flex flex-wrap items-center gap-x-4 gap-y-2">
          <p className="mr-auto min-w-40 flex-1 text-soft">
            {state === 'approval' ? (
              'Somebody has to approve this offer before it is sent.'
            ) : steps.includes('offer') ? (
              <>
                Mailed to <b className="text-base-content">{email}</b>; if accepted, it becomes an order
                {needsApproval && view.least !== null && (
                  <span className="text-warning-content">
                    . {below} {below === 1 ? 'line leaves' : 'lines leave'} less than {view.least} % margin
                  </span>
                )}
              </>
            ) : (
              ''
            )}
          </p>
          {steps.includes('note') && (
            <button type="button" className="link-name" onClick={() => setAsking('note')}>
              Note
            </button>
          )}
          {steps.includes('keep-prices') && view.keptIn === null && only && (
            <button type="button" className="link-name" disabled={isBusy} onClick={startKeeping}>
              {others.length === 0 ? 'Make these their own prices' : 'Keep these prices …'}
            </button>
          )}
          <a
            className="link-name"
            href={`/api/quotes/${number}/paper`}
            target="_blank"
            hidden={view.offers.length === 0}
          >
            PDF
          </a>
          {steps.includes('refuse') && (
            <button type="button" className="link-name" onClick={() => setAsking('refuse')}>
              Refuse
            </button>
          )}
          {steps.includes('send-back') && (
            <button type="button" className="btn btn-sm" onClick={() => setAsking('send-back')}>
              Send back
            </button>
          )}
          {steps.includes('approve') && (
            <button
              type="button"
              className="btn btn-primary btn-sm"
              disabled={isBusy}
              onClick={() => run(() => takeMerchantStep(seen, 'approve', ''))}
            >
              Approve and send
            </button>
          )}
          {steps.includes('offer') && (
            <>
              <button
                type="button"
                className="btn btn-sm"
                disabled={isBusy || !offer.isChanged}
                onClick={() => run(() => keepForLater(number, workingVersion, offer.working))}
              >
                Keep for later
              </button>
              <button
                type="button"
                className="btn btn-primary btn-sm"
                disabled={isBusy || !isReady}
                onClick={() => run(() => sendOffer(seen, offer.working, needsApproval))}
              >
                {needsApproval
                  ? 'Ask for approval'
                  : view.offers.length > 0
                    ? 'Send this offer'
                    : 'Send the offer'}
              </button>
            </>
          )}
          {view.order !== null && (
            <VantageLink href={`/orders/${view.order}`} className="btn btn-primary btn-sm">
              Open order {view.order}
            </VantageLink>
          )}
        </div>
      )}
    </footer>
  )
}
