'use server'

import { THING } from '@/server/session/argument-shapes'
import { merchantAction } from '@/server/session/permit'
import { checkVantages } from '@/server/changes/check-amount-edits'
import { lookFrom } from '@/server/engine/look-from'
import { loadSheet } from '@/sheet/record/load-sheet'
import type { Vantage } from '@/core/engine/context/vantage'
import { loadSample } from './load-sample'
import { promotionDetails, promotionSentence } from './promotion-sentence'
import { orders } from '@/server/database/selling-schema'
import { currentView } from '@/server/views/current-view'
import { readOrder } from '@/server/orders/order-shape'
import { desc } from 'drizzle-orm'
import type { SampleLine, SampleOrder, SampleOutcome } from './sample-view'

const MOST_ORDERS = 30

/** The promotion a sample cart is of, with what is typed on its sheet. */
export interface SampleOf {
  /** `null` for one that is being made. */
  readonly label: string | null
  readonly copyOf: string | null
  readonly texts: Readonly<Record<string, string>>
  readonly vantage: Vantage
}

/** Prices a sample cart under a promotion as it would be, with nothing saved. */
export const trySample = merchantAction(
  'prices:look',
  [THING, THING],
  async (
    { label, copyOf, texts, vantage }: SampleOf,
    lines: readonly SampleLine[],
  ): Promise<SampleOutcome> => {
    if (checkVantages([vantage]) !== null) return { ok: false, problem: 'Reload the page, and try again.' }
    const sheet = { sentence: promotionSentence, details: promotionDetails, effect: noEffect }
    const loaded = await loadSheet(await lookFrom(vantage), 'promotion', { label, copyOf, texts }, sheet)
    return loaded
      ? loadSample(loaded, lines)
      : { ok: false, problem: 'This promotion is gone. Reload the page.' }
  },
)

/** The latest orders, to try a promotion on what was really bought. */
export const ordersToTry = merchantAction('orders:look', [], async (): Promise<readonly SampleOrder[]> => {
  const { database } = (await currentView()).steppe
  const rows = await database.select().from(orders).orderBy(desc(orders.number)).limit(MOST_ORDERS)
  return rows.map(({ number, document }) => {
    const { buyer, lines } = readOrder(document)
    const bought = lines.filter(({ isGift }) => !isGift)
    return {
      name: `${number}, ${buyer}: ${bought.length} ${bought.length === 1 ? 'line' : 'lines'}`,
      lines: bought.map(({ sku, quantity }) => ({ sku, quantity })),
    }
  })
})

function noEffect() {
  return { main: null, side: null }
}
