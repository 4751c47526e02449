import { type Decimal, decimal } from '../decimal/decimal'
import { divide, toFraction } from '../decimal/fraction'
import { roundToDigits } from '../decimal/rounding'
import { multiply, subtract, HUNDRED } from '../decimal/decimal'
import { everyAmount, referenceAmounts } from '../engine/amounts/amounts'
import { shownInBasis, storeBasis } from '../engine/amounts/basis'
import { columnPrice, priceColumn } from '../engine/column/price-column'
import type { PreparedStore, PriceColumn } from '../engine/context/prepared-store'
import type { PricingContext } from '../engine/context/pricing-context'
import { toPrice } from '../engine/lists/price-step'
import { openPricingContext } from '../engine/price/open-pricing-context'
import { findRights } from '../engine/rules/find-rights'
import { fixPrice } from '../price/fix-price'
import { buyerClasses, type BuyerClass, standsAt } from '../impact/buyer-classes'
import type { Change } from '../store/store'
import { compare } from '../decimal/decimal'
import type { Finding, FindingCase, FindingKind, FindingRecord, Looking } from './finding'

const ONE = 1000
const ITEMS_A_STEP = 1_024

/** A margin that prices below cost are raised to. */
const LEAST_MARGIN = decimal(5)

/** Cases by what decided the price: its list, or the product's base price. */
class ByCause {
  private readonly found = new Map<string, { readonly cause: FindingRecord; readonly cases: FindingCase[] }>()

  constructor(
    private readonly code: 'below-cost' | 'above-public' | 'no-price',
    private readonly group: Finding['group'],
  ) {}

  add(cause: FindingRecord, one: FindingCase): void {
    const key = `${cause.kind}/${cause.id}`
    const known = this.found.get(key)
    if (known) known.cases.push(one)
    else this.found.set(key, { cause, cases: [one] })
  }

  findings(): readonly Finding[] {
    return [...this.found].map(([key, { cause, cases }]) => ({
      code: this.code,
      group: this.group,
      key: `${this.code}/${key}`,
      cause,
      cases,
      facts: {},
    }))
  }
}

/** Prices below cost, trade prices above what guests pay, and what is shown without a price: one walk over all of them. */
export const PRICE_FINDINGS: FindingKind = { code: 'below-cost', looksAt: null, find: findPrices }

function* findPrices({ prepared, at }: Looking) {
  const below = new ByCause('below-cost', 'loses-money')
  const above = new ByCause('above-public', 'wrong-for-buyers')
  const missing = new ByCause('no-price', 'wrong-for-buyers')
  const comparison = { before: prepared, after: prepared, at, channel: null }
  for (const of of yield* buyerClasses(comparison, false)) {
    const pricingContext = standsAt(comparison, 'after', of)
    if (!pricingContext) continue
    const column = priceColumn(prepared, pricingContext, ONE)
    const guests = of.buyer.kind === 'guest' ? null : guestsBeside(prepared, pricingContext)
    const costs = everyAmount(referenceAmounts(prepared, 'cost', pricingContext.currencyView))
    yield
    const { index, store } = prepared
    for (let number = 0; number < index.variantCount; number += 1) {
      if (number % ITEMS_A_STEP === 0) yield
      if (isInOrder(column, guests?.column ?? null, costs, number)) continue
      const id = index.items[number] as string
      const variant = store.variant.get(id)
      const product = variant && store.product.get(variant.product)
      if (variant?.status !== 'active' || product?.status !== 'active') continue
      const price = homePrice(prepared, pricingContext, column, number)
      if (price === null) {
        const rights = findRights(prepared, pricingContext, number)
        if (rights.see && rights.seePrice)
          missing.add({ kind: 'product', id: product.id }, caseOf(of, id, pricingContext, {}, []))
        continue
      }
      const cost = toPrice(costs[number] as number, pricingContext.digits)
      const isBelow = cost !== null && compare(price, cost) < 0
      const usual = guests && homePrice(prepared, guests.pricingContext, guests.column, number)
      const isAbove = usual !== null && compare(price, usual) > 0
      if (!isBelow && !isAbove) continue
      if (!findRights(prepared, pricingContext, number).see) continue
      const cause = causeOf(prepared, column, number)
      if (isBelow) {
        const raised = atMargin(cost, pricingContext.digits)
        below.add(
          cause,
          caseOf(
            of,
            id,
            pricingContext,
            { price, cost, raised },
            raiseTo(prepared, cause, id, raised, pricingContext),
          ),
        )
      }
      if (isAbove && usual !== null)
        above.add(
          cause,
          caseOf(
            of,
            id,
            pricingContext,
            { price, usual },
            raiseTo(prepared, cause, id, usual, pricingContext),
          ),
        )
    }
  }
  return [...below.findings(), ...above.findings(), ...missing.findings()]
}

