'use server'

import { NUMBER, TEXT, thingWith, TYPED } from '@/server/session/argument-shapes'
import { merchantAction } from '@/server/session/permit'
import { writeDate } from '@/core/notation/when-text'
import { readPlaceText } from '@/core/notation/place-text'
import { readEnd, readLocal } from '@/core/predicates/schedule-text'
import { commit } from '@/server/changes/commit'
import type { ChangeRequest } from '@/server/changes/weigh'
import { revisionAsOf } from '@/server/views/view'
import { toRefusal } from '@/server/changes/to-refusal'
import { currentView } from '@/server/views/current-view'
import { currentAuthor } from '@/server/session/author'
import { refusalSentence } from '@/ui/format/refusal-sentence'
import Joi from 'joi'
import { randomUUID } from 'node:crypto'
import {
  findTax,
  rateColumns,
  type RateEdit,
  placeKey,
  rateEdit,
  type RatePlace,
  readRates,
} from './rates-text'
import { currentInstant } from '@/server/clock'

/** What came of writing rates: how many, or everything that is wrong, with nothing written. */
export type RatesOutcome =
  | { readonly ok: true; readonly changed: number }
  | { readonly ok: false; readonly problems: readonly string[] }

const PLACE = thingWith({
  ...{ tax: TYPED, country: TYPED, state: TYPED },
  ...{ postcode: TYPED, city: TYPED },
  ...{ from: TYPED.allow(null), to: TYPED.allow(null) },
})
const PERCENTS = Joi.array().items(TYPED).max(1_000)
const NEW_RATES = thingWith({
  ...{ tax: TYPED, where: TYPED, from: TYPED, to: TYPED },
  ...{ percents: PERCENTS, reason: TYPED },
})
const COMING_RATES = thingWith({
  ...{ place: PLACE, from: TYPED, percents: PERCENTS, reason: TYPED },
})

/** Takes over rows pasted from a spreadsheet, all or none; `asOf` is the change set the grid shows. */
export const pasteRates = merchantAction(
  'drafts:edit',
  [TEXT, NUMBER],
  async (text: string, asOf: number): Promise<RatesOutcome> => {
    const { store } = (await currentView()).prepared
    const read = readRates(store, text, randomUUID)
    return read.ok ? write(read.edits, asOf, 'Tax rates pasted') : read
  },
)

/** Sets, changes or takes away one rate of the grid; `column` counts the classes, every class together first. */
export const setRate = merchantAction(
  'drafts:edit',
  [PLACE, NUMBER, TEXT, TEXT, NUMBER],
  async (
    place: RatePlace,
    column: number,
    text: string,
    reason: string,
    asOf: number,
  ): Promise<RatesOutcome> => {
    const { store } = (await currentView()).prepared
    const tax = findTax(store, place.tax)
    const taxClass = rateColumns(store)[column]
    if (!tax || taxClass === undefined) return { ok: false, problems: ['This row is gone. Reload the page.'] }
    const edit = rateEdit(store, tax, place, taxClass, text.trim().replace(/\s*%$/, ''), reason, randomUUID)
    if (typeof edit === 'string') return { ok: false, problems: [edit] }
    return write(edit ? [edit] : [], asOf, `${tax.name}: rate changed`)
  },
)

/** A new row: where it holds as it is typed, and a percentage for each class. */
export interface NewRates {
  readonly tax: string
  readonly where: string
  readonly from: string
  readonly to: string
  readonly percents: readonly string[]
  readonly reason: string
}

