import { findConversion, type RateTable } from '../../currency/currency'
import { type Decimal, ONE, ZERO } from '../../decimal/decimal'
import { divideFractions, type Fraction, multiplyFractions, toFraction } from '../../decimal/fraction'
import { type RoundingRule, roundToDigits } from '../../decimal/rounding'
import type { Adjustment } from '../../price/adjustment'
import { getSettings, priceDigitsOf, type Store } from '../../store/store'
import type { BasisRates } from '../lists/based-units'
import { roundingKey } from '../lists/compiled-line'
import { scaling } from '../lists/operation'
import type { PreparedStore } from './prepared-store'
import { compilePriceStep, type PriceStep } from '../lists/price-step'
import type { CurrencyView } from './pricing-context'

/** What makes a currency view. */
interface CurrencyViewSetting {
  readonly store: Store
  readonly currency: string
  readonly rounding: RoundingRule | null
  readonly adjustments: readonly Adjustment[]
  readonly at: number
  readonly rates: RateTable
  readonly basisRates: BasisRates | null
}

export function makeCurrencyView(setting: CurrencyViewSetting): CurrencyView {
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
export function currencyViewInto(
  { store }: PreparedStore,
  currencyView: CurrencyView,
  currency: string,
): CurrencyView {
  let into = currencyView.into.get(currency)
  if (!into) {
    const rounding = store.currency.get(currency)?.rounding ?? null
    into = makeCurrencyView({ ...currencyView, store, currency, rounding })
    currencyView.into.set(currency, into)
  }
  return into
}

/** The step from prices of another currency into the currency view's; `null` without a rate. */
export function conversionInto(
  prepared: PreparedStore,
  currencyView: CurrencyView,
  from: string,
): PriceStep | null {
  let step = currencyView.conversions.get(from)
  if (step === undefined) {
    const { store } = prepared
    const conversion = findConversion(
      currencyView.rates,
      getSettings(store).currency,
      from,
      feeOf(store, currencyView.currency),
    )
    const digits = { source: priceDigitsOf(store, from), target: currencyView.digits }
    step =
      conversion &&
      compilePriceStep(scaling(conversion.factor, digits), currencyView.rounding, currencyView.digits)
    currencyView.conversions.set(from, step)
  }
  return step
}

/** The target of a conversion; the store's own currency has no fee. */
export function feeOf(store: Store, code: string) {
  return { code, fee: store.currency.get(code)?.fee ?? ZERO }
}

/**
 * An amount of the store's currency in the currency view's, without fee, rounded half up to `digits`.
 *
 * Errors  `null` without a rate.
 */
export function fromHome(
  { store }: PreparedStore,
  { rates, currency }: CurrencyView,
  amount: Decimal,
  digits: number,
): Decimal | null {
  if (currency === getSettings(store).currency) return amount
  const factor = factorFromHome(store, rates, currency)
  return factor && roundToDigits(multiplyFractions(toFraction(amount), factor), digits, 'half-up')
}

/**
 * An amount of any currency in the store's, by the rates of the currency view, without fee, rounded half up to the store's
 * digits.
 *
 * Errors  `null` without a rate.
 */
export function intoHome(
  { store }: PreparedStore,
  { rates }: Pick<CurrencyView, 'rates'>,
  amount: Decimal,
  currency: string,
): Decimal | null {
  const factor = factorFromHome(store, rates, currency)
  const { priceDigits } = getSettings(store)
  return factor && roundToDigits(divideFractions(toFraction(amount), factor), priceDigits, 'half-up')
}

/** What brings an amount of the store's currency into another; `null` without a rate. */
function factorFromHome(store: Store, rates: CurrencyView['rates'], currency: string): Fraction | null {
  const { currency: home } = getSettings(store)
  if (currency === home) return toFraction(ONE)
  return findConversion(rates, home, home, { code: currency, fee: ZERO })?.factor ?? null
}
