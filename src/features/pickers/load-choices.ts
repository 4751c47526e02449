'use server'

import { TEXT, THING, thingWith, TYPED } from '@/server/session/argument-shapes'
import { merchantAction } from '@/server/session/permit'
import { readWhat } from '@/core/notation/what-text'
import type { What } from '@/core/predicates/what'
import type { Vantage } from '@/core/engine/context/vantage'
import { checkVantages } from '@/server/changes/check-amount-edits'
import { lookFrom } from '@/server/engine/look-from'
import { type RequestContext } from '@/server/engine/request-context'
import { currentView } from '@/server/views/current-view'
import type {
  FoundItem,
  ReadWords,
  VariantFound,
  WhatChoices,
  WhatMatched,
} from '@/ui/picker/what/what-choices'
import type { WhoChoices } from '@/ui/picker/who/who-choices'
import type { ChoiceSource, RecordChoices } from '@/ui/picker/records/record-choices'
import type { WhereChoices } from '@/ui/picker/where/where-choices'
import { DEFAULT_VANTAGE } from '@/ui/frame/vantage-url'
import { matchedBy } from './matched-scope'
import { findItems, findVariants, namedTerms, whatChoices } from './what-choices'
import Joi from 'joi'
import { CHOICE_SOURCE } from './choice-source'
import { recordChoices } from './record-choices'
import { whereChoices } from './where-choices'
import { whoChoices } from './who-choices'

const TERMS = Joi.array()
  .items(thingWith({ kind: TYPED }))
  .max(1_000)

const WHAT = thingWith({ include: TERMS, exclude: TERMS })

/** Everybody a rule can be for, for a picker that opens. */
export const loadWhoChoices = merchantAction('prices:look', [], async (): Promise<WhoChoices> => {
  return whoChoices((await currentView()).prepared.store)
})

/** Everything of the catalogue a rule can be for. */
export const loadWhatChoices = merchantAction(
  'prices:look',
  [WHAT],
  async (initial: What): Promise<WhatChoices> => {
    return whatChoices(await present(), initial)
  },
)

/** Products and variants that some words may mean. */
export const findWhatItems = merchantAction(
  'prices:look',
  [TEXT],
  async (words: string): Promise<readonly FoundItem[]> => {
    return findItems(await present(), String(words).slice(0, LONGEST_WORDS))
  },
)

/** Variants that some words may mean. */
export const findGifts = merchantAction(
  'prices:look',
  [TEXT],
  async (words: string): Promise<readonly VariantFound[]> => {
    return findVariants(await present(), String(words).slice(0, LONGEST_WORDS))
  },
)

/** What a scope matches by now. */
export const matchScope = merchantAction(
  'prices:look',
  [WHAT, THING],
  async (what: What, vantage: Vantage): Promise<WhatMatched> => {
    const isWrong = checkVantages([vantage]) !== null
    return matchedBy(isWrong ? await present() : await lookFrom(vantage), what)
  },
)

/** What is meant by words that were typed. */
export const readWhatWords = merchantAction(
  'prices:look',
  [TEXT],
  async (words: string): Promise<ReadWords> => {
    const { store } = (await currentView()).prepared
    const read = readWhat(store, String(words).slice(0, LONGEST_WORDS))
    if (!read.ok) return read
    return { ok: true, what: read.value, named: namedTerms(store, read.value) }
  },
)

/** Channels and regions a rule can be for. */
export const loadWhereChoices = merchantAction('prices:look', [], async (): Promise<WhereChoices> => {
  return whereChoices((await currentView()).prepared.store)
})

/** Records, or codes of a published list, to choose by name. */
export const loadRecordChoices = merchantAction(
  'prices:look',
  [CHOICE_SOURCE],
  async (from: ChoiceSource): Promise<RecordChoices> => {
    return recordChoices((await currentView()).prepared.store, from)
  },
)

const LONGEST_WORDS = 2_000

function present(): Promise<RequestContext> {
  return lookFrom(DEFAULT_VANTAGE)
}
