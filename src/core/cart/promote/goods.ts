import { powerOfTen } from '../../decimal/decimal'
import type { Fraction } from '../../decimal/fraction'
import { moneyIn } from '../../engine/amounts/money-in'
import type { PreparedStore } from '../../engine/context/prepared-store'
import type { PricingContext } from '../../engine/context/pricing-context'
import { keptScopeMatcher } from '../../engine/items/scope-matcher'
import { QUANTITY_UNITS } from '../../engine/lists/compiled-line'
import { floorUnits } from '../../engine/price/find-price'
import type { What } from '../../predicates/what'
import type { Money, Promotion } from '../../promotions/promotion'
import type { PricedLine } from '../price-lines'

/** What promotions look at: the lines of a cart, whether they take part at all, and amounts in the buyer's currency. */
export class Goods {
  private readonly held = new Map<What, readonly boolean[]>()
  private readonly own = new Map<What, readonly boolean[]>()
  /** The place of each line by its SKU: of equally dear units the same are taken wherever their lines stand. */
  private readonly places: readonly number[]
  private readonly partakes: readonly boolean[]

  constructor(
    private readonly prepared: PreparedStore,
    private readonly pricingContext: PricingContext,
    readonly lines: readonly PricedLine[],
    /** What each line comes to, in the basis of the store; `null` for one that cannot be bought. */
    readonly amounts: readonly (Fraction | null)[],
    readonly digits: number,
  ) {
    const { store } = prepared
    const skuOf = ({ wanted }: PricedLine) => store.variant.get(wanted.variant)?.sku ?? wanted.variant
    const bySku = [...lines.entries()].sort(([, one], [, other]) =>
      skuOf(one) < skuOf(other) ? -1 : skuOf(one) > skuOf(other) ? 1 : 0,
    )
    const places: number[] = []
    bySku.forEach(([line], place) => (places[line] = place))
    this.places = places
    this.partakes = lines.map((_, line) => amounts[line] !== null && this.protectedBy(line) === null)
  }

  /** Below or above zero as a line comes before or after another where their units are equally dear. */
  compareLines(one: number, other: number): number {
    return (this.places[one] ?? one) - (this.places[other] ?? other)
  }

  /** Which lines a scope holds, whether they take part or not. */
  holds(scope: What): readonly boolean[] {
    let held = this.held.get(scope)
    if (!held) {
      const isHeld = keptScopeMatcher(this.prepared, scope)
      this.held.set(scope, (held = this.lines.map(({ number }) => isHeld(number))))
    }
    return held
  }

  /** Which lines a promotion is for and may change. */
  of({ scope }: Promotion): readonly boolean[] {
    let own = this.own.get(scope)
    if (!own)
      this.own.set(scope, (own = this.holds(scope).map((isHeld, at) => isHeld && this.partakes[at] === true)))
    return own
  }

  /** How many digits the price of a unit has. */
  get priceDigits(): number {
    return this.pricingContext.digits
  }

  /** The least a line's quantity may be sold for, in the basis of the store; `null` without a floor. */
  floorOf(line: number, quantity: number): Fraction | null {
    const { number } = this.lines[line] as PricedLine
    const floor = floorUnits(this.prepared, this.pricingContext, number)
    if (floor === Number.NEGATIVE_INFINITY) return null
    const denominator = powerOfTen(this.priceDigits) * BigInt(QUANTITY_UNITS)
    return { numerator: BigInt(floor) * BigInt(quantity), denominator }
  }

  takesPart(line: number): boolean {
    return this.partakes[line] === true
  }

  /** The contract whose prices nothing else moves; `null` for a line that is free. */
  protectedBy(line: number): string | null {
    const id = this.lines[line]?.contract ?? null
    return id !== null && this.prepared.store.contract.get(id)?.isProtected === true ? id : null
  }

  /** An amount in the buyer's currency; `null` without a rate. */
  money(money: Money): Fraction | null {
    return moneyIn(this.prepared, this.pricingContext, money, this.digits)
  }
}