/** Whether a price is there, covers its cost and is not above the public one, as its smallest units tell; else it is looked at. */
function isInOrder(
  { prices, bases }: PriceColumn,
  guests: PriceColumn | null,
  costs: Float64Array,
  number: number,
): boolean {
  // Amounts with and without tax are compared exactly.
  if (bases !== null || guests?.bases) return false
  const price = prices[number] as number
  const [cost, usual] = [costs[number] as number, guests ? (guests.prices[number] as number) : Number.NaN]
  return price === price && !(price < cost) && !(price > usual)
}

function guestsBeside(prepared: PreparedStore, own: PricingContext) {
  const opened = openPricingContext(prepared, {
    buyer: { kind: 'guest' },
    channel: own.terms.channel?.id ?? null,
    deliverTo: own.deliverTo,
    currency: own.currency,
    passcode: null,
    at: own.at,
  })
  return opened.ok ? { pricingContext: opened.value, column: priceColumn(prepared, opened.value, ONE) } : null
}

function homePrice(
  prepared: PreparedStore,
  { currencyView }: PricingContext,
  column: PriceColumn,
  number: number,
): Decimal | null {
  return shownInBasis(
    prepared,
    currencyView,
    number,
    columnPrice(prepared, column, number),
    storeBasis(prepared),
  )
}

function causeOf(
  { store, index }: PreparedStore,
  { sources, lists }: PriceColumn,
  number: number,
): FindingRecord {
  const source = sources[number] ?? -1
  const list = source >= 0 ? lists[source] : undefined
  if (list !== undefined) return { kind: 'price-list', id: list }
  return { kind: 'product', id: store.variant.get(index.items[number] as string)?.product ?? '' }
}

function caseOf(
  { buyer }: BuyerClass,
  variant: string,
  { currency }: PricingContext,
  amounts: FindingCase['amounts'],
  fix: readonly Change[],
): FindingCase {
  const id = buyer.kind === 'group' ? buyer.group : buyer.kind === 'account' ? buyer.account : ''
  const kind = buyer.kind === 'group' || buyer.kind === 'account' ? buyer.kind : 'guest'
  return { variant, buyer: { kind, id }, amounts, currency, fix }
}

/** A price that leaves the least margin, rounded up to the digits of the currency. */
function atMargin(cost: Decimal, digits: number): Decimal {
  const rest = subtract(HUNDRED, LEAST_MARGIN)
  return roundToDigits(divide(multiply(cost, HUNDRED), rest), digits, 'ceiling')
}

/** A fixed price in the list that decides, in its currency, or a base price. None where the price is converted. */
function raiseTo(
  { store }: PreparedStore,
  cause: FindingRecord,
  variant: string,
  amount: Decimal,
  { currency, digits }: PricingContext,
): readonly Change[] {
  if (cause.kind === 'product') {
    const record = store.variant.get(variant)
    if (!record || store.settings.get('settings')?.currency !== currency) return []
    return [{ kind: 'variant', id: variant, before: record, after: { ...record, basePrice: amount } }]
  }
  const list = store['price-list'].get(cause.id)
  if (list?.currency !== currency) return []
  const lines = [...store['price-line'].values()].filter((line) => line.list === list.id)
  const fixed = roundToDigits(toFraction(amount), digits, 'half-up')
  const id = `${list.id}/found/${variant}`
  return fixPrice(lines, { kind: 'variant', variant }, fixed, {
    list: list.id,
    id,
    quantity: decimal(1),
  }).map(({ before, after }) => ({ kind: 'price-line', id: (after ?? before)?.id ?? id, before, after }))
}
