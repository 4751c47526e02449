'use server'

import { type ChangeRequest, commit } from '@/server/changes/commit'
import { revisionAsOf } from '@/server/changes/history'
import { toRefusal } from '@/server/changes/to-refusal'
import { getPrepared, getSteppe } from '@/server/engine/steppe'
import { asMerchant, currentAuthor } from '@/server/session/author'
import { refusalSentence } from '@/ui/format/refusal-sentence'
import { randomUUID } from 'node:crypto'
import { findTax, rateColumns, type RateEdit, rateEdit, type RatePlace, readRates } from './rates-text'
import { currentInstant } from '@/server/clock'

/** What came of writing rates: how many, or everything that is wrong, with nothing written. */
export type RatesOutcome =
  | { readonly ok: true; readonly changed: number }
  | { readonly ok: false; readonly problems: readonly string[] }

/** Takes over rows pasted from a spreadsheet, all or none; `asOf` is the change set the grid shows. */
export async function pasteRates(text: string, asOf: number): Promise<RatesOutcome> {
  await asMerchant()
  const { store } = getPrepared(await getSteppe())
  const read = readRates(store, text, randomUUID)
  return read.ok ? write(read.edits, asOf, 'Tax rates pasted') : read
}

/** Sets, changes or takes away one rate of the grid; `column` counts the classes, every class together first. */
export async function setRate(
  place: RatePlace,
  column: number,
  text: string,
  reason: string,
  asOf: number,
): Promise<RatesOutcome> {
  await asMerchant()
  const { store } = getPrepared(await getSteppe())
  const tax = findTax(store, place.tax)
  const taxClass = rateColumns(store)[column]
  if (!tax || taxClass === undefined) return { ok: false, problems: ['This row is gone. Reload the page.'] }
  const edit = rateEdit(store, tax, place, taxClass, text.trim().replace(/\s*%$/, ''), reason, randomUUID)
  if (typeof edit === 'string') return { ok: false, problems: [edit] }
  return write(edit ? [edit] : [], asOf, `${tax.name}: rate changed`)
}

async function write(edits: readonly RateEdit[], asOf: number, note: string): Promise<RatesOutcome> {
  if (edits.length === 0) return { ok: true, changed: 0 }
  const steppe = await getSteppe()
  const requests = edits.map(({ id, after }): ChangeRequest => ({
    kind: 'tax-rate',
    id,
    seen: revisionAsOf(steppe, 'tax-rate', id, asOf),
    after,
  }))
  const outcome = await commit(steppe, requests, {
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
