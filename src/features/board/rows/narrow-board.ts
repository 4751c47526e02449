import 'server-only'

import type { Variant } from '@/core/catalogue/product'
import { amountAt, shownAmounts } from '@/core/engine/amounts/amounts'
import { comparePrices, shownInBasis, storeBasis } from '@/core/engine/amounts/basis'
import { findPrice, ONE_PIECE } from '@/core/engine/price/find-price'
import type { PreparedStore } from '@/core/engine/context/prepared-store'
import type { ProductWithVariants } from '@/server/engine/catalogue-order'
import type { BoardFilter } from './board-url'
import type { OpenColumn } from '../columns/open-column'

/** Keeps the products with a variant that needs looking at in one of the columns. */
export function narrow(
  prepared: PreparedStore,
  products: readonly ProductWithVariants[],
  columns: readonly OpenColumn[],
  only: BoardFilter['only'],
): readonly ProductWithVariants[] {
  if (only === null) return products
  const needsLook = CHECKS[only]
  return products.flatMap(({ product, variants }) => {
    const kept = variants.filter((variant) => needsLook(prepared, columns, variant))
    return kept.length > 0 ? [{ product, variants: kept }] : []
  })
}

type Check = (prepared: PreparedStore, columns: readonly OpenColumn[], variant: Variant) => boolean

const CHECKS: Readonly<Record<NonNullable<BoardFilter['only']>, Check>> = {
  'no-price': (prepared, columns, variant) =>
    columns.some((open) => Number.isNaN(priceIn(prepared, open, variant).units)),
  'not-reached': (prepared, columns, variant) =>
    columns.every((open) => priceIn(prepared, open, variant).entry === null),
  'below-cost': (prepared, columns, variant) =>
    columns.some((open) => {
      const number = prepared.index.numberOf.get(variant.id) as number
      const cost = amountAt(shownAmounts(prepared, 'cost', open.pricingContext.currencyView), number)
      const { currencyView } = open.pricingContext
      const price = priceIn(prepared, open, variant)
      return (
        !Number.isNaN(price.units) &&
        !Number.isNaN(cost) &&
        comparePrices(prepared, currencyView, number, price, { units: cost, basis: storeBasis(prepared) }) < 0
      )
    }),
  differing: (prepared, columns, variant) => {
    const [first, ...others] = columns
    if (!first) return false
    const number = prepared.index.numberOf.get(variant.id) as number
    const compared = (open: OpenColumn) =>
      shownInBasis(
        prepared,
        open.pricingContext.currencyView,
        number,
        priceIn(prepared, open, variant),
        storeBasis(prepared),
      )
    const price = compared(first)
    return others.some((open) => open.column.currency !== first.column.currency || compared(open) !== price)
  },
}

function priceIn(prepared: PreparedStore, { pricingContext, quantity }: OpenColumn, { id }: Variant) {
  const number = prepared.index.numberOf.get(id) as number
  return findPrice(prepared, pricingContext, number, { ...ONE_PIECE, own: quantity })
}
