'use server'

import type { OrderStep } from '@/core/order/order-event'
import { currentInstant } from '@/server/clock'
import { DiskFullError } from '@/server/database/disk-room'
import { getSteppe } from '@/server/engine/steppe'
import { findOrder } from '@/server/orders/order-rows'
import { STEP } from '@/server/orders/order-shape'
import { takeStep } from '@/server/orders/take-step'
import { asMerchant, currentAuthor } from '@/server/session/author'
import { refusalSentence } from '@/ui/format/refusal-sentence'
import { refresh } from 'next/cache'
import { problemSentence } from './order-sentences'

/**
 * Takes a step with an order. `seen` is how many had been taken when it was looked at. Resolves to what is wrong, or `null`: then it
 * is taken.
 */
export async function takeOrderStep(number: number, seen: number, step: OrderStep): Promise<string | null> {
  await asMerchant()
  const { error, value } = STEP.validate(step, { convert: false }) as {
    readonly error?: Error
    readonly value: OrderStep
  }
  if (error || !Number.isSafeInteger(number) || !Number.isSafeInteger(seen))
    return 'This cannot be done. Reload the page, and try again.'
  const steppe = await getSteppe()
  const by = { author: await currentAuthor(), at: currentInstant() }
  try {
    const outcome = await takeStep(steppe, number, seen, value, by)
    if (outcome.ok) {
      refresh()
      return null
    }
    if (outcome.code === 'unknown-order') return `There is no order ${number}.`
    if (outcome.code === 'stale')
      return 'Somebody did something with this order a moment ago. Reload to see it; nothing was done twice, and what you typed is still here.'
    const order = await findOrder(steppe.database, number)
    return order ? problemSentence(outcome.problem, order.document) : `There is no order ${number}.`
  } catch (error) {
    if (error instanceof DiskFullError) return refusalSentence({ code: 'disk-full' })
    throw error
  }
}
