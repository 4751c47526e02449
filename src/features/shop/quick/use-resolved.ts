'use client'

import { useEffect, useState } from 'react'
import { isEmpty, type QuickRow } from './quick-rows'
import type { ResolvedOrder } from './resolved'

/** How long typing must rest before rows are looked up, in milliseconds. */
const REST = 200

export type Purpose = 'order' | 'quote'

export interface Resolved {
  /** What was found out last; rows that were typed since are as they were before. */
  readonly order: ResolvedOrder
  /** Whether that is of what stands there now. */
  readonly isSettled: boolean
  /** Whether the server did not answer. */
  readonly isOff: boolean
}

/** What typed rows come to, a moment after they were typed. */
export function useResolved(rows: readonly QuickRow[], first: ResolvedOrder, purpose: Purpose): Resolved {
  const [known, setKnown] = useState({ of: rows, order: first, isOff: false })
  const isNothing = rows.every(isEmpty)
  useEffect(() => {
    if (isNothing) return
    const stop = new AbortController()
    const timer = setTimeout(() => {
      fetch(`/api/shop/quick?for=${purpose}`, {
        method: 'POST',
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify(rows),
        signal: stop.signal,
      })
        .then(async (response) => {
          if (!response.ok) throw new Error(String(response.status))
          setKnown({ of: rows, order: (await response.json()) as ResolvedOrder, isOff: false })
        })
        .catch(() => {
          if (!stop.signal.aborted) setKnown((before) => ({ ...before, isOff: true }))
        })
    }, REST)
    return () => {
      clearTimeout(timer)
      stop.abort()
    }
  }, [rows, isNothing, purpose])
  if (isNothing) return { order: { ...first, rows: [] }, isSettled: true, isOff: false }
  return { order: known.order, isSettled: known.of === rows, isOff: known.isOff }
}
