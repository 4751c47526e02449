import { decimal, multiply } from '../decimal/decimal'
import { amountAt, referenceAmounts } from '../engine/amounts/amounts'
import { shownInBasis, storeBasis } from '../engine/amounts/basis'
import { reachOf } from '../engine/amounts/naming-index'
import { columnPrice, computeColumn } from '../engine/column/price-column'
import type { PreparedStore, PriceColumn } from '../engine/context/prepared-store'
import type { PricingContext } from '../engine/context/pricing-context'
import type { BasedUnits } from '../engine/lists/based-units'
import { lookUpPrice } from '../engine/price/find-price'
import { findLimits } from '../engine/rules/find-limits'
import { findRights, isUnrestricted } from '../engine/rules/find-rights'
import { leviesOf, taxClassOf } from '../engine/rules/find-tax'
import { ALL_RIGHTS, type Rights } from '../access/access'
import type { Steps } from '../steps/steps'
import { getSettings } from '../store/store'
import { type BuyerClass, type Comparison, standsAt } from './buyer-classes'
import { breakQuantities } from './break-quantities'
import { listsBehind, type Reach, standsAlike } from './reach'
import { taxWord } from './tax-word'

/** One price of an item for a class that is another one: at a quantity from which it is what it is. */
export interface MovedPrice {
  /** Id of the variant. */
  readonly variant: string
  /** In thousandths. */
  readonly quantity: number
  /** In smallest units of the class's currency on either side, in the basis of the store; NaN for no price. */
  readonly before: number
  readonly after: number
  readonly costBefore: number
  readonly costAfter: number
  /** Whether guests paid, and pay, less; never for guests. */
  readonly wasAbovePublic: boolean
  readonly isAbovePublic: boolean
}

/** What a class may do with an item, before and after. */
interface MovedRights {
  readonly variant: string
  readonly before: Rights
  readonly after: Rights
}

/** Everything that is another thing for a class of buyers after than before. */
export interface ClassImpact {
  readonly of: BuyerClass
  /** `null` where nobody stands on that side. */
  readonly currency: { readonly before: string | null; readonly after: string | null }
  readonly digits: number
  readonly prices: readonly MovedPrice[]
  readonly rights: readonly MovedRights[]
  /** Ids of variants whose limits, and whose taxes, are others. */
  readonly limits: readonly string[]
  readonly taxes: readonly string[]
}

const CELLS_A_STEP = 512

/** What changes for one class. Only what the changes can reach is looked at; everything else is the same. */
export function* classImpact(comparison: Comparison, reach: Reach, of: BuyerClass): Steps<ClassImpact> {
  const [then, now] = [standsAt(comparison, 'before', of), standsAt(comparison, 'after', of)]
  const before = then && new Standing(comparison.before, then)
  const after = now && new Standing(comparison.after, now)
  const about = {
    of,
    currency: { before: then?.currency ?? null, after: now?.currency ?? null },
    digits: (now ?? then)?.digits ?? 2,
  }
  const isNarrow =
    !reach.isEverything && then && now && standsAlike([comparison.before, then], [comparison.after, now])
  const variants = isNarrow ? reachedBy(comparison.after, now, reach) : null
  if (variants?.size === 0) return { ...about, prices: [], rights: [], limits: [], taxes: [] }
  const found = {
    prices: [] as MovedPrice[],
    rights: [] as MovedRights[],
    limits: [] as string[],
    taxes: [] as string[],
  }
  const guests = guestsBeside(comparison, of)
  const pairs = variants ? [...variants] : everyVariant(comparison)
  const seen = yield* compareTerms(pairs, before, after, found)
  yield* comparePrices(seen, before, after, guests, variants === null, found.prices)
  return { ...about, ...found }
}

function reachedBy(after: PreparedStore, now: PricingContext, reach: Reach): ReadonlySet<string> {
  const found = new Set(reach.variants)
  if (reach.byList.size === 0) return found
  for (const list of listsBehind(after, now)) for (const id of reach.byList.get(list) ?? []) found.add(id)
  return found
}

function everyVariant({ before, after }: Comparison): readonly string[] {
  const ids = after.index.items.slice(0, after.index.variantCount)
  const gone = before.index.items
    .slice(0, before.index.variantCount)
    .filter((id) => !after.index.numberOf.has(id))
  return [...ids, ...gone]
}

