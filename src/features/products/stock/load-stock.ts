import 'server-only'

import { availableOf, UNCOUNTED } from '@/core/catalogue/stock'
import { type Product, type Variant, variantName } from '@/core/catalogue/product'
import { decimal, negate, subtract, ZERO } from '@/core/decimal/decimal'
import { getSettings, type Store } from '@/core/store/store'
import type { Steppe } from '@/server/engine/steppe'
import { latestMovements, readStock, type StockMovement } from '@/server/stock/stock-levels'
import { formatDay, formatTime } from '@/ui/format/instant'
import type { StockView } from './stock-view'

const SHOWN_LINES = 8

/** Stock of some variants of a product, and what moved it last. Stock is what it is, in every draft. */
export async function loadStock(
  { database, presence }: Steppe,
  store: Store,
  product: Product,
  variants: readonly Variant[],
): Promise<StockView> {
  const ids = variants.map(({ id }) => id)
  const levels = await presence.orKnown(
    () => readStock(database, ids),
    () => UNCOUNTED,
  )
  const movements = await presence.orKnown(
    () => latestMovements(database, ids, SHOWN_LINES),
    () => [],
  )
  const { timeZone } = getSettings(store)
  return {
    backOrder: product.backOrder,
    rows: variants.map((variant) => {
      const level = levels.get(variant.id)
      return {
        sku: variant.sku,
        name: variantName(product, variant) || product.name,
        onHand: level?.onHand ?? null,
        reserved: level?.reserved ?? ZERO,
        available: level ? availableOf(level) : null,
      }
    }),
    lines: movements.map((movement) => ({
      id: movement.id,
      when: `${formatDay(movement.at, timeZone)}, ${formatTime(movement.at, timeZone)}`,
      author: movement.author,
      sku: store.variant.get(movement.variant)?.sku ?? '',
      what: movementWords(movement),
    })),
  }
}

/** What a movement says: "counted: 12, was 9". */
function movementWords({ kind, before, after, reserved, order, note }: StockMovement): string {
  const is = after ?? 'not any more'
  const was = before === null ? '' : `, was ${before}`
  const moved = subtract(decimal(after ?? '0'), decimal(before ?? '0'))
  switch (kind) {
    case 'counted':
      return `counted: ${is}${was}`
    case 'corrected':
      return `${note}: ${is}${was}`
    case 'reserved':
      return `${decimal(reserved)} promised to order ${order}`
    case 'released':
      return `${negate(decimal(reserved))} free again: order ${order} was cancelled`
    case 'sold':
      return before === null ? `order ${order} was sent` : `${negate(moved)} sent with order ${order}`
    case 'returned':
      return before === null ? `taken back from order ${order}` : `${moved} taken back from order ${order}`
  }
}
