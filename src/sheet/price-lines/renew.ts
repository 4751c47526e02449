'use server'

import { TEXT, thingWith, TYPED } from '@/server/session/argument-shapes'
import { merchantAction } from '@/server/session/permit'
import { findByCode } from '@/core/catalogue/find-by-code'
import { type Decimal, parseDecimal } from '@/core/decimal/decimal'
import { typedAmount } from '@/core/decimal/written-amount'
import { movedYears, nextPeriod, type Period, yearsBetween } from '@/core/predicates/next-period'
import { readEnd, readLocal } from '@/core/predicates/schedule-text'
import type { PriceList } from '@/core/price/lines/price-list'
import { raiseBreaks } from '@/core/price/lines/raise-breaks'
import { codeFromName } from '@/core/store/code-from-name'
import { priceDigitsOf, type Store } from '@/core/store/store'
import { commit } from '@/server/changes/commit'
import type { ChangeRequest } from '@/server/changes/weigh'
import { toRefusal } from '@/server/changes/to-refusal'
import { currentInstant } from '@/server/clock'
import { currentView } from '@/server/views/current-view'
import { currentAuthor } from '@/server/session/author'
import { refusalSentence } from '@/ui/format/refusal-sentence'
import { recordHref } from '@/ui/frame/record-href'
import { refresh } from 'next/cache'
import Joi from 'joi'
import { randomUUID } from 'node:crypto'

/** What is renewed, and how: dates as they are typed, the percentage that prices rise by. */
export interface Renewal {
  readonly kind: 'contract' | 'price-list'
  readonly id: string
  readonly from: string
  readonly to: string
  readonly percent: string
}

const RENEWAL = thingWith({
  kind: Joi.valid('contract', 'price-list'),
  ...{ id: TYPED, from: TYPED, to: TYPED, percent: TYPED },
})

export type RenewOutcome =
  | { readonly ok: true; readonly href: string; readonly changeSet: number }
  | { readonly ok: false; readonly field: 'from' | 'to' | 'percent' | null; readonly problem: string }

type Read = { readonly ok: true; readonly period: Period; readonly percent: Decimal | null }

/** The period that would follow, for the fields to begin with; `null` for what has no end. */
export const suggestRenewal = merchantAction(
  'prices:look',
  [TEXT, TEXT],
  async (kind: Renewal['kind'], id: string): Promise<Period | null> => {
    const { store } = (await currentView()).prepared
    const period = periodOf(store, kind, id)
    return period?.to ? nextPeriod(period.from, period.to) : null
  },
)

/** Copies a contract with its own lists, or a dated list, with all lines, into the next period, prices raised or not. */
export const renew = merchantAction(
  'drafts:edit',
  [RENEWAL],
  async (renewal: Renewal): Promise<RenewOutcome> => {
    const read = readRenewal(renewal)
    if (!read.ok) return read
    const view = await currentView()
    const { store } = view.prepared
    const made =
      renewal.kind === 'contract'
        ? contractAfter(store, renewal.id, read)
        : listAfter(store, renewal.id, read)
    if (!made) return { ok: false, field: null, problem: 'It is gone. Reload the page.' }
    const outcome = await commit(view, made.requests, {
      author: await currentAuthor(),
      note: `${made.name}: renewed${read.percent ? ` with ${renewal.percent} %` : ''}`,
      at: currentInstant(),
    })
    if (!outcome.ok) return { ok: false, field: null, problem: refusalSentence(toRefusal(outcome)) }
    refresh()
    return { ok: true, href: made.href, changeSet: outcome.changeSet }
  },
)

function readRenewal({ from, to, percent }: Renewal): Read | Extract<RenewOutcome, { ok: false }> {
  const [start, end] = [readLocal(from), readEnd(to)]
  if (!start) return { ok: false, field: 'from', problem: `“${from}” is not a valid date.` }
  if (!end) return { ok: false, field: 'to', problem: `“${to}” is not a valid date.` }
  if (start >= end) return { ok: false, field: 'to', problem: 'It would end before it starts.' }
  const plain = typedAmount(percent.replace(/\s*%$/, '').replace(/^\+/, ''))
  const rise = plain === '' ? null : parseDecimal(plain)
  if (plain !== '' && rise === null)
    return { ok: false, field: 'percent', problem: `“${percent}” is not a percentage. Type 2, or −1.5.` }
  if (rise !== null && (Number(rise) <= -100 || Number(rise) > 1000))
    return { ok: false, field: 'percent', problem: 'A percentage above −100 and up to 1,000, please.' }
  return { ok: true, period: { from: start, to: end }, percent: rise === '0' ? null : rise }
}