/** Guests in the same currency, whom no other buyer should pay more than; `null` for guests. */
function guestsBeside(
  comparison: Comparison,
  of: BuyerClass,
): { readonly before: Standing | null; readonly after: Standing | null } | null {
  if (of.buyer.kind === 'guest') return null
  const side = (which: 'before' | 'after') => {
    const own = standsAt(comparison, which, of)
    const guest = own && standsAt(comparison, which, { buyer: { kind: 'guest' }, currency: own.currency })
    return guest && new Standing(comparison[which], guest)
  }
  return { before: side('before'), after: side('after') }
}

/** A class on one side: its prices, costs and rights by the ids of variants. */
class Standing {
  private readonly reach
  private readonly costs
  readonly isFree: boolean

  constructor(
    readonly prepared: PreparedStore,
    readonly pricingContext: PricingContext,
  ) {
    this.reach = reachOf(prepared, pricingContext)
    this.costs = referenceAmounts(prepared, 'cost', pricingContext.currencyView)
    this.isFree = isUnrestricted(pricingContext)
  }

  numberOf(variant: string): number | null {
    return this.prepared.index.numberOf.get(variant) ?? null
  }

  isSold(number: number): boolean {
    const { store, index } = this.prepared
    const variant = store.variant.get(index.items[number] as string)
    return variant?.status === 'active' && store.product.get(variant.product)?.status === 'active'
  }

  rights(number: number): Rights {
    return this.isFree ? ALL_RIGHTS : findRights(this.prepared, this.pricingContext, number)
  }

