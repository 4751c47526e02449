'use server'

import { THING } from '@/server/session/argument-shapes'
import { merchantAction } from '@/server/session/permit'
import { findMinorDigits } from '@/core/currency/iso-4217'
import { RECORD_DEFAULTS } from '@/core/store/record-defaults'
import type { Settings } from '@/core/store/store'
import { commit } from '@/server/changes/commit'
import type { ChangeRequest } from '@/server/changes/weigh'
import { toRefusal } from '@/server/changes/to-refusal'
import { getSteppe } from '@/server/engine/steppe'
import { currentAuthor } from '@/server/session/author'
import { refusalSentence } from '@/ui/format/refusal-sentence'
import { redirect } from 'next/navigation'
import { liveTarget } from '@/server/views/view'
import { currentInstant } from '@/server/clock'

/** What a store cannot do without. */
export interface SetUpInput {
  readonly name: string
  readonly currency: string
  readonly country: string
  readonly timeZone: string
  readonly taxBasis: 'net' | 'gross'
}

/** Makes an empty store with its first channel; everything else is made inside. Resolves to what is wrong. */
export const setUpStore = merchantAction('live:edit', [THING], async (input: SetUpInput): Promise<string> => {
  const steppe = await getSteppe()
  if (steppe.prepared) redirect('/board')
  const currency = input.currency.trim().toUpperCase()
  const settings: Settings = {
    ...RECORD_DEFAULTS.settings,
    name: input.name,
    currency,
    priceDigits: findMinorDigits(currency) ?? 2,
    timeZone: input.timeZone.trim(),
    country: input.country.trim().toUpperCase(),
    taxBasis: input.taxBasis === 'gross' ? 'gross' : 'net',
    comparedWith: 'public',
  }
  const channel = { ...RECORD_DEFAULTS.channel, code: 'web', name: 'Web shop' }
  const requests: readonly ChangeRequest[] = [
    { kind: 'settings', id: 'settings', seen: null, after: settings },
    { kind: 'channel', id: 'channel-web', seen: null, after: { id: 'channel-web', ...channel } },
  ]
  const outcome = await commit(liveTarget(steppe), requests, {
    author: await currentAuthor(),
    note: 'Set up the store',
    at: currentInstant(),
  })
  if (!outcome.ok) return refusalSentence(toRefusal(outcome))
  redirect('/board')
})