function periodOf(store: Store, kind: Renewal['kind'], id: string) {
  const record = kind === 'contract' ? store.contract.get(id) : store['price-list'].get(id)?.schedule
  return record ? { from: record.from, to: record.to } : null
}

/** The name of what follows: its years moved on, else with a word behind it. */
function nextName(
  name: string,
  before: string | null,
  period: Period,
  taken: (name: string) => boolean,
): string {
  const years = before === null ? 1 : yearsBetween(before, period.from)
  const moved = years === null || years < 1 ? null : movedYears(name, years)
  if (moved !== null && !taken(moved)) return moved
  for (let number = 1; ; number += 1) {
    const next = `${name}, renewed${number === 1 ? '' : ` ${number}`}`
    if (!taken(next)) return next
  }
}

function contractAfter(store: Store, id: string, { period, percent }: Read) {
  const contract = store.contract.get(id)
  if (!contract) return null
  const name = nextName(contract.name, contract.from, period, (each) =>
    [...store.contract.values()].some((other) => other.name === each),
  )
  const code = codeFromName(contract.code, (each) => findByCode(store.contract, each) !== null, 'contract')
  const requests: ChangeRequest[] = []
  const lists = contract.lists.map((listId) => {
    const list = store['price-list'].get(listId)
    const isShared = [...store.contract.values()].some(
      (other) => other.id !== id && other.lists.includes(listId),
    )
    // A list that others stand before too goes on as it is.
    if (!list || isShared || list.audience.include.length > 0) return listId
    const copy = copyOfList(
      store,
      list,
      { ...list.schedule, ...(list.schedule.to && period) },
      period,
      percent,
    )
    requests.push(...copy.requests)
    return copy.id
  })
  const newId = randomUUID()
  const after = { ...contract, id: newId, code, name, ...period, lists, state: 'active' as const }
  return {
    name: contract.name,
    href: recordHref('contracts', code),
    requests: [...requests, { kind: 'contract' as const, id: newId, seen: null, after }],
  }
}

function listAfter(store: Store, id: string, { period, percent }: Read) {
  const list = store['price-list'].get(id)
  if (!list) return null
  const copy = copyOfList(store, list, { ...list.schedule, ...period }, period, percent)
  return { name: list.name, href: recordHref('price-lists', copy.code), requests: copy.requests }
}

function copyOfList(
  store: Store,
  list: PriceList,
  schedule: PriceList['schedule'],
  period: Period,
  percent: Decimal | null,
) {
  const id = randomUUID()
  const name = nextName(list.name, list.schedule.from, period, (each) =>
    [...store['price-list'].values()].some((other) => other.name === each),
  )
  const code = codeFromName(name, (each) => findByCode(store['price-list'], each) !== null, 'list')
  const digits = priceDigitsOf(store, list.currency)
  const raised = <Rule extends NonNullable<PriceList['defaultLine']>>(rule: Rule): Rule =>
    percent === null ? rule : { ...rule, ...raiseBreaks(rule, percent, digits) }
  const after = {
    ...list,
    id,
    code,
    name,
    schedule,
    defaultLine: list.defaultLine && raised(list.defaultLine),
  }
  const lines = [...store['price-line'].values()]
    .filter((line) => line.list === list.id)
    .map((line): ChangeRequest => {
      const lineId = randomUUID()
      return { kind: 'price-line', id: lineId, seen: null, after: { ...raised(line), id: lineId, list: id } }
    })
  const requests: readonly ChangeRequest[] = [{ kind: 'price-list', id, seen: null, after }, ...lines]
  return { id, code, requests }
}