/** Adds a row of rates for a place. */
export const addRates = merchantAction(
  'drafts:edit',
  [NEW_RATES, NUMBER],
  async (
    { tax: code, where: typed, from: typedFrom, to: typedTo, percents, reason }: NewRates,
    asOf: number,
  ): Promise<RatesOutcome> => {
    const { store } = (await currentView()).prepared
    const tax = findTax(store, code)
    if (!tax) return { ok: false, problems: ['Choose the tax.'] }
    const where = readPlaceText(typed)
    if (!where.ok) return { ok: false, problems: [where.problem] }
    if (typed.trim() === '')
      return { ok: false, problems: ['Say where it holds: a country, or “everywhere” for all of them.'] }
    const [from, to] = [readLocal(typedFrom), readEnd(typedTo)]
    if (from === undefined || to === undefined)
      return {
        ok: false,
        problems: [
          `“${(from === undefined ? typedFrom : typedTo).trim()}” is not a valid date. Type 1 January 2027.`,
        ],
      }
    const place: RatePlace = { tax: tax.code, ...where.value, from, to }
    const key = placeKey(place)
    if (
      [...store['tax-rate'].values()].some(
        (rate) => rate.tax === tax.id && placeKey({ ...rate, tax: tax.code }) === key,
      )
    )
      return {
        ok: false,
        problems: [
          'There is a row for that place and time already. Change its figures, or let others follow from a later day.',
        ],
      }
    const edits: RateEdit[] = []
    for (const [at, taxClass] of rateColumns(store).entries()) {
      const percent = (percents[at] ?? '').trim().replace(/\s*%$/, '')
      if (percent === '') continue
      const edit = rateEdit(store, tax, place, taxClass, percent, reason, randomUUID)
      if (typeof edit === 'string') return { ok: false, problems: [edit] }
      if (edit) edits.push(edit)
    }
    if (edits.length === 0)
      return { ok: false, problems: ['Type a percentage for at least one class; 0 is a rate too.'] }
    return write(edits, asOf, `${tax.name}: rates added`)
  },
)

/** A rate row from a coming day on: the present one ends the day before. */
export interface ComingRates {
  readonly place: RatePlace
  /** As it is typed. */
  readonly from: string
  /** In the order of the columns; empty keeps what it is. */
  readonly percents: readonly string[]
  readonly reason: string
}

/** Lets a row of rates end on the day before another begins, and adds the one that follows, as one change. */
export const scheduleRates = merchantAction(
  'drafts:edit',
  [COMING_RATES, NUMBER],
  async ({ place, from: typed, percents, reason }: ComingRates, asOf: number): Promise<RatesOutcome> => {
    const { store } = (await currentView()).prepared
    const tax = findTax(store, place.tax)
    const from = readLocal(typed)
    if (!tax) return { ok: false, problems: ['This row is gone. Reload the page.'] }
    if (!from) return { ok: false, problems: [`“${typed.trim()}” is not a valid date. Type 1 January 2027.`] }
    if (place.from !== null && from <= place.from)
      return {
        ok: false,
        problems: [`It must begin after the present row, which begins on ${writeDate(place.from)}.`],
      }
    if (place.to !== null && from >= place.to)
      return { ok: false, problems: ['The present row ends before that day. Add a row for it instead.'] }
    const key = placeKey(place)
    const present = [...store['tax-rate'].values()].filter(
      (rate) => rate.tax === tax.id && placeKey({ ...rate, tax: tax.code }) === key,
    )
    const edits: RateEdit[] = present.map((rate) => ({ id: rate.id, after: { ...rate, to: from } }))
    const columns = rateColumns(store)
    for (const [at, taxClass] of columns.entries()) {
      const known = present.find((rate) => rate.taxClass === (taxClass?.id ?? null))
      const percent = (percents[at] ?? '').trim().replace(/\s*%$/, '') || known?.percent
      if (percent === undefined) continue
      const edit = rateEdit(
        store,
        tax,
        { ...place, from },
        taxClass,
        percent,
        reason || known?.reason || '',
        randomUUID,
      )
      if (typeof edit === 'string') return { ok: false, problems: [edit] }
      if (edit) edits.push(edit)
    }
    return write(edits, asOf, `${tax.name}: other rates from ${writeDate(from)}`)
  },
)

async function write(edits: readonly RateEdit[], asOf: number, note: string): Promise<RatesOutcome> {
  if (edits.length === 0) return { ok: true, changed: 0 }
  const view = await currentView()
  const requests = edits.map(({ id, after }): ChangeRequest => ({
    kind: 'tax-rate',
    id,
    seen: revisionAsOf(view, 'tax-rate', id, asOf),
    after,
  }))
  const outcome = await commit(view, requests, {
    author: await currentAuthor(),
    note,
    at: currentInstant(),
  })
  if (outcome.ok) return { ok: true, changed: outcome.changes.length }
  const refusal = toRefusal(outcome)
  return refusal.code === 'nothing-to-change'
    ? { ok: true, changed: 0 }
    : { ok: false, problems: [refusalSentence(refusal)] }
}
