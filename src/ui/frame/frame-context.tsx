'use client'

import { usePathname, useRouter, useSearchParams } from 'next/navigation'
import { createContext, type ReactNode, use, useCallback, useEffect, useMemo, useRef, useState } from 'react'
import type { Vantage } from '@/core/engine/context/vantage'
import { parseVantage, withVantage } from './vantage-url'

/** The price somebody asked "why?" about. */
export interface TraceTarget {
  readonly sku: string
  /** `null` follows the vantage. */
  readonly from: Vantage | null
}

interface Frame {
  readonly vantage: Vantage
  readonly setVantage: (change: Partial<Vantage>) => void
  /** Where somebody is looking while they scrub, before they release it; `null` when nobody scrubs. */
  readonly scrubbed: Vantage | null
  /** `null` goes back to where one stood. */
  readonly scrub: (change: Partial<Vantage> | null) => void
  /** An address with the vantage kept. */
  readonly href: (path: string) => string
  readonly trace: TraceTarget | null
  /** Asks why; `reveal` opens the panel when it is closed. */
  readonly showTrace: (target: TraceTarget, reveal: boolean) => void
  readonly traceOpen: boolean
  readonly setTraceOpen: (open: boolean) => void
  /** Tells that a change set was made in this window. */
  readonly pricesChanged: (changeSet: number) => void
  /** The latest change set made in this window; 0 before the first. */
  readonly latestChangeSet: number
}

const FrameContext = createContext<Frame | null>(null)

/** In milliseconds: a panel that came at once would move the cell from under a double click. */
const OPENS_AFTER = 350

/** Holds what every place of the merchant's frame shares: the vantage and the trace. */
export function FrameProvider({ children }: { readonly children: ReactNode }) {
  const fields = useSearchParams()
  const path = usePathname()
  const router = useRouter()
  const [trace, setTrace] = useState<TraceTarget | null>(null)
  // The place it is open on: elsewhere, and until something is chosen, the panel is a slim edge.
  const [traceOpenOn, setTraceOpenOn] = useState<string | null>(null)
  const [isFoldedByHand, setFoldedByHand] = useState(false)
  const opening = useRef<ReturnType<typeof setTimeout>>(undefined)
  const traceOpen = traceOpenOn === path
  const [passing, setPassing] = useState<{ readonly from: Vantage; readonly at: Vantage } | null>(null)
  const [latestChangeSet, setLatestChangeSet] = useState(0)
  const vantage = useMemo(() => parseVantage(fields), [fields])

  const setVantage = useCallback(
    (change: Partial<Vantage>) => {
      router.push(withVantage(`${path}?${fields.toString()}`, { ...vantage, ...change }), { scroll: false })
    },
    [router, path, fields, vantage],
  )
  const frame = useMemo<Frame>(
    () => ({
      vantage,
      setVantage,
      // Once one has arrived somewhere else, what was passed on the way is past.
      scrubbed: passing?.from === vantage ? passing.at : null,
      scrub: (change) => setPassing(change && { from: vantage, at: { ...vantage, ...change } }),
      href: (target) => withVantage(target, vantage),
      trace,
      showTrace: (target, reveal) => {
        setTrace(target)
        const isWanted = reveal || (path === '/board' && !isFoldedByHand)
        clearTimeout(opening.current)
        if (isWanted && !traceOpen) opening.current = setTimeout(() => setTraceOpenOn(path), OPENS_AFTER)
      },
      traceOpen,
      setTraceOpen: (open) => {
        // What was about to open must not undo what is asked for now.
        clearTimeout(opening.current)
        setTraceOpenOn(open ? path : null)
        setFoldedByHand(!open)
      },
      pricesChanged: setLatestChangeSet,
      latestChangeSet,
    }),
    [vantage, setVantage, passing, trace, traceOpen, isFoldedByHand, path, latestChangeSet],
  )
  return <FrameContext value={frame}>{children}</FrameContext>
}

/** Errors  throws outside the merchant's frame. */
export function useFrame(): Frame {
  const frame = use(FrameContext)
  if (!frame) throw new RangeError('useFrame outside the frame')
  return frame
}

/**
 * Asks the server again for a page that the browser kept from before a change made in this window, as it
 * does when one goes back.
 */
export function useFresh(asOf: number): void {
  const { latestChangeSet } = useFrame()
  // What the page changes while it is shown, it shows already: only what came before counts.
  const [latestBefore] = useState(latestChangeSet)
  const router = useRouter()
  useEffect(() => {
    if (asOf < latestBefore) router.refresh()
  }, [asOf, latestBefore, router])
}
