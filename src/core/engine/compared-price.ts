import type { BasedAmount } from '../price/based-amount'
import { getSettings } from '../store/store'
import { amountAt, referenceAmounts } from './amounts'
import type { BasedUnits } from './based-units'
import { comparePrices, storeBasis } from './basis'
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
 * The price a buyer's is compared with, struck through in the shop: as the store says, and before any adjustment, in its
 * own basis.
 *
 * Errors  `null` when nothing is compared, there is no such price, or it is not higher.
 */
export function findComparedPrice(
  prepared: PreparedStore,
  situation: Situation,
  standpoint: Standpoint,
  number: number,
  quantities: Quantities,
): BasedAmount | null {
  const { comparedWith } = getSettings(prepared.store)
  if (comparedWith === 'nothing') return null
  const own = findPrice(prepared, situation, number, quantities)
  const other =
    comparedWith === 'public'
      ? publicPrice(prepared, situation, standpoint, number, quantities)
      : {
          units: referenceUnits(prepared, situation, comparedWith, number),
          basis: storeBasis(prepared),
        }
  if (!other || other.units !== other.units || own.units !== own.units) return null
  if (comparePrices(prepared, situation.lens, number, other, own) <= 0) return null
  return { amount: fromUnits(other.units, situation.digits), basis: other.basis }
}

function publicPrice(
  prepared: PreparedStore,
  { currency, deliverTo }: Situation,
  standpoint: Standpoint,
  number: number,
  quantities: Quantities,
): BasedUnits | null {
  if (standpoint.buyer.kind === 'guest') return null
  const guest = openSituation(prepared, {
    ...standpoint,
    buyer: { kind: 'guest' },
    passcode: null,
    currency,
    deliverTo,
  })
  // What the public is not shown is no public price.
  if (!guest.ok || !findRights(prepared, guest.value, number).seePrice) return null
  return findPrice(prepared, guest.value, number, quantities)
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
