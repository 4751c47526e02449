import type { Place, TaxDisplay } from '../../places/place'
import type { Decimal } from '../../decimal/decimal'
import { getSettings } from '../../store/store'
import { findLevies, type FoundLevies, type Levy } from '../../tax/find-levies'
import type { BasedAmount, TaxBasis } from '../../price/based-amount'
import { splitTax, type TaxSplit } from '../../tax/split-tax'
import type { PreparedStore } from '../context/prepared-store'
import type { PricingContext } from '../context/pricing-context'

/** The tax of one price. */
export interface PriceTax extends TaxSplit {
  /** Whether the price was entered with its tax. */
  readonly basis: TaxBasis
  readonly taxClass: string | null
  readonly misses: FoundLevies['misses']
  /** Why nothing is charged whatever the rates say; `null` where they are. */
  readonly untaxed: PricingContext['terms']['untaxed']
}

/** The tax class of a variant: its own, its product's, else the store's; by id. */
export function taxClassOf({ store, index }: PreparedStore, number: number): string | null {
  const variant = store.variant.get(index.items[number] ?? '')
  const product = variant && store.product.get(variant.product)
  return variant?.taxClass ?? product?.taxClass ?? getSettings(store).taxClass
}

/** What one of a variant holds, its own or its product's; `null` where nobody says. */
export function contentOf({ store, index }: PreparedStore, number: number): string | null {
  const variant = store.variant.get(index.items[number] ?? '')
  return variant?.content ?? store.product.get(variant?.product ?? '')?.content ?? null
}

/** The levies on goods, or on delivery, of a class where the buyer is. */
export function leviesOf(
  prepared: PreparedStore,
  { terms, at }: PricingContext,
  taxClass: string | null,
  isDelivery = false,
): FoundLevies {
  const key = `${isDelivery ? 'delivery' : 'goods'}/${taxClass ?? ''}`
  let found = terms.levies.get(key)
  if (!found) {
    found = findLevies(prepared.terms.taxes, { place: terms.taxPlace, taxClass, isDelivery, at })
    terms.levies.set(key, found)
  }
  return found
}

/** The levies a price with tax was entered under: those of the place the store sells from. */
function homeLevies(
  prepared: PreparedStore,
  { terms, at }: PricingContext,
  taxClass: string | null,
): readonly Levy[] {
  const key = `home/${taxClass ?? ''}`
  let found = terms.levies.get(key)
  if (!found) {
    found = findLevies(prepared.terms.taxes, {
      place: homePlace(getSettings(prepared.store).country),
      taxClass,
      isDelivery: false,
      at,
    })
    terms.levies.set(key, found)
  }
  return found.levies
}

/** Where the store sells from: all of its country. */
export function homePlace(country: string): Place {
  return { country, state: '', postcode: '', city: '' }
}

/** An amount as it is taxed: its basis, and the levies that fall on it here. */
export interface TaxableAmount {
  readonly amount: Decimal
  readonly basis: TaxBasis
  readonly levies: readonly Levy[]
}

/**
 * An amount made ready for taxing where the buyer is. One entered with tax keeps its gross everywhere, or its net,
 * as the store says; who is not taxed always pays the net. Where the taxes are those it was entered under it stays what
 * it is.
 */
export function toTaxable(
  prepared: PreparedStore,
  pricingContext: PricingContext,
  { amount, basis }: BasedAmount,
  taxClass: string | null,
  digits: number,
): TaxableAmount {
  const { untaxed } = pricingContext.terms
  const levies = untaxed ? [] : leviesOf(prepared, pricingContext, taxClass).levies
  const keepsNet = untaxed !== null || getSettings(prepared.store).grossElsewhere === 'keep-net'
  if (basis === 'net' || !keepsNet) return { amount, basis, levies }
  const home = homeLevies(prepared, pricingContext, taxClass)
  if (areAlike(levies, home)) return { amount, basis, levies }
  return { amount: splitTax(amount, 'gross', home, digits).net, basis: 'net', levies }
}

function areAlike(left: readonly Levy[], right: readonly Levy[]): boolean {
  return (
    left.length === right.length &&
    left.every(({ tax, percent }, at) => tax.id === right[at]?.tax.id && percent === right[at].percent)
  )
}

/** The tax of a price of one item, by its number. */
export function taxPrice(
  prepared: PreparedStore,
  pricingContext: PricingContext,
  number: number,
  price: BasedAmount,
): PriceTax {
  const taxClass = taxClassOf(prepared, number)
  const taxable = toTaxable(prepared, pricingContext, price, taxClass, pricingContext.digits)
  return {
    ...splitTax(taxable.amount, taxable.basis, taxable.levies, pricingContext.digits),
    basis: price.basis,
    taxClass,
    misses: leviesOf(prepared, pricingContext, taxClass).misses,
    untaxed: pricingContext.terms.untaxed,
  }
}

/** How prices show to a buyer, in the shop or in the cart: as their first group says, else the region. */
export function displayOf(
  { store }: PreparedStore,
  { buyer, region }: PricingContext,
  where: 'shop' | 'cart',
): TaxDisplay {
  const field = where === 'shop' ? 'taxDisplay' : 'cartTaxDisplay'
  for (const id of buyer.groups) {
    const display = store.group.get(id)?.[field]
    if (display) return display
  }
  return region?.[field] ?? 'gross'
}
