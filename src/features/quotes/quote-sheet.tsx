'use client'

import { readLocal } from '@/core/predicates/schedule-text'
import { formatLocalDay } from '@/ui/format/instant'
import { QUOTE_STATE_WORDS } from '@/ui/format/quote-phrases'
import { TypedWord } from '@/ui/frame/typed-word'
import { VantageLink } from '@/ui/frame/vantage-link'
import { useState } from 'react'
import { LineAside } from './offer/line-aside'
import { OfferLines } from './offer/offer-lines'
import { OfferSums } from './offer/offer-sums'
import type { QuoteView } from './offer/offer-view'
import { OfferSteps } from './offer/offer-steps'
import { QuoteNotes } from './quote-notes'
import { useOffer } from './offer/use-offer'

/** One quote: what was asked for, the offer as it is written, and everything its price is thought about by. */
export function QuoteSheet({ view }: { readonly view: QuoteView }) {
  const { name, about, state, buyer, buyerHref, neededBy, order, as, number, keptIn } = view
  const offer = useOffer(view)
  const [focused, setFocused] = useState(0)
  const [problem, setProblem] = useState('')
  const { working, figures, change } = offer
  const isOpen = view.steps.includes('offer')
  const at = Math.min(focused, working.lines.length - 1)
  const line = working.lines[at]
  const known = figures.lines[at]
  function setUntil(text: string): void {
    const local = readLocal(text)
    setProblem(local ? '' : `“${text}” is no day. Write it like 28 January 2027.`)
    if (local) change({ until: local.slice(0, 10) })
  }
  return (
    <div className="flex min-h-0 flex-1" data-testid="quote">
      <section className="flex min-h-0 min-w-0 flex-1 flex-col" aria-label={`Quote ${name}`}>
        <div className="min-h-0 flex-1 overflow-auto px-6 pt-3 pb-6">
          <p className="flex justify-between gap-4">
            <VantageLink href="/quotes" className="link-name">
              Quotes
            </VantageLink>
            {as !== 'guest' && (
              <VantageLink
                href={`/look-as-buyer?page=${encodeURIComponent(`/shop/quotes/${number}`)}`}
                lookAs={as}
                className="link-name"
              >
                As the buyer sees it
              </VantageLink>
            )}
          </p>
          <h1 className="text-xl leading-7 font-semibold">
            Quote {name} <span className="text-base font-normal text-soft">{about} · </span>
            <span className="text-base font-semibold" data-testid="quote-state">
              {QUOTE_STATE_WORDS[state].toLowerCase()}
            </span>
          </h1>
          <p className="pt-1 text-base leading-8 text-soft">
            For{' '}
            {buyerHref === null ? (
              <b className="text-base-content">{buyer}</b>
            ) : (
              <VantageLink href={buyerHref} className="word text-base-content">
                {buyer}
              </VantageLink>
            )}
            , valid until{' '}
            {isOpen ? (
              <TypedWord
                key={working.until}
                label="Valid until"
                value={formatLocalDay(working.until)}
                placeholder="a day"
                width={8}
                isWrong={problem !== ''}
                onDone={setUntil}
              />
            ) : (
              <b className="text-base-content">{formatLocalDay(working.until)}</b>
            )}
            , paid{' '}
            <Word
              isOpen={isOpen}
              label="Payment terms"
              value={working.terms}
              usual="by card"
              onDone={(terms) => change({ terms })}
            />
            , delivered{' '}
            <Word
              isOpen={isOpen}
              label="Delivery"
              value={working.delivery}
              usual="as usual"
              onDone={(delivery) => change({ delivery })}
            />
            {neededBy !== '' && (
              <>
                . They need it by <b className="text-warning-content">{neededBy}</b>
              </>
            )}
          </p>
          {problem && (
            <p role="alert" className="text-error">
              {problem}
            </p>
          )}
          {order !== null && (
            <p className="pt-1">
              It became{' '}
              <VantageLink href={`/orders/${order}`} className="link-name">
                order {order}
              </VantageLink>
              .
            </p>
          )}
          {keptIn && (
            <p className="pt-1 text-soft">
              These prices wait in the draft{' '}
              <VantageLink href={`/drafts/${keptIn.draft}`} className="link-name">
                {keptIn.draft}
              </VantageLink>
              : once it is published, they hold.
            </p>
          )}
          <OfferLines view={view} offer={offer} isOpen={isOpen} focused={at} onFocus={setFocused} />
          <div className="grid gap-x-9 gap-y-4 pt-4 lg:grid-cols-[1.5fr_1fr]">
            <QuoteNotes
              view={view}
              working={working}
              isOpen={isOpen}
              onMessage={(message) => change({ message })}
            />
            <div className={offer.isSettled ? '' : 'opacity-60'}>
              <OfferSums view={view} figures={figures} />
            </div>
          </div>
        </div>
        <OfferSteps view={view} offer={offer} />
      </section>
      <aside
        className="w-72 shrink-0 overflow-auto border-l border-base-300 bg-lifted px-4 py-4"
        aria-label="About this line"
      >
        {line && known ? (
          <LineAside view={view} line={line} figures={known} until={working.until} />
        ) : (
          <p className="text-soft">Nothing is in this offer yet.</p>
        )}
      </aside>
    </div>
  )
}

interface WordProps {
  readonly isOpen: boolean
  readonly label: string
  readonly value: string
  /** What stands there where nothing is said. */
  readonly usual: string
  readonly onDone: (text: string) => void
}

function Word({ isOpen, label, value, usual, onDone }: WordProps) {
  if (!isOpen) return <b className="text-base-content">{value || usual}</b>
  return <TypedWord key={value} label={label} value={value} placeholder={usual} width={7} onDone={onDone} />
}
