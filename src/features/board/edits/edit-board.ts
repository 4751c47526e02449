'use server'

import { NUMBER, THING } from '@/server/session/argument-shapes'
import { merchantAction } from '@/server/session/permit'
import type { PreparedStore } from '@/core/engine/context/prepared-store'
import type { Vantage } from '@/core/engine/context/vantage'
import { scopeMatcher } from '@/core/engine/items/scope-matcher'
import type { Change } from '@/core/store/store'
import { type AmountEdit, editAmounts } from '@/server/changes/edit-amounts'
import { undo, undoNote } from '@/server/changes/history'
import { toRefusal } from '@/server/changes/to-refusal'
import { currentView } from '@/server/views/current-view'
import { shownIn } from '@/server/views/view'
import { currentAuthor } from '@/server/session/author'
import { refusalSentence } from '@/ui/format/refusal-sentence'
import { checkAmountEdits, checkVantages } from '@/server/changes/check-amount-edits'
import type { BoardPatch } from '../board-view'
import { liveBase } from '../cells/live-figures'
import { factsOfColumns, openColumns, toBoardVariant } from '../load-board'
import { currentInstant } from '@/server/clock'

/** Beyond this many variants, reading the rows in sight again is less than sending what changed. */
const LARGEST_PATCH = 500

export type BoardOutcome =
  | { readonly ok: true; readonly changeSet: number; readonly patch: BoardPatch }
  | { readonly ok: false; readonly problem: string }

/** Makes edits typed on the board, and tells what they changed in the columns on screen. */
export const editBoard = merchantAction(
  'drafts:edit',
  [THING, THING],
  async (edits: readonly AmountEdit[], columns: readonly Vantage[]): Promise<BoardOutcome> => {
    const wrong = checkAmountEdits(edits) ?? checkVantages(columns)
    if (wrong) return { ok: false, problem: wrong }
    const outcome = await editAmounts(await currentView(), edits, {
      author: await currentAuthor(),
      at: currentInstant(),
    })
    if (!outcome.ok) return { ok: false, problem: refusalSentence(outcome.refusal) }
    const { changeSet, before, after, changes } = outcome
    return { ok: true, changeSet, patch: await toPatch(before ?? after, after, changes, columns) }
  },
)

/** Takes a change set back; taking that back again is redo. */
export const undoOnBoard = merchantAction(
  'drafts:edit',
  [NUMBER, THING],
  async (changeSet: number, columns: readonly Vantage[]): Promise<BoardOutcome> => {
    const wrong = checkVantages(columns)
    if (wrong) return { ok: false, problem: wrong }
    const view = await currentView()
    const outcome = await undo(view, changeSet, {
      author: await currentAuthor(),
      note: await undoNote(await currentView(), changeSet),
      at: currentInstant(),
    })
    if (!outcome.ok) return { ok: false, problem: refusalSentence(toRefusal(outcome)) }
    const { before, after, changes } = outcome
    return {
      ok: true,
      changeSet: outcome.changeSet,
      patch: await toPatch(before ?? after, after, changes, columns),
    }
  },
)

async function toPatch(
  wasWhole: PreparedStore,
  isWhole: PreparedStore,
  changes: readonly Change[],
  vantages: readonly Vantage[],
): Promise<BoardPatch> {
  const view = await currentView()
  const [before, after] = [shownIn(view, wasWhole), shownIn(view, isWhole)]
  if (before.index !== after.index) return { kind: 'reload' }
  const touched = new Set<number>()
  for (const change of changes) {
    const numbers = itemsTouched(after, change)
    if (!numbers || touched.size + numbers.length > LARGEST_PATCH) return { kind: 'reload' }
    for (const number of numbers) touched.add(number)
  }
  const now = currentInstant().getTime()
  const { steppe, draft } = view
  const live = draft?.live ?? null
  const facts = await factsOfColumns(steppe, after, vantages, now)
  const columns = openColumns(after, vantages, now, facts, live)
  return {
    kind: 'variants',
    variants: [...touched].flatMap((number) => {
      const variant = after.store.variant.get(after.index.items[number] as string)
      const product = variant && after.store.product.get(variant.product)
      return variant && product ? [toBoardVariant(after, columns, product, variant)] : []
    }),
    products: changes
      .filter((change) => change.kind === 'product')
      .map(({ id, after: product }) => {
        const base = product?.basePrice ?? null
        return { id, base, liveBase: liveBase(live, id, base) }
      }),
  }
}

/** Numbers of the items whose prices a change can move; `null` when it can be any. */
function itemsTouched({ store, index, lists }: PreparedStore, change: Change): readonly number[] | null {
  if (change.kind === 'product') return index.numbersOfProduct.get(change.id) ?? []
  if (change.kind === 'variant') {
    const number = index.numberOf.get(change.id)
    return number === undefined ? [] : [number]
  }
  if (change.kind !== 'price-line') return null
  const scopes = [change.before?.scope, change.after?.scope].filter((scope) => scope !== undefined)
  const isNamed = scopes.every((scope) => scope.include.every(({ kind }) => kind === 'variant'))
  // A list others are computed from, or a line for more than single variants, may reach far.
  const list = change.after?.list ?? change.before?.list ?? ''
  const isSource = [...lists.values()].some(({ referredTo }) => referredTo.has(list))
  if (!isNamed || isSource) {
    const reached: number[] = []
    const matchers = scopes.map((scope) => scopeMatcher({ store, index }, scope))
    for (let number = 0; number < index.variantCount; number += 1) {
      if (matchers.some((isIn) => isIn(number))) reached.push(number)
      if (reached.length > LARGEST_PATCH) return null
    }
    return reached
  }
  return scopes.flatMap(({ include }) =>
    include.flatMap((term) => {
      const number = term.kind === 'variant' ? index.numberOf.get(term.variant) : undefined
      return number === undefined ? [] : [number]
    }),
  )
}
