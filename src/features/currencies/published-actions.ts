'use server'

import { toRefusal } from '@/server/changes/to-refusal'
import { currentInstant } from '@/server/clock'
import { getSteppe } from '@/server/engine/steppe'
import { declinePublished, refreshRates, takePublished } from '@/server/rates/rate-service'
import { TEXT } from '@/server/session/argument-shapes'
import { currentAuthor } from '@/server/session/author'
import { merchantAction } from '@/server/session/permit'
import { currentView } from '@/server/views/current-view'
import { refusalSentence } from '@/ui/format/refusal-sentence'
import { refresh } from 'next/cache'

export type PublishedOutcome =
  | { readonly ok: true; readonly changeSet: number | null; readonly told: string }
  | { readonly ok: false; readonly problem: string }

/** Asks the service what it publishes now. */
export const askForRates = merchantAction('drafts:edit', [], async (): Promise<PublishedOutcome> => {
  const steppe = await getSteppe()
  const { problem, taken } = await refreshRates(steppe, currentInstant())
  refresh()
  if (problem !== '')
    return { ok: false, problem: `The published rates could not be read: ${problem}. Nothing was changed.` }
  return {
    ok: true,
    changeSet: taken.length === 0 ? null : steppe.lastChangeSet,
    told: taken.length === 0 ? 'Asked. No rate was changed.' : `Taken over: ${taken.join(', ')}.`,
  }
})

/** Uses the published rate of a currency from now on. */
export const takePublishedRate = merchantAction(
  'drafts:edit',
  [TEXT],
  async (currency: string): Promise<PublishedOutcome> => {
    const outcome = await takePublished(await currentView(), currency, {
      ...{ author: await currentAuthor(), at: currentInstant() },
    })
    if (outcome.ok) {
      refresh()
      return { ok: true, changeSet: outcome.changeSet, told: 'Used from now on.' }
    }
    return {
      ok: false,
      problem:
        outcome.code === 'not-published'
          ? 'It is not published any more.'
          : refusalSentence(toRefusal(outcome)),
    }
  },
)

/** Leaves the rate in force as it is, and is not told of this one again. */
export const leavePublishedRate = merchantAction(
  'drafts:edit',
  [TEXT],
  async (currency: string): Promise<PublishedOutcome> => {
    await declinePublished(await getSteppe(), currency)
    refresh()
    return { ok: true, changeSet: null, told: 'The rate in force stays until the next is published.' }
  },
)
