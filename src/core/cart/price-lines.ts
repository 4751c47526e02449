import { type Decimal, isPositive, multiply } from '../decimal/decimal'
import { addFractions, multiplyFractions, toFraction } from '../decimal/fraction'
import type { QuestionError } from '../engine/context/buyer-context'
import type { FoundPrice } from '../engine/context/found-price'
import type { PreparedStore } from '../engine/context/prepared-store'
import type { PricingContext } from '../engine/context/pricing-context'
import { addExtras, type WithExtras } from '../engine/price/add-extras'
import { findExactUnit } from '../engine/price/exact-unit'
import type { Quantities } from '../engine/price/find-in-list'
import { findPrice } from '../engine/price/find-price'
import { findLimits, type FoundLimits } from '../engine/rules/find-limits'
import { type Access, findRights } from '../engine/rules/find-rights'
import { taxClassOf } from '../engine/rules/find-tax'
import { matchWhat } from '../predicates/what'
import type { TaxBasis } from '../price/based-amount'
import type { CartLineWanted } from './cart'
import { cartQuantities, type NumberedLine, numberLines } from './cart-quantities'
import { type ExactTotal, roundTotals } from './line-totals'

/** The first stage: what each line costs by itself, with breaks counted over the whole cart. */
export interface PricedLine extends NumberedLine {
  readonly access: Access
  readonly limits: FoundLimits
  /** Of one piece with its extras; `null` without a price. */
  readonly unit: Decimal | null
  /** Of the whole line, rounded to what can be paid; `null` without a price. */
  readonly total: Decimal | null
  readonly basis: TaxBasis
  readonly taxClass: string | null
  /** The list that decided and the contract that led to it, by id. */
  readonly list: string | null
  readonly contract: string | null
  /** Kilograms; `null` where it is not known. */
  readonly weight: Decimal | null
}

/** Errors  `checkLines` first: throws for a line that names what does not exist. */
export function priceLines(
  prepared: PreparedStore,
  pricingContext: PricingContext,
  wanted: readonly CartLineWanted[],
  digits: number,
): readonly PricedLine[] {
  const numbered = numberLines(prepared, wanted)
  const quantitiesOf = cartQuantities(numbered)
  const found = numbered.map((line) => findTotal(prepared, pricingContext, line, quantitiesOf(line)))
  const totals = roundTotals(
    found.map(({ exact }) => exact),
    digits,
  )
  // Field by field: objects spread together have a shape of their own each, and reading a field of them is slow.
  return numbered.map((line, at): PricedLine => {
    const { number, facts } = line
    const { price, unit } = found[at] as FoundTotal
    return {
      number,
      wanted: line.wanted,
      quantity: line.quantity,
      product: line.product,
      facts,
      access: findRights(prepared, pricingContext, number, facts),
      limits: findLimits(prepared, pricingContext, number, facts),
      unit,
      total: totals[at] ?? null,
      basis: line.wanted.settled?.basis ?? price.basis,
      taxClass: taxClassOf(prepared, number),
      list: line.wanted.settled ? null : (price.entry?.compiled.list.id ?? null),
      contract: line.wanted.settled ? null : (price.entry?.contract?.id ?? null),
      weight: weightOf(prepared, line),
    }
  })
}

/** Errors  what a line names that does not exist, or a quantity not above zero; `null` when all is well. */
export function checkLines(
  { store, index }: PreparedStore,
  lines: readonly CartLineWanted[],
): QuestionError | null {
  for (const { variant, quantity, extras } of lines) {
    const number = index.numberOf.get(variant)
    if (number === undefined || number >= index.variantCount) return { code: 'unknown-variant', variant }
    if (!isPositive(quantity)) return { code: 'quantity-not-positive', quantity }
    // One that is no longer sold is a problem of its line: it may have been there when it was put in.
    const missing = extras.find((id) => !store.extra.has(id))
    if (missing !== undefined) return { code: 'unknown-extra', extra: missing }
  }
  return null
}

interface FoundTotal {
  readonly price: FoundPrice
  /** Of one piece with its extras; `null` without a price. */
  readonly unit: Decimal | null
  /** Of the whole line before it is rounded; `null` without a price. */
  readonly exact: ExactTotal | null
}

function findTotal(
  prepared: PreparedStore,
  pricingContext: PricingContext,
  line: NumberedLine,
  quantities: Quantities,
): FoundTotal {
  const price = findPrice(prepared, pricingContext, line.number, quantities)
  const { settled, quantity } = line.wanted
  if (settled) {
    const exact = toFraction(multiply(settled.amount, quantity))
    return { price, unit: settled.amount, exact: { exact, brackets: null } }
  }
  const extras = extrasOf(prepared, pricingContext, line, quantities)
  const priced = extras && addExtras(prepared, pricingContext, line.number, price, extras)
  return {
    price,
    unit: priced?.unit ?? null,
    exact: priced && exactTotal(prepared, pricingContext, line, quantities, price, priced),
  }
}

function exactTotal(
  prepared: PreparedStore,
  pricingContext: PricingContext,
  { wanted, number }: NumberedLine,
  quantities: Quantities,
  found: FoundPrice,
  { unit, extras }: WithExtras,
): ExactTotal {
  const exact = findExactUnit(prepared, pricingContext, number, quantities, found)
  if (!exact) return { exact: toFraction(multiply(unit, wanted.quantity)), brackets: null }
  const each = addFractions(exact.unit, extras)
  return { exact: multiplyFractions(each, toFraction(wanted.quantity)), brackets: exact.brackets }
}

/** What is wanted with each piece of a line; `null` where an extra is not for the item, or not sold any more. */
function extrasOf(
  prepared: PreparedStore,
  pricingContext: PricingContext,
  { wanted, facts }: NumberedLine,
  quantities: Quantities,
): readonly FoundPrice[] | null {
  const found: FoundPrice[] = []
  for (const id of wanted.extras) {
    const extra = prepared.store.extra.get(id)
    if (extra?.status !== 'active' || !matchWhat(extra.scope, facts).matches) return null
    const at = prepared.index.numberOf.get(id) as number
    found.push(findPrice(prepared, pricingContext, at, quantities))
  }
  return found
}

function weightOf({ store }: PreparedStore, { wanted }: NumberedLine): Decimal | null {
  const variant = store.variant.get(wanted.variant)
  const weight = variant?.weight ?? store.product.get(variant?.product ?? '')?.weight ?? null
  return weight && multiply(weight, wanted.quantity)
}
