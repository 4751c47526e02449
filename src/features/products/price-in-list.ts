'use server'

import { THING } from '@/server/session/argument-shapes'
import { merchantAction } from '@/server/session/permit'
import { toPrice } from '@/core/engine/lists/price-step'
import { amountAt, shownAmounts } from '@/core/engine/amounts/amounts'
import { shownInBasis, storeBasis } from '@/core/engine/amounts/basis'
import { fromUnits } from '@/core/engine/lists/price-step'
import type { Vantage } from '@/core/engine/context/vantage'
import { typedAmount } from '@/core/decimal/written-amount'
import { fixPrice, type ItemTerm, releasePrice } from '@/core/price/lines/fix-price'
import { checkVantages } from '@/server/changes/check-amount-edits'
import { commit } from '@/server/changes/commit'
import { lineRequests, readTyped } from '@/server/changes/edit-amounts'
import { toRefusal } from '@/server/changes/to-refusal'
import { currentInstant } from '@/server/clock'
import { priceInList } from '@/server/engine/price-in-list'
import { lookFrom } from '@/server/engine/look-from'
import { currentView } from '@/server/views/current-view'
import { currentAuthor } from '@/server/session/author'
import { formatAmount } from '@/ui/format/amount'
import { refusalSentence } from '@/ui/format/refusal-sentence'
import { refresh } from 'next/cache'
import { randomUUID } from 'node:crypto'

/** A price typed over one that a list gives; `seen` is what stood there. */
export interface ListPriceEdit {
  readonly list: string
  readonly item: ItemTerm
  readonly typed: string
  readonly seen: string
  readonly vantage: Vantage
}

export type ListPriceOutcome =
  { readonly ok: true; readonly changeSet: number } | { readonly ok: false; readonly problem: string }

/** Makes or changes the line of one variant or extra in a list; an empty price removes it again. */
export const setListPrice = merchantAction(
  'drafts:edit',
  [THING],
  async (edit: ListPriceEdit): Promise<ListPriceOutcome> => {
    const wrong = checkVantages([edit.vantage])
    if (wrong) return { ok: false, problem: wrong }
    const view = await currentView()
    const requestContext = await lookFrom({ ...edit.vantage, on: null })
    const { prepared, quantity } = requestContext
    const { store, index } = prepared
    const list = store['price-list'].get(edit.list)
    const compiled = prepared.lists.get(edit.list)
    const { item } = edit
    const label =
      item.kind === 'variant' ? store.variant.get(item.variant)?.sku : store.extra.get(item.extra)?.name
    const number = index.numberOf.get(item.kind === 'variant' ? item.variant : item.extra)
    if (!list || !compiled || label === undefined || number === undefined)
      return { ok: false, problem: 'The list or the item is gone. Reload the page.' }
    const { currencyView, units } = priceInList(requestContext, compiled, number)
    const current = toPrice(units, currencyView.digits)
    if ((current === null ? '' : formatAmount(current, currencyView.digits)) !== edit.seen)
      return { ok: false, problem: 'Somebody changed this price meanwhile. Reload to see the new one.' }
    const basis = compiled.basis ?? storeBasis(prepared)
    const costUnits = amountAt(shownAmounts(prepared, 'cost', currencyView), number)
    let changes = releasePrice(compiled.lines, item)
    if (edit.typed.trim() !== '') {
      const amount = readTyped(typedAmount(edit.typed), {
        current,
        cost: shownInBasis(
          prepared,
          currencyView,
          number,
          { units: costUnits, basis: storeBasis(prepared) },
          basis,
        ),
        digits: currencyView.digits,
      })
      if (!amount.ok) return { ok: false, problem: refusalSentence(amount.refusal) }
      changes = fixPrice(compiled.lines, item, amount.value, {
        list: list.id,
        id: randomUUID(),
        quantity: fromUnits(quantity, 3),
      })
    }
    const outcome = await commit(view, lineRequests(view, changes), {
      author: await currentAuthor(),
      note: `${label} in ${list.name}: ${edit.typed.trim() || 'as its rule says'}`,
      at: currentInstant(),
    })
    if (!outcome.ok) return { ok: false, problem: refusalSentence(toRefusal(outcome)) }
    refresh()
    return { ok: true, changeSet: outcome.changeSet }
  },
)
