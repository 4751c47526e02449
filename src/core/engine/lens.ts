import { findConversion, type RateTable } from '../currency/currency'
import { type Decimal, ZERO } from '../decimal/decimal'
import { toFraction } from '../decimal/fraction'
import { type RoundingRule, roundToDigits } from '../decimal/rounding'
import type { Adjustment } from '../price/adjustment'
import { getSettings, priceDigitsOf, type Store } from '../store/store'
import type { BasisRates } from './based-units'
import { roundingKey } from './compiled-line'
import { scaling } from './operation'
import type { PreparedStore } from './prepared-store'
import { compilePriceStep, type PriceStep } from './price-step'
import type { Lens } from './situation'

/** What makes a lens. */
interface LensSetting {
  readonly store: Store
  readonly currency: string
  readonly rounding: RoundingRule | null
  readonly adjustments: readonly Adjustment[]
  readonly at: number
  readonly rates: RateTable
  readonly basisRates: BasisRates | null
}

export function makeLens(setting: LensSetting): Lens {
  const { store, currency, rounding, adjustments, at, rates, basisRates } = setting
  const adjusted = adjustments.map(({ id }) => id).join()
  return {
    key: `${currency}/${roundingKey(rounding)}/${adjusted}/${rates.since}/${basisRates?.key ?? ''}`,
    currency,
    digits: priceDigitsOf(store, currency),
    rounding,
    adjustments,
    at,
    rates,
    basisRates,
    conversions: new Map(),
    into: new Map(),
    seen: { prepared: null, amounts: {} },
  }
}

/** The same look into the currency of a list: what its lines start from follows the currency's rule, not the region's. */
export function lensInto({ store }: PreparedStore, lens: Lens, currency: string): Lens {
  let into = lens.into.get(currency)
  if (!into) {
    const rounding = store.currency.get(currency)?.rounding ?? null
    into = makeLens({ ...lens, store, currency, rounding })
    lens.into.set(currency, into)
  }
  return into
}

/** The step from prices of another currency into the lens's; `null` without a rate. */
export function conversionInto(prepared: PreparedStore, lens: Lens, from: string): PriceStep | null {
  let step = lens.conversions.get(from)
  if (step === undefined) {
    const { store } = prepared
    const conversion = findConversion(
      lens.rates,
      getSettings(store).currency,
      from,
      feeOf(store, lens.currency),
    )
    const digits = { source: priceDigitsOf(store, from), target: lens.digits }
    step = conversion && compilePriceStep(scaling(conversion.factor, digits), lens.rounding, lens.digits)
    lens.conversions.set(from, step)
  }
  return step
}

/** The target of a conversion; the store's own currency has no fee. */
export function feeOf(store: Store, code: string) {
  return { code, fee: store.currency.get(code)?.fee ?? ZERO }
}

/**
 * An amount of the store's currency in the lens's, without fee, rounded half up to `digits`.
 *
 * Errors  `null` without a rate.
 */
export function fromHome(
  { store }: PreparedStore,
  lens: Lens,
  amount: Decimal,
  digits: number,
): Decimal | null {
  const { currency: home } = getSettings(store)
  if (lens.currency === home) return amount
  const conversion = findConversion(lens.rates, home, home, { code: lens.currency, fee: ZERO })
  if (!conversion) return null
  const { numerator, denominator } = toFraction(amount)
  const converted = {
    numerator: numerator * conversion.factor.numerator,
    denominator: denominator * conversion.factor.denominator,
  }
  return roundToDigits(converted, digits, 'half-up')
}
