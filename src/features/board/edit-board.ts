'use server'

import type { BuyerCode } from '@/core/buyers/buyer-code'
import type { PreparedStore } from '@/core/engine/prepared-store'
import { priceColumn } from '@/core/engine/price-column'
import type { Change } from '@/core/store/store'
import { type AmountEdit, editAmounts } from '@/server/changes/edit-amounts'
import { undo } from '@/server/changes/history'
import { toRefusal } from '@/server/changes/to-refusal'
import { getSteppe } from '@/server/engine/steppe'
import { currentAuthor } from '@/server/session/author'
import { refusalSentence } from '@/ui/format/refusal-sentence'
import { checkAmountEdits } from '@/server/changes/check-amount-edits'
import type { BoardPatch } from './board-view'
import { boardColumns, buyerOf, toBoardVariant } from './load-board'

/** Beyond this many variants, reading the rows in sight again is less than sending what changed. */
const LARGEST_PATCH = 500

export type BoardOutcome =
  | { readonly ok: true; readonly changeSet: number; readonly patch: BoardPatch }
  | { readonly ok: false; readonly problem: string }

/** Makes edits typed on the board, and tells what they changed in the columns on screen. */
export async function editBoard(edits: readonly AmountEdit[], as: BuyerCode): Promise<BoardOutcome> {
  const wrong = checkAmountEdits(edits, as)
  if (wrong) return { ok: false, problem: wrong }
  const outcome = await editAmounts(await getSteppe(), edits, { author: currentAuthor(), at: new Date() })
  if (!outcome.ok) return { ok: false, problem: refusalSentence(outcome.refusal) }
  const { changeSet, before, after, changes } = outcome
  return { ok: true, changeSet, patch: toPatch(before ?? after, after, changes, as) }
}

/** Takes a change set back; taking that back again is redo. */
export async function undoOnBoard(changeSet: number, as: BuyerCode): Promise<BoardOutcome> {
  const steppe = await getSteppe()
  const outcome = await undo(steppe, changeSet, {
    author: currentAuthor(),
    note: `Take back change ${changeSet}`,
    at: new Date(),
  })
  if (!outcome.ok) return { ok: false, problem: refusalSentence(toRefusal(outcome)) }
  const { before, after, changes } = outcome
  return { ok: true, changeSet: outcome.changeSet, patch: toPatch(before ?? after, after, changes, as) }
}

function toPatch(
  before: PreparedStore,
  after: PreparedStore,
  changes: readonly Change[],
  as: BuyerCode,
): BoardPatch {
  if (before.index !== after.index) return { kind: 'reload' }
  const columns = boardColumns(after, as)
  const touched = new Set<number>()
  for (const column of columns) {
    const old = priceColumn(before, buyerOf(before, column.as))
    const now = priceColumn(after, buyerOf(after, column.as))
    if (!old || !now) return { kind: 'reload' }
    for (let number = 0; number < now.prices.length; number += 1) {
      const same =
        Object.is(old.prices[number], now.prices[number]) &&
        old.lists[old.sources[number] ?? -1] === now.lists[now.sources[number] ?? -1]
      if (!same) touched.add(number)
    }
  }
  const products = changes.filter((change) => change.kind === 'product')
  for (const change of changes) {
    const numbers =
      change.kind === 'product'
        ? (after.index.numbersOfProduct.get(change.id) ?? [])
        : [after.index.numberOf.get(change.id)]
    for (const number of numbers) if (number !== undefined) touched.add(number)
  }
  if (touched.size > LARGEST_PATCH) return { kind: 'reload' }
  return {
    kind: 'variants',
    variants: [...touched].flatMap((number) => {
      const variant = after.store.variant.get(after.index.variants[number] as string)
      const product = variant && after.store.product.get(variant.product)
      return variant && product ? [toBoardVariant(after, columns, product, variant)] : []
    }),
    products: products.map(({ id, after: product }) => ({ id, base: product?.basePrice ?? null })),
  }
}
