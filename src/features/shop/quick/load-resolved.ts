import 'server-only'

import { stockAsked } from '@/core/cart/stock-asked'
import { findBySku } from '@/core/catalogue/find-by-code'
import { getSteppe } from '@/server/engine/steppe'
import { pastPurchases } from '@/server/orders/past-purchases'
import { ownerOf, type ShopVisitor } from '@/server/session/shop-session'
import { readStock } from '@/server/stock/stock-levels'
import { MOST_ROWS, type QuickRow } from './quick-rows'
import type { Purpose } from './use-resolved'
import { resolveRows } from './resolve-rows'
import type { ResolvedOrder } from './resolved'
import Joi from 'joi'

const cell = Joi.string().allow('').max(200).required()
const ROWS = Joi.array()
  .items(
    Joi.object({
      sku: cell,
      quantity: cell,
      wish: cell.optional(),
      extras: Joi.array().items(Joi.string().max(100)).max(20),
    }),
  )
  .max(MOST_ROWS)
  .required()

/** Rows as they were submitted; `null` where that is something else, or too many. */
export function parseRows(value: unknown): readonly QuickRow[] | null {
  const { error, value: rows } = ROWS.validate(value, { convert: false }) as {
    readonly error?: Error
    readonly value: readonly QuickRow[]
  }
  return error ? null : rows
}

/** Typed rows for a visitor, with what there is in stock and what they bought of late. */
export async function loadResolved(
  visitor: ShopVisitor,
  rows: readonly QuickRow[],
  purpose: Purpose = 'order',
): Promise<ResolvedOrder> {
  const steppe = await getSteppe()
  const { store } = visitor.prepared
  const wanted = rows.flatMap(({ sku }) => {
    const variant = findBySku(store.variant, sku.trim())
    return variant ? [{ variant: variant.id }] : []
  })
  const { account } = ownerOf(visitor)
  if (purpose === 'quote') return resolveRows(visitor, rows, {}, 'quote')
  return resolveRows(visitor, rows, {
    stock: await readStock(steppe.database, stockAsked(store, wanted)),
    past: await pastPurchases(steppe, store, account, visitor.buyerContext.at),
  })
}
