'use client'

import { createContext, type ReactNode, use, useCallback, useMemo, useState } from 'react'
import type { DraftsView } from './drafts-view'
import { useFrame } from './frame-context'
import { useLoaded } from './use-loaded'
import { withVantage } from './vantage-url'

interface Drafts {
  /** `null` until they are read. */
  readonly view: DraftsView | null
  /** Reads them again: something was changed that is no change of prices. */
  readonly renew: () => void
  /** Grows with every change, and every time they are read again. */
  readonly version: number
}

const DraftsContext = createContext<Drafts | null>(null)

/** What the frame knows of drafts, read anew with every change. */
export function DraftsProvider({ children }: { readonly children: ReactNode }) {
  const { vantage, latestChangeSet } = useFrame()
  const [renewed, setRenewed] = useState(0)
  const version = latestChangeSet + renewed
  const { value } = useLoaded<DraftsView>(withVantage('/api/drafts', vantage), version)
  const renew = useCallback(() => setRenewed((count) => count + 1), [])
  const drafts = useMemo(() => ({ view: value, renew, version }), [value, renew, version])
  return <DraftsContext value={drafts}>{children}</DraftsContext>
}

/** Errors  throws outside the merchant's frame. */
export function useDrafts(): Drafts {
  const drafts = use(DraftsContext)
  if (!drafts) throw new RangeError('useDrafts outside the frame')
  return drafts
}
