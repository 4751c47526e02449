import { ALL_RIGHTS, type Rights } from '../access/access'
import { decimal, multiply } from '../decimal/decimal'
import { amountAt, shownAmounts } from '../engine/amounts/amounts'
import { shownInBasis, storeBasis } from '../engine/amounts/basis'
import { reachOf } from '../engine/amounts/naming-index'
import { computeColumn } from '../engine/column/price-column'
import type { PreparedStore, PriceColumn } from '../engine/context/prepared-store'
import type { PricingContext } from '../engine/context/pricing-context'
import type { BasedUnits } from '../engine/lists/based-units'
import { lookUpPrice } from '../engine/price/find-price'
import { findLimits } from '../engine/rules/find-limits'
import { findRights, isUnrestricted } from '../engine/rules/find-rights'
import { leviesOf, taxClassOf } from '../engine/rules/find-tax'
import { getSettings } from '../store/store'
import { type BuyerClass, type Comparison, standsAt } from './buyer-classes'

/** A class on one side of a comparison: its prices, costs and rights, by the numbers of variants. */
export class Standing {
  readonly isFree: boolean
  private readonly costs
  private readonly taxWords = new Map<string | null, string>()

  constructor(
    readonly prepared: PreparedStore,
    readonly pricingContext: PricingContext,
  ) {
    this.costs = shownAmounts(prepared, 'cost', pricingContext.currencyView)
    this.isFree = isUnrestricted(pricingContext)
  }

  rights(number: number): Rights {
    return this.isFree ? ALL_RIGHTS : findRights(this.prepared, this.pricingContext, number)
  }

  price(number: number, quantity: number): BasedUnits {
    const { prepared, pricingContext } = this
    const reach = reachOf(prepared, pricingContext)
    const { units, basis } = lookUpPrice(prepared, pricingContext, reach, number, {
      own: quantity,
      counted: null,
    })
    return { units, basis }
  }

  /** In the basis of the store. */
  home(number: number, price: BasedUnits): number {
    const { prepared, pricingContext } = this
    const basis = storeBasis(prepared)
    if (price.basis === basis || price.units !== price.units) return price.units
    const amount = shownInBasis(prepared, pricingContext.currencyView, number, price, basis)
    // Multiplied exactly first: equal amounts must come out as equal numbers.
    return amount === null ? Number.NaN : Number(multiply(amount, decimal(10 ** pricingContext.digits)))
  }

  cost(number: number): number {
    return amountAt(this.costs, number)
  }

  /** Whether every item surely costs the merchant what it costs on another side. */
  hasCostsOf({ prepared, pricingContext }: Standing): boolean {
    const [mine, theirs] = [this.prepared.store, prepared.store]
    const home = getSettings(mine).currency
    return (
      mine.variant === theirs.variant &&
      mine.product === theirs.product &&
      home === getSettings(theirs).currency &&
      this.pricingContext.currency === home &&
      pricingContext.currency === home
    )
  }

  column(quantity: number): PriceColumn {
    return computeColumn(this.prepared, this.pricingContext, quantity)
  }

  limits(number: number): string {
    const { limits, together } = findLimits(this.prepared, this.pricingContext, number)
    return JSON.stringify([limits, together])
  }

  taxClass(number: number): string | null {
    return taxClassOf(this.prepared, number)
  }

  taxes(number: number): string {
    const { untaxed } = this.pricingContext.terms
    if (untaxed) return untaxed
    const taxClass = this.taxClass(number)
    let word = this.taxWords.get(taxClass)
    if (word === undefined) {
      const { levies } = leviesOf(this.prepared, this.pricingContext, taxClass)
      word = levies.map(({ tax, percent }) => `${tax.id}=${percent}`).join()
      this.taxWords.set(taxClass, word)
    }
    return word
  }
}

/** Guests beside a class in the same currency, whom no other buyer should pay more than; looked for when first asked. */
export class GuestsBeside {
  private readonly found = new Map<'before' | 'after', Standing | null>()

  constructor(
    private readonly comparison: Comparison,
    private readonly of: BuyerClass,
  ) {}

  /** Whether a price of the class, in smallest units in the basis of the store, is above theirs; never for guests themselves. */
  isAbove(side: 'before' | 'after', own: number, variant: string, quantity: number): boolean {
    const guests = this.on(side)
    const number = guests?.prepared.index.numberOf.get(variant)
    if (!guests || number === undefined) return false
    return own > guests.home(number, guests.price(number, quantity))
  }

  private on(side: 'before' | 'after'): Standing | null {
    let known = this.found.get(side)
    if (known === undefined) this.found.set(side, (known = this.look(side)))
    return known
  }

  private look(side: 'before' | 'after'): Standing | null {
    if (this.of.buyer.kind === 'guest') return null
    const own = standsAt(this.comparison, side, this.of)
    const guest = own && standsAt(this.comparison, side, { buyer: { kind: 'guest' }, currency: own.currency })
    return guest && new Standing(this.comparison[side], guest)
  }
}
