import { decimal, type Decimal, HUNDRED, multiply, subtract } from '../decimal/decimal'
import { divide, toFraction } from '../decimal/fraction'
import { roundToDigits } from '../decimal/rounding'
import { amountAt, shownAmounts } from '../engine/amounts/amounts'
import { shownInBasis, storeBasis } from '../engine/amounts/basis'
import type { PreparedStore } from '../engine/context/prepared-store'
import type { PricingContext } from '../engine/context/pricing-context'
import { toPrice } from '../engine/lists/price-step'
import { findPrice, ONE_PIECE } from '../engine/price/find-price'
import { type BuyerClass, buyerClasses, standsAt } from '../impact/buyer-classes'
import { listsBehind, standsAlike } from '../impact/reach'
import { fixPrice } from '../price/lines/fix-price'
import type { Steps } from '../steps/steps'
import type { Change } from '../store/store'
import {
  caseBuyer,
  type Finding,
  type FindingCase,
  type FindingGroup,
  type FindingRecord,
  type Looking,
} from './finding'
import { type FaultyCells, faultyCells, guestsBeside, type PriceFault } from './price-cells'

/** A margin that prices below cost are raised to. */
const LEAST_MARGIN = decimal(5)
/** So many cases of a finding are told one by one; the others are counted. */
const MOST_CASES = 1_000

const GROUPS: Readonly<Record<PriceFault, FindingGroup>> = {
  'below-cost': 'loses-money',
  'above-public': 'wrong-for-buyers',
  'no-price': 'wrong-for-buyers',
}

/** One class, what holds for it, and what is wrong with its prices. */
interface KnownClass {
  readonly of: BuyerClass
  readonly context: PricingContext
  readonly cells: readonly FaultyCells[]
}

/** What was found about prices, class by class, so that after an edit only those it reaches are looked at again. */
export interface PriceFindings {
  readonly findings: readonly Finding[]
  readonly looking: Looking
  /** By the buyer and currency of a class. */
  readonly classes: ReadonlyMap<string, KnownClass>
}

/** Prices below cost, trade prices above what guests pay, and what is shown without a price. */
export function* findPriceFaults(looking: Looking, before: PriceFindings | null): Steps<PriceFindings> {
  const { prepared, at } = looking
  const comparison = { before: prepared, after: prepared, at, channel: null }
  const classes = new Map<string, KnownClass>()
  const isSameDay = before?.looking.at === at && haveSameItems(before.looking.prepared, prepared)
  for (const of of yield* buyerClasses(comparison, false)) {
    const context = standsAt(comparison, 'after', of)
    if (!context) continue
    const key = JSON.stringify([of.buyer, of.currency])
    const known = isSameDay ? before.classes.get(key) : undefined
    yield
    const isSame =
      known && before && isLeftAlone(of, [before.looking.prepared, known.context], [prepared, context])
    classes.set(key, { of, context, cells: isSame ? known.cells : yield* faultyCells(prepared, of, context) })
  }
  return { findings: gather(prepared, [...classes.values()]), looking, classes }
}

function haveSameItems(before: PreparedStore, { store, index }: PreparedStore): boolean {
  return (
    before.index === index &&
    before.store.variant === store.variant &&
    before.store.product === store.product &&
    before.store.category === store.category &&
    before.store.settings === store.settings
  )
}

type Standing = readonly [PreparedStore, PricingContext]

/** Whether a class pays and sees the same in two stores of the same items, and guests beside it too. */
function isLeftAlone(of: BuyerClass, before: Standing, after: Standing): boolean {
  const [then, now] = [guestsBeside(before[0], of, before[1]), guestsBeside(after[0], of, after[1])]
  const doGuests = then && now ? paysTheSame([before[0], then], [after[0], now]) : then === now
  return doGuests && paysTheSame(before, after)
}

function paysTheSame([before, then]: Standing, [after, now]: Standing): boolean {
  if (!standsAlike([before, then], [after, now])) return false
  for (const id of listsBehind(after, now)) if (before.lists.get(id) !== after.lists.get(id)) return false
  return true
}

