import { type Decimal, ZERO } from '../../decimal/decimal'
import { type Fraction, multiplyFractions, toFraction } from '../../decimal/fraction'
import type { Place } from '../../places/place'
import { basisFactor, type BasedAmount, type TaxBasis } from '../../price/based-amount'
import type { PriceReference } from '../../price/lines/price-method'
import { getSettings } from '../../store/store'
import { findLevies } from '../../tax/find-levies'
import { wholePercent } from '../../tax/split-tax'
import { taxClassOf } from '../rules/find-tax'
import type { PreparedStore } from '../context/prepared-store'
import type { BasedUnits, BasisRates } from '../lists/based-units'
import { fromUnits } from '../lists/price-step'
import { shown } from './shown'
import type { CurrencyView } from '../context/pricing-context'

/** `null` in a store all of whose amounts have one basis, where nothing need be brought to another. */
export function findBasisRates(prepared: PreparedStore, place: Place, at: number): BasisRates | null {
  if (!prepared.mixesBases) return null
  const { store, terms } = prepared
  const percents = new Map<string, Decimal>()
  for (const taxClass of [null, ...store['tax-class'].keys()]) {
    const { levies } = findLevies(terms.taxes, { place, taxClass, isDelivery: false, at })
    percents.set(taxClass ?? '', wholePercent(levies))
  }
  return { key: [...percents].map(([id, percent]) => `${id}:${percent}`).join(), percents }
}

/** The basis of the amounts a method starts from: of another list its own, of the item's amounts the store's. */
export function basisOfReference(prepared: PreparedStore, reference: PriceReference): TaxBasis {
  if (reference.kind !== 'list') return storeBasis(prepared)
  return prepared.lists.get(reference.list)?.basis ?? storeBasis(prepared)
}

/** The basis of base prices, costs, floors and whatever else says nothing of its own. */
export function storeBasis({ store }: PreparedStore): TaxBasis {
  return getSettings(store).taxBasis
}

/** What brings an amount of an item from one basis to another; `null` where it is the same. */
export function factorBetween(
  prepared: PreparedStore,
  { basisRates }: Pick<CurrencyView, 'basisRates'>,
  number: number,
  from: TaxBasis,
  to: TaxBasis,
): Fraction | null {
  if (from === to || basisRates === null) return null
  return basisFactor(from, to, percentOf(prepared, { basisRates }, number))
}

/** What the taxes on an item come to, in percent of the net. */
export function percentOf(
  prepared: PreparedStore,
  { basisRates }: Pick<CurrencyView, 'basisRates'>,
  number: number,
): Decimal {
  return basisRates?.percents.get(taxClassOf(prepared, number) ?? '') ?? ZERO
}

/** Negative, zero or positive as one price of an item is below, equal to or above another of the same currency. */
export function comparePrices(
  prepared: PreparedStore,
  currencyView: Pick<CurrencyView, 'basisRates'>,
  number: number,
  left: BasedUnits,
  right: BasedUnits,
): number {
  const factor = factorBetween(prepared, currencyView, number, left.basis, right.basis)
  if (!factor) return left.units - right.units
  const difference = BigInt(left.units) * factor.numerator - BigInt(right.units) * factor.denominator
  return difference < 0n ? -1 : difference > 0n ? 1 : 0
}

/** An amount of an item in another basis, exactly. */
export function inBasis(
  prepared: PreparedStore,
  currencyView: Pick<CurrencyView, 'basisRates'>,
  number: number,
  { amount, basis }: BasedAmount,
  to: TaxBasis,
): Fraction {
  const factor = factorBetween(prepared, currencyView, number, basis, to)
  const value = toFraction(amount)
  return factor ? multiplyFractions(value, factor) : value
}

/**
 * A price of an item in another basis, for comparing and showing: exact where it ends, else to ten digits.
 *
 * Errors  `null` where there is no price.
 */
export function shownInBasis(
  prepared: PreparedStore,
  currencyView: Pick<CurrencyView, 'basisRates' | 'digits'>,
  number: number,
  { units, basis }: BasedUnits,
  to: TaxBasis,
): Decimal | null {
  if (Number.isNaN(units)) return null
  return shown(
    inBasis(prepared, currencyView, number, { amount: fromUnits(units, currencyView.digits), basis }, to),
  )
}
