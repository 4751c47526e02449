'use client'

import { useEffect, useRef, useState } from 'react'
import type { WorkingLine, WorkingOffer } from '@/server/quotes/quote-shape'
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
  const [known, setKnown] = useState({ of: view.working, figures: view.figures, isOff: false })
  const asked = useRef(view.working)
  useEffect(() => {
    if (asked.current === working) return
    const stop = new AbortController()
    const timer = setTimeout(() => {
      asked.current = working
      fetch(`/api/quotes/${view.number}/figures`, {
        method: 'POST',
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify(working),
        signal: stop.signal,
      })
        .then(async (response) => {
          if (!response.ok) throw new Error(String(response.status))
          setKnown({ of: working, figures: (await response.json()) as OfferFigures, isOff: false })
        })
        .catch(() => {
          if (!stop.signal.aborted) setKnown((before) => ({ ...before, isOff: true }))
        })
    }, REST)
    return () => {
      clearTimeout(timer)
      stop.abort()
    }
  }, [working, view.number])
  return {
    ...{ working, figures: known.figures, isOff: known.isOff },
    isSettled: known.of === working,
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
