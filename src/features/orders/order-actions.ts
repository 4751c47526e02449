'use server'

import { NUMBER, THING } from '@/server/session/argument-shapes'
import { merchantAction } from '@/server/session/permit'
import type { OrderStep } from '@/core/order/order-event'
import { currentInstant } from '@/server/clock'
import { beginDeskOrder } from '@/server/desk/desk-rows'
import { EMPTY_DESK } from '@/server/desk/desk-shape'
import { DiskFullError } from '@/server/database/disk-room'
import { getSteppe } from '@/server/engine/steppe'
import { findOrder } from '@/server/orders/order-rows'
import { STEP } from '@/server/orders/order-shape'
import { takeStep } from '@/server/orders/take-step'
import { currentAuthor } from '@/server/session/author'
import { refusalSentence } from '@/ui/format/refusal-sentence'
import { refresh } from 'next/cache'
import { problemSentence } from './order-sentences'

/** Writes down at the desk what an order held, for the same buyer at today's prices. Resolves to where that is, or to what is wrong. */
export const writeDownAgain = merchantAction(
  'desk:work',
  [NUMBER],
  async (number: number): Promise<{ readonly to: string } | { readonly problem: string }> => {
    const steppe = await getSteppe()
    const order = Number.isSafeInteger(number) ? await findOrder(steppe.database, number) : null
    if (!order || !steppe.prepared) return { problem: 'There is no such order.' }
    const { store } = steppe.prepared
    const account = order.account === null ? undefined : store.account.get(order.account)
    const { document } = order
    const lines = document.lines.flatMap(({ variant, quantity, extras, isGift }) => {
      const sku = store.variant.get(variant)?.sku
      if (sku === undefined || isGift) return []
      const codes = extras.flatMap(({ id }) => store.extra.get(id)?.code ?? [])
      return [{ sku, quantity, extras: codes, price: '', reason: '' }]
    })
    if (lines.length === 0) return { problem: 'Nothing of it is sold any more.' }
    const content = {
      ...{ ...EMPTY_DESK, account: account?.code ?? '', lines },
      person: account?.emails.includes(document.email) ? document.email : '',
    }
    try {
      const by = { author: await currentAuthor(), at: currentInstant() }
      return { to: `/desk?order=${await beginDeskOrder(steppe, content, by)}` }
    } catch (error) {
      if (error instanceof DiskFullError) return { problem: refusalSentence({ code: 'disk-full' }) }
      throw error
    }
  },
)

/**
 * Takes a step with an order. `seen` is how many had been taken when it was looked at. Resolves to what is wrong, or `null`: then it
 * is taken.
 */
export const takeOrderStep = merchantAction(
  'orders:work',
  [NUMBER, NUMBER, THING],
  async (number: number, seen: number, step: OrderStep): Promise<string | null> => {
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
  },
)
