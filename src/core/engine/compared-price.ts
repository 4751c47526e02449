import { type Decimal } from '../decimal/decimal'
import { getSettings } from '../store/store'
import { amountAt, referenceAmounts } from './amounts'
import type { Quantities } from './find-in-list'
import { findPrice } from './find-price'
import { findRights } from './find-rights'
import { makeLens } from './lens'
import { openSituation } from './open-situation'
import type { PreparedStore } from './prepared-store'
import { fromUnits } from './price-step'
import type { Situation } from './situation'
import type { Standpoint } from './standpoint'

/**
 * The price a buyer's is compared with, struck through in the shop: as the store says, and before any adjustment.
 *
 * Errors  `null` when nothing is compared, there is no such price, or it is not higher.
 */
export function findComparedPrice(
  prepared: PreparedStore,
  situation: Situation,
  standpoint: Standpoint,
  number: number,
  quantities: Quantities,
): Decimal | null {
  const { comparedWith } = getSettings(prepared.store)
  if (comparedWith === 'nothing') return null
  const { units } = findPrice(prepared, situation, number, quantities)
  const other =
    comparedWith === 'public'
      ? publicUnits(prepared, situation, standpoint, number, quantities)
      : referenceUnits(prepared, situation, comparedWith, number)
  return other > units ? fromUnits(other, situation.digits) : null
}

function publicUnits(
  prepared: PreparedStore,
  { currency, deliverTo }: Situation,
  standpoint: Standpoint,
  number: number,
  quantities: Quantities,
): number {
  if (standpoint.buyer.kind === 'guest') return Number.NaN
  const guest = openSituation(prepared, {
    ...standpoint,
    buyer: { kind: 'guest' },
    passcode: null,
    currency,
    deliverTo,
  })
  // What the public is not shown is no public price.
  if (!guest.ok || !findRights(prepared, guest.value, number).seePrice) return Number.NaN
  return findPrice(prepared, guest.value, number, quantities).units
}

function referenceUnits(
  prepared: PreparedStore,
  { lens }: Situation,
  comparedWith: 'base' | 'recommended',
  number: number,
): number {
  const field = comparedWith === 'base' ? 'basePrice' : 'recommendedPrice'
  const unadjusted =
    lens.adjustments.length === 0 ? lens : makeLens({ ...lens, store: prepared.store, adjustments: [] })
  return amountAt(referenceAmounts(prepared, field, unadjusted), number)
}