  price(number: number, quantity: number): BasedUnits {
    const { prepared, pricingContext } = this
    const { units, basis } = lookUpPrice(prepared, pricingContext, this.reach, number, {
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

  column(quantity: number, room: PriceColumn | null): PriceColumn {
    return computeColumn(this.prepared, this.pricingContext, quantity, room)
  }

  limits(number: number): string {
    const { limits, together } = findLimits(this.prepared, this.pricingContext, number)
    return JSON.stringify([limits, together])
  }

  taxes(number: number): string {
    const { untaxed } = this.pricingContext.terms
    if (untaxed) return untaxed
    const { levies } = leviesOf(this.prepared, this.pricingContext, taxClassOf(this.prepared, number))
    return levies.map(({ tax, percent }) => `${tax.id}=${percent}`).join()
  }
}

const NO_RIGHT: Rights = { see: false, seePrice: false, buy: false, quote: false }

interface Found {
  readonly rights: MovedRights[]
  readonly limits: string[]
  readonly taxes: string[]
}

/** What a class sees and may do; resolves to the variants it sees on both sides. */
function* compareTerms(
  variants: readonly string[],
  before: Standing | null,
  after: Standing | null,
  found: Found,
): Steps<readonly string[]> {
  const seen: string[] = []
  const areAlike = before !== null && after !== null && haveSameTerms(before, after)
  const hasSameTaxes =
    before &&
    after &&
    taxWord(before.prepared, before.pricingContext) === taxWord(after.prepared, after.pricingContext)
  for (const [at, variant] of variants.entries()) {
    if (at % CELLS_A_STEP === 0) yield
    const [then, now] = [sold(before, variant), sold(after, variant)]
    if (then === null && now === null) continue
    // The same item under the same rules need not be asked about.
    const isSame = areAlike && then !== null && now !== null && isSameItem(before, after, variant)
    if (isSame && before?.isFree) {
      seen.push(variant)
      if (!hasSameTaxes && before.taxes(then) !== after?.taxes(now)) found.taxes.push(variant)
      continue
    }
    const rights = {
      variant,
      before: then === null ? NO_RIGHT : (before as Standing).rights(then),
      after: now === null ? NO_RIGHT : (after as Standing).rights(now),
    }
    if (!haveSameRights(rights.before, rights.after)) found.rights.push(toMoved(rights))
    if (!rights.before.see || !rights.after.see || then === null || now === null || !before || !after)
      continue
    seen.push(variant)
    if (!isSame && before.limits(then) !== after.limits(now)) found.limits.push(variant)
    const isSameClass = taxClassOf(before.prepared, then) === taxClassOf(after.prepared, now)
    if (!(hasSameTaxes && isSameClass) && before.taxes(then) !== after.taxes(now)) found.taxes.push(variant)
  }
  return seen
}

/** Whether somebody is under the same access rules and limits on both sides, and none hangs on what lists hold. */
function haveSameTerms({ prepared, pricingContext: then }: Standing, after: Standing): boolean {
  const now = after.pricingContext
  const same = (left: readonly { readonly rule: unknown }[], right: readonly { readonly rule: unknown }[]) =>
    left.length === right.length && left.every(({ rule }, at) => rule === right[at]?.rule)
  return (
    prepared.store.category === after.prepared.store.category &&
    getSettings(prepared.store).taxClass === getSettings(after.prepared.store).taxClass &&
    same(then.terms.rules, now.terms.rules) &&
    same(then.terms.limits, now.terms.limits) &&
    then.terms.channel === now.terms.channel &&
    then.terms.passcode === now.terms.passcode &&
    then.buyer.signedIn === now.buyer.signedIn &&
    then.contracts.length === now.contracts.length &&
    then.contracts.every((contract, at) => contract === now.contracts[at]) &&
    then.exclusiveLists.length === 0 &&
    now.exclusiveLists.length === 0
  )
}

function isSameItem(before: Standing | null, after: Standing | null, id: string): boolean {
  const [then, now] = [before?.prepared.store, after?.prepared.store]
  const variant = then?.variant.get(id)
  return (
    variant !== undefined &&
    variant === now?.variant.get(id) &&
    then?.product.get(variant.product) === now?.product.get(variant.product)
  )
}

function toMoved({ variant, before, after }: MovedRights): MovedRights {
  const plain = ({ see, seePrice, buy, quote }: Rights): Rights => ({ see, seePrice, buy, quote })
  return { variant, before: plain(before), after: plain(after) }
}

function haveSameRights(left: Rights, right: Rights): boolean {
  return (
    left.see === right.see &&
    left.seePrice === right.seePrice &&
    left.buy === right.buy &&
    left.quote === right.quote
  )
}

function sold(standing: Standing | null, variant: string): number | null {
  const number = standing?.numberOf(variant) ?? null
  return number !== null && standing?.isSold(number) ? number : null
}

/** Whole columns where much may move, single prices where little can. */
function* comparePrices(
  variants: readonly string[],
  before: Standing | null,
  after: Standing | null,
  guests: ReturnType<typeof guestsBeside>,
  isWide: boolean,
  found: MovedPrice[],
): Steps<void> {
  if (!before || !after || variants.length === 0) return
  const quantities = breakQuantities(before, after)
  const sides = [before, after] as const
  const numbers = variants.map((variant) => [before.numberOf(variant), after.numberOf(variant)] as const)
  const last = new Float64Array(variants.length * 2).fill(Number.NaN)
  let columns: readonly (PriceColumn | null)[] = [null, null]
  for (const [at, quantity] of quantities.entries()) {
    if (isWide) {
      columns = sides.map((side, which) => side.column(quantity, columns[which] ?? null))
      yield
    }
    for (const [place, [then, now]] of numbers.entries()) {
      if (!isWide && place % CELLS_A_STEP === 0) yield
      if (then === null || now === null) continue
      const [old, next] = [
        priceOf(before, columns[0], then, quantity),
        priceOf(after, columns[1], now, quantity),
      ]
      const isStep =
        at === 0 ||
        !isSame(last[place * 2] as number, old.units) ||
        !isSame(last[place * 2 + 1] as number, next.units)
      last[place * 2] = old.units
      last[place * 2 + 1] = next.units
      if (!isStep) continue
      const isSameBasis =
        old.basis === next.basis && before.pricingContext.currency === after.pricingContext.currency
      if (isSameBasis && isSame(old.units, next.units)) continue
      const [oldHome, nextHome] = [before.home(then, old), after.home(now, next)]
      if (before.pricingContext.currency === after.pricingContext.currency && isSame(oldHome, nextHome))
        continue
      found.push({
        variant: variants[place] as string,
        quantity,
        before: oldHome,
        after: nextHome,
        costBefore: before.cost(then),
        costAfter: after.cost(now),
        wasAbovePublic: isAbove(oldHome, guests?.before ?? null, variants[place] as string, quantity),
        isAbovePublic: isAbove(nextHome, guests?.after ?? null, variants[place] as string, quantity),
      })
    }
  }
}

function priceOf(
  standing: Standing,
  column: PriceColumn | null | undefined,
  number: number,
  quantity: number,
): BasedUnits {
  return column ? columnPrice(standing.prepared, column, number) : standing.price(number, quantity)
}

function isSame(left: number, right: number): boolean {
  return left === right || (left !== left && right !== right)
}

function isAbove(own: number, guests: Standing | null, variant: string, quantity: number): boolean {
  const number = guests?.numberOf(variant) ?? null
  if (!guests || number === null) return false
  return own > guests.home(number, guests.price(number, quantity))
}
