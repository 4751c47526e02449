'use server'

import { THING } from '@/server/session/argument-shapes'
import { shopAction } from '@/server/session/permit'
import { findBySku } from '@/core/catalogue/find-by-code'
import { parseDecimal } from '@/core/decimal/decimal'
import { redirect } from 'next/navigation'
import { put } from '../cart/put-lines'
import { enterShopPage } from '../entrance/enter'
import { NO_ROOM, withRoomOr } from '../frame/with-room'
import { loadResolved, parseRows } from './load-resolved'
import { isEmpty, type QuickRow } from './quick-rows'

/** What came of adding rows to the cart. */
export type RowsAdded =
  | {
      readonly ok: true
      readonly added: number
      /** Rows that need a look first. */
      readonly left: readonly QuickRow[]
    }
  | { readonly ok: false; readonly problem: string }

/** Adds the rows that are ready to the cart; where none is left, the cart is what comes next. */
export const addRows = shopAction([THING], async (submitted: readonly QuickRow[]): Promise<RowsAdded> => {
  const visitor = await enterShopPage()
  const rows = parseRows(submitted)
  if (!rows) return { ok: false, problem: 'These are too many rows at once. Split them.' }
  const { store } = visitor.prepared
  const resolved = await loadResolved(visitor, rows)
  const wanted = rows.flatMap(({ quantity }, at) => {
    const row = resolved.rows[at]
    const variant = row?.kind === 'ready' ? findBySku(store.variant, row.sku) : null
    const amount = parseDecimal(quantity.trim())
    return variant && amount ? [{ variant: variant.id, quantity: amount, extras: [] }] : []
  })
  const left = rows.filter((row, at) => !isEmpty(row) && resolved.rows[at]?.kind !== 'ready')
  if (wanted.length === 0) return { ok: false, problem: 'No row is ready yet.' }
  const isPut = await withRoomOr(
    () => put(visitor, wanted).then(() => true),
    () => false,
  )
  if (!isPut) return { ok: false, problem: NO_ROOM }
  if (left.length === 0) redirect('/shop/cart')
  return { ok: true, added: wanted.length, left }
})
