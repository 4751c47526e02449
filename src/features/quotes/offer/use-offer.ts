'use client'

import type { WorkingLine, WorkingOffer } from '@/server/quotes/quote-shape'
import { useAnswer } from '@/ui/frame/use-answer'
import { useState } from 'react'
import type { OfferFigures, QuoteView } from './offer-view'

/** How long typing must rest before figures are asked for, in milliseconds. */
const REST = 150

/** An offer while it is written: what is typed, and what it comes to. */
export interface OfferBeingWritten {
  readonly working: WorkingOffer
  readonly figures: OfferFigures
  /** Whether the figures are of what stands there now. */
  readonly isSettled: boolean
  readonly isOff: boolean
  readonly isChanged: boolean
  readonly change: (part: Partial<WorkingOffer>) => void
  readonly changeLine: (at: number, part: Partial<WorkingLine>) => void
  readonly addLine: (line: WorkingLine) => void
  /** With what is offered instead of it. */
  readonly removeLine: (at: number) => void
}

export function useOffer(view: QuoteView): OfferBeingWritten {
  const [working, setWorking] = useState(view.working)
  const { answer, isSettled, isOff } = useAnswer<WorkingOffer, OfferFigures>(
    `/api/quotes/${view.number}/figures`,
    working,
    { first: view.figures, firstOf: view.working, rest: REST },
  )
  return {
    ...{ working, figures: answer, isSettled, isOff },
    isChanged: working !== view.working,
    change: (part) => setWorking({ ...working, ...part }),
    changeLine: (at, part) =>
      setWorking({
        ...working,
        lines: working.lines.map((line, place) => (place === at ? { ...line, ...part } : line)),
      }),
    addLine: (line) => setWorking({ ...working, lines: [...working.lines, line] }),
    removeLine: (at) => setWorking({ ...working, lines: withoutLine(working.lines, at) }),
  }
}

/** The lines without one and what is offered instead of it; positions of the others follow. */
function withoutLine(lines: readonly WorkingLine[], gone: number): readonly WorkingLine[] {
  const kept = lines.flatMap((line, at) => (at === gone || line.insteadOf === gone ? [] : [at]))
  return kept.map((at) => {
    const line = lines[at] as WorkingLine
    return line.insteadOf === null ? line : { ...line, insteadOf: kept.indexOf(line.insteadOf) }
  })
}
