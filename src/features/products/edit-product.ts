'use server'

import { NUMBER, TEXT, THING } from '@/server/session/argument-shapes'
import { merchantAction } from '@/server/session/permit'
import type { Vantage } from '@/core/engine/context/vantage'
import { checkAmountEdits, checkVantages } from '@/server/changes/check-amount-edits'
import { type AmountEdit, editAmounts } from '@/server/changes/edit-amounts'
import { currentInstant } from '@/server/clock'
import { undo, undoNote } from '@/server/changes/history'
import { toRefusal } from '@/server/changes/to-refusal'
import { lookFrom } from '@/server/engine/look-from'
import { currentView } from '@/server/views/current-view'
import { currentAuthor } from '@/server/session/author'
import type { SheetOutcome } from '@/ui/frame/use-sheet'
import { refusalSentence } from '@/ui/format/refusal-sentence'
import { loadProductSheet } from './load-products'
import type { ProductSheetView } from './product-view'

type ProductEditOutcome = SheetOutcome<ProductSheetView>

/** Makes an edit typed on a product's sheet, and tells what the sheet shows now. */
export const editProduct = merchantAction(
  'drafts:edit',
  [THING, TEXT, THING],
  async (edit: AmountEdit, code: string, vantage: Vantage): Promise<ProductEditOutcome> => {
    const wrong = checkAmountEdits([edit]) ?? checkVantages([vantage])
    if (wrong) return { ok: false, problem: wrong }
    const outcome = await editAmounts(await currentView(), [edit], {
      author: await currentAuthor(),
      at: new Date(),
    })
    if (!outcome.ok) return { ok: false, problem: refusalSentence(outcome.refusal) }
    return shownNow(code, vantage)
  },
)

/** Takes a change of the product's history back. */
export const undoOnProduct = merchantAction(
  'drafts:edit',
  [NUMBER, TEXT, THING],
  async (changeSet: number, code: string, vantage: Vantage): Promise<ProductEditOutcome> => {
    const note = {
      author: await currentAuthor(),
      note: await undoNote(await currentView(), changeSet),
      at: currentInstant(),
    }
    const outcome = await undo(await currentView(), changeSet, note)
    return outcome.ok ? shownNow(code, vantage) : { ok: false, problem: refusalSentence(toRefusal(outcome)) }
  },
)

async function shownNow(code: string, vantage: Vantage): Promise<ProductEditOutcome> {
  const view = await loadProductSheet(await lookFrom(vantage), code)
  return view ? { ok: true, view } : { ok: false, problem: `There is no product “${code}” any more.` }
}
