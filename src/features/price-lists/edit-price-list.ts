'use server'

import { NUMBER, TEXT, THING } from '@/server/session/argument-shapes'
import { merchantAction } from '@/server/session/permit'
import type { Vantage } from '@/core/engine/context/vantage'
import type { What } from '@/core/predicates/what'
import { meansTheSame } from '@/core/store/same-meaning'
import { whatSentence } from '@/ui/format/rule-phrases'
import { readWhen } from '@/core/notation/when-text'
import { scheduleText } from '@/core/predicates/schedule-text'
import { nextPosition } from '@/core/price/lines/fix-price'
import { breaksText } from '@/core/price/lines/breaks-text'
import { commit } from '@/server/changes/commit'
import type { ChangeRequest } from '@/server/changes/weigh'
import { undo, type UndoOutcome, undoNote } from '@/server/changes/history'
import { revisionOf, type View } from '@/server/views/view'
import { toRefusal } from '@/server/changes/to-refusal'
import { lookFrom } from '@/server/engine/look-from'
import { currentView } from '@/server/views/current-view'
import { currentAuthor } from '@/server/session/author'
import type { SheetOutcome } from '@/ui/frame/use-sheet'
import { refusalSentence } from '@/ui/format/refusal-sentence'
import { randomUUID } from 'node:crypto'
import { readLineRule, readLineScope } from '@/sheet/price-lines/read-line'
import { loadPriceListSheet } from './load-price-lists'
import type { PriceListView } from './price-list-view'
import { currentInstant } from '@/server/clock'

type PriceListOutcome = SheetOutcome<PriceListView>

/** The sheet an edit was made on: which list, seen in which revision, looked at as whom. */
interface SheetReference {
  readonly id: string
  readonly code: string
  readonly revision: number
  readonly vantage: Vantage
}

/** Adds a line for a SKU, a product code or a category. */
export const addPriceLine = merchantAction(
  'drafts:edit',
  [THING, TEXT, TEXT],
  async (sheet: SheetReference, what: string, rule: string): Promise<PriceListOutcome> => {
    const view = await currentView()
    const { store } = view.prepared
    const scope = readLineScope(store, what)
    if (!scope.ok) return refuse(scope.problem)
    const read = readLineRule(store, rule)
    if (!read.ok) return read
    const lines = [...store['price-line'].values()].filter((line) => line.list === sheet.id)
    const same = lines.find((line) => meansTheSame(line.scope, scope.value))
    if (same) return refuse(`This list has a line for “${what.trim()}” already. Change its rule instead.`)
    const id = randomUUID()
    const after = {
      id,
      list: sheet.id,
      position: nextPosition(lines),
      scope: scope.value,
      schedule: null,
      rounding: null,
      ...read.value,
    }
    return save(
      view,
      sheet,
      { kind: 'price-line', id, seen: null, after },
      `New line for ${what.trim()}: ${rule.trim()}`,
    )
  },
)

/** Changes what a line is for. */
export const editLineScope = merchantAction(
  'drafts:edit',
  [THING, THING, TEXT],
  async (
    sheet: SheetReference,
    line: { readonly id: string; readonly what: What },
    typed: string,
  ): Promise<PriceListOutcome> => {
    const view = await currentView()
    const { store } = view.prepared
    const current = store['price-line'].get(line.id)
    if (!current) return refuse(GONE)
    if (!meansTheSame(current.scope, line.what))
      return refuse(
        `Somebody changed this line meanwhile: it is now for ${whatSentence(current.scope, store)}. Nothing was overwritten; reload to see it.`,
      )
    const read = readLineScope(store, typed)
    if (!read.ok) return refuse(read.problem)
    const seen = revisionOf(view, 'price-line', line.id)
    const after = { ...current, scope: read.value }
    return save(
      view,
      sheet,
      { kind: 'price-line', id: line.id, seen, after },
      `Line is for ${whatSentence(read.value, store)}`,
    )
  },
)

/** Changes the rule of a line; an empty rule takes the line away. */
export const editPriceLine = merchantAction(
  'drafts:edit',
  [THING, THING, TEXT],
  async (
    sheet: SheetReference,
    line: { readonly id: string; readonly rule: string },
    rule: string,
  ): Promise<PriceListOutcome> => {
    const view = await currentView()
    const current = view.prepared.store['price-line'].get(line.id)
    if (!current) return refuse(GONE)
    const { store } = view.prepared
    const now = breaksText(current, (list) => store['price-list'].get(list)?.code ?? list)
    if (now !== line.rule)
      return refuse(
        `Somebody changed this line meanwhile: you saw ${line.rule}, it is now ${now}. Nothing was overwritten; reload to see it.`,
      )
    const read = rule.trim() === '' ? null : readLineRule(store, rule)
    if (read && !read.ok) return read
    const seen = revisionOf(view, 'price-line', line.id)
    const after = read && { ...current, ...read.value }
    return save(
      view,
      sheet,
      { kind: 'price-line', id: line.id, seen, after },
      after ? `Line changed to ${rule.trim()}` : 'Line removed',
    )
  },
)

const GONE = 'Somebody removed this line meanwhile. Reload to see the list as it is.'

/** Changes when a line holds, beside when its list does; an empty text is whenever the list does. */
export const editLineWhen = merchantAction(
  'drafts:edit',
  [THING, THING, TEXT],
  async (
    sheet: SheetReference,
    line: { readonly id: string; readonly whenText: string },
    typed: string,
  ): Promise<PriceListOutcome> => {
    const view = await currentView()
    const current = view.prepared.store['price-line'].get(line.id)
    if (!current) return refuse(GONE)
    const now = current.schedule ? scheduleText(current.schedule) : ''
    if (now !== line.whenText)
      return refuse(
        `Somebody changed this line meanwhile: you saw ${line.whenText || 'always'}, it is now ${now || 'always'}. Nothing was overwritten; reload to see it.`,
      )
    const read = readWhen(typed)
    if (!read.ok) return read
    const schedule = scheduleText(read.value) === '' ? null : read.value
    const seen = revisionOf(view, 'price-line', line.id)
    const request: ChangeRequest = { kind: 'price-line', id: line.id, seen, after: { ...current, schedule } }
    return save(view, sheet, request, `Line holds ${schedule ? scheduleText(schedule) : 'always'}`)
  },
)

/** Takes a change of the list's history back. */
export const undoOnPriceList = merchantAction(
  'drafts:edit',
  [THING, NUMBER],
  async (sheet: SheetReference, changeSet: number): Promise<PriceListOutcome> => {
    const note = {
      author: await currentAuthor(),
      note: await undoNote(await currentView(), changeSet),
      at: currentInstant(),
    }
    return shownNow(sheet, await undo(await currentView(), changeSet, note))
  },
)

async function save(
  view: View,
  sheet: SheetReference,
  request: ChangeRequest,
  note: string,
): Promise<PriceListOutcome> {
  const outcome = await commit(view, [request], {
    author: await currentAuthor(),
    note,
    at: currentInstant(),
  })
  return shownNow(sheet, outcome)
}

async function shownNow(sheet: SheetReference, outcome: UndoOutcome): Promise<PriceListOutcome> {
  if (!outcome.ok) return refuse(refusalSentence(toRefusal(outcome)))
  const view = await loadPriceListSheet(await lookFrom(sheet.vantage), sheet.code)
  return view ? { ok: true, view } : refuse(`There is no price list “${sheet.code}” any more.`)
}

function refuse(problem: string): Extract<PriceListOutcome, { ok: false }> {
  return { ok: false, problem }
}