/** One finding for each fault and cause, over all classes. */
function gather(prepared: PreparedStore, classes: readonly KnownClass[]): readonly Finding[] {
  const byCause = new Map<string, { readonly first: FaultyCells; readonly parts: Part[]; count: number }>()
  for (const { of, context, cells } of classes)
    for (const each of cells) {
      const key = `${each.fault}/${each.cause.kind}/${each.cause.id}`
      const known = byCause.get(key) ?? { first: each, parts: [], count: 0 }
      byCause.set(key, known)
      known.parts.push({ of, context, numbers: each.numbers })
      known.count += each.numbers.length
    }
  return [...byCause].map(
    ([
      key,
      {
        first: { fault, cause },
        parts,
        count,
      },
    ]): Finding => {
      let cases: readonly FindingCase[] | null = null
      return {
        code: fault,
        group: GROUPS[fault],
        key,
        cause,
        count,
        isFixable: fault !== 'no-price' && parts.some(({ context }) => canBeSet(prepared, cause, context)),
        // Told one by one only for whoever opens it.
        get cases() {
          return (cases ??= casesOf(prepared, fault, cause, parts))
        },
        facts: {},
      }
    },
  )
}

interface Part {
  readonly of: BuyerClass
  readonly context: PricingContext
  readonly numbers: readonly number[]
}

function casesOf(
  prepared: PreparedStore,
  fault: PriceFault,
  cause: FindingRecord,
  parts: readonly Part[],
): readonly FindingCase[] {
  const cases: FindingCase[] = []
  for (const { of, context, numbers } of parts) {
    const guests = guestsBeside(prepared, of, context)
    for (const number of numbers) {
      if (cases.length === MOST_CASES) return cases
      cases.push(caseOf(prepared, fault, cause, { of, context, guests }, number))
    }
  }
  return cases
}

function caseOf(
  prepared: PreparedStore,
  fault: PriceFault,
  cause: FindingRecord,
  { of, context, guests }: Pick<Part, 'of' | 'context'> & { readonly guests: PricingContext | null },
  number: number,
): FindingCase {
  const variant = prepared.index.items[number] as string
  const about = { variant, buyer: caseBuyer(of.buyer), currency: context.currency }
  const price = homePrice(prepared, context, number)
  if (price === null) return { ...about, amounts: {}, fix: [] }
  if (fault === 'below-cost') {
    const costs = shownAmounts(prepared, 'cost', context.currencyView)
    const cost = toPrice(amountAt(costs, number), context.digits) ?? price
    const raised = atMargin(cost, context.digits)
    return {
      ...about,
      amounts: { price, cost, raised },
      fix: setTo(prepared, cause, variant, raised, context),
    }
  }
  const usual = (guests && homePrice(prepared, guests, number)) ?? price
  return { ...about, amounts: { price, usual }, fix: setTo(prepared, cause, variant, usual, context) }
}

/** In the basis of the store. */
function homePrice(prepared: PreparedStore, context: PricingContext, number: number): Decimal | null {
  const price = findPrice(prepared, context, number, ONE_PIECE)
  return shownInBasis(prepared, context.currencyView, number, price, storeBasis(prepared))
}

/** A price that leaves the least margin, rounded up to the digits of the currency. */
function atMargin(cost: Decimal, digits: number): Decimal {
  const rest = subtract(HUNDRED, LEAST_MARGIN)
  return roundToDigits(divide(multiply(cost, HUNDRED), rest), digits, 'ceiling')
}

/** None where the price is converted. */
function canBeSet({ store }: PreparedStore, cause: FindingRecord, { currency }: PricingContext): boolean {
  return cause.kind === 'product'
    ? store.settings.get('settings')?.currency === currency
    : store['price-list'].get(cause.id)?.currency === currency
}

/** A fixed price in the list that decides, in its currency, or a base price. */
function setTo(
  prepared: PreparedStore,
  cause: FindingRecord,
  variant: string,
  amount: Decimal,
  context: PricingContext,
): readonly Change[] {
  if (!canBeSet(prepared, cause, context)) return []
  const { store } = prepared
  if (cause.kind === 'product') {
    const record = store.variant.get(variant)
    return record
      ? [{ kind: 'variant', id: variant, before: record, after: { ...record, basePrice: amount } }]
      : []
  }
  const fixed = roundToDigits(toFraction(amount), context.digits, 'half-up')
  const id = `${cause.id}/found/${variant}`
  return fixPrice(prepared.lists.get(cause.id)?.lines ?? [], { kind: 'variant', variant }, fixed, {
    list: cause.id,
    id,
    quantity: decimal(1),
  }).map(({ before, after }) => ({ kind: 'price-line', id: (after ?? before)?.id ?? id, before, after }))
}
