'use client'

import { useAnswer } from '@/ui/frame/use-answer'
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
  const isNothing = rows.every(isEmpty)
  const { answer, isSettled, isOff } = useAnswer<readonly QuickRow[], ResolvedOrder>(
    `/api/shop/quick?for=${purpose}`,
    isNothing ? null : rows,
    { first, firstOf: null, rest: REST },
  )
  if (isNothing) return { order: { ...first, rows: [] }, isSettled: true, isOff: false }
  return { order: answer, isSettled, isOff }
}
