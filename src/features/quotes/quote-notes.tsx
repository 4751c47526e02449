'use client'

import type { WorkingOffer } from '@/server/quotes/quote-shape'
import { FileLinks } from '@/ui/format/file-links'
import type { QuoteView } from './offer/offer-view'

interface QuoteNotesProps {
  readonly view: QuoteView
  readonly working: WorkingOffer
  readonly isOpen: boolean
  readonly onMessage: (message: string) => void
}

/** What both sides said, what only the merchant sees, and what is said with the offer. */
export function QuoteNotes({
  view: { number, notes, files, offers, buyer },
  working,
  isOpen,
  onMessage,
}: QuoteNotesProps) {
  return (
    <div>
      <h2 className="flex justify-between border-b border-base-content pb-1 font-semibold">
        Notes
        {isOpen && (
          <span className="text-xs font-normal text-soft">In a price, type 21.45, -6%, -1 or m35</span>
        )}
      </h2>
      <ol aria-label="Notes">
        {notes.map(({ who, when, text, isInternal }, at) => (
          <li
            key={at}
            className="grid grid-cols-[9rem_1fr] gap-3 border-b border-dotted border-base-300 py-1.5"
          >
            <span className="text-xs leading-5 text-soft">{when}</span>
            <span className="whitespace-pre-line">
              <b>{who}</b>
              {isInternal && <span className="text-xs text-soft"> for us alone</span>} {text}
              {at === 0 && <FileLinks files={files} below={`/api/quotes/${number}/files`} />}
            </span>
          </li>
        ))}
      </ol>
      {isOpen && (
        <textarea
          rows={2}
          aria-label="Message with the offer"
          className="mt-2 w-full rounded-field border border-base-300 bg-lifted px-2 py-1"
          placeholder={`Write to ${buyer}, sent with the offer`}
          maxLength={4_000}
          value={working.message}
          onChange={(event) => onMessage(event.target.value)}
        />
      )}
      {offers.length > 0 && (
        <>
          <h2 className="mt-4 border-b border-base-content pb-1 font-semibold">Offers so far</h2>
          <ol aria-label="Offers so far">
            {offers.map(({ when, who, total, changes }, at) => (
              <li key={at} className="border-b border-dotted border-base-300 py-1.5">
                <b>{at + 1}.</b> {total}{' '}
                <span className="text-soft">
                  on {when} by {who}
                </span>
                {changes.length > 0 && <span className="block text-xs text-soft">{changes.join('; ')}</span>}
              </li>
            ))}
          </ol>
        </>
      )}
    </div>
  )
}
