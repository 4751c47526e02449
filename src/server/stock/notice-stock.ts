import 'server-only'

import { withStates } from '@/core/catalogue/stock'
import type { PreparedStore } from '@/core/engine/context/prepared-store'
import { restocked } from '@/core/engine/prepare'
import { inTurn } from '../changes/turns'
import type { Steppe } from '../engine/steppe'
import { stockStates } from './stock-levels'

/**
 * Lets the engine know which of some variants are out of stock by now, after their stock has moved. Only what ran out or came
 * in makes anything anew.
 */
export async function noticeStock(steppe: Steppe, variants: readonly string[]): Promise<void> {
  const { prepared } = steppe
  if (variants.length === 0 || !prepared) return
  const states = await stockStates(steppe.database, variants)
  if (withStates(prepared.store.outOfStock, states) === prepared.store.outOfStock) return
  await inTurn(
    steppe,
    () => null,
    async () => {
      // It may have moved on while others wrote.
      const now = await stockStates(steppe.database, variants)
      const told = (before: PreparedStore) => restocked(before, withStates(before.store.outOfStock, now))
      if (steppe.prepared) steppe.prepared = told(steppe.prepared)
      if (steppe.underWay?.after) steppe.underWay.after = told(steppe.underWay.after)
    },
  )
}
