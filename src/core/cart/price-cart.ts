import { allocate } from '../decimal/allocate'
import { add, compare, type Decimal, isPositive, multiply, sum, ZERO } from '../decimal/decimal'
import { addFractions, multiplyFractions, toFraction } from '../decimal/fraction'
import { findMinorDigits } from '../currency/iso-4217'
import { addExtras, type WithExtras } from '../engine/price/add-extras'
import { findExactUnit } from '../engine/price/exact-unit'
import type { Quantities } from '../engine/price/find-in-list'
import { findLimits } from '../engine/rules/find-limits'
import { findPrice } from '../engine/price/find-price'
import type { FoundPrice } from '../engine/context/found-price'
import { findRights } from '../engine/rules/find-rights'
import { leviesOf, type TaxableAmount, taxClassOf, toTaxable } from '../engine/rules/find-tax'
import { fromHome } from '../engine/context/currency-view'
import { openPricingContextExactly } from '../engine/price/open-pricing-context'
import type { PreparedStore } from '../engine/context/prepared-store'
import type { PricingContext } from '../engine/context/pricing-context'
import type { QuestionError } from '../engine/context/buyer-context'
import { matchWhat } from '../predicates/what'
import { getSettings } from '../store/store'
import { splitTax } from '../tax/split-tax'
import type { CartLine, CartQuestion, CartResult, TaxedAmount } from './cart'
import { cartQuantities, type NumberedLine, numberLines } from './cart-quantities'
import { netsOf, taxDocument } from './cart-tax'
import { findProblems } from './find-problems'
import { type ExactTotal, roundTotals } from './line-totals'

/**
 * What a cart costs and whether it may be ordered: prices with breaks counted together, limits, delivery, taxes,
 * totals.
 *
 * Errors  names the buyer, variant, extra, channel or currency that does not exist, or a quantity not above zero. A
 *         line that may not be bought or a limit that is broken is a problem of the cart, not an error.
 * Holds   net + tax = gross on every line, for goods, delivery and in all, to the last unit of the currency.
 */
export function priceCart(prepared: PreparedStore, question: CartQuestion): CartResult {
  const opened = openPricingContextExactly(prepared, question)
  if (!opened.ok) return opened
  const wrong = checkLines(prepared, question)
  if (wrong) return { ok: false, error: wrong }
  const pricingContext = opened.value
  const digits = findMinorDigits(pricingContext.currency) ?? 2
  const numbered = numberLines(prepared, question.lines)
  const quantitiesOf = cartQuantities(numbered)
  const unrounded = numbered.map((line) => priceLine(prepared, pricingContext, line, quantitiesOf(line)))
  const totals = roundTotals(
    unrounded.map(({ total }) => total),
    digits,
  )
  const priced = unrounded.map((line, at) => ({ ...line, total: totals[at] ?? null }))
  const sold = priced.filter((line) => line.total !== null)
  const taxables = sold.map(({ total, basis, taxClass }) =>
    toTaxable(prepared, pricingContext, { amount: total as Decimal, basis }, taxClass, digits),
  )
  const { taxRounding } = getSettings(prepared.store)
  // Delivery depends on the net of the goods, and is taxed with them.
  const nets = netsOf(taxables, taxRounding, digits)
  const deliveries = deliveryParts(
    prepared,
    pricingContext,
    sold.map(({ taxClass }, at) => ({ taxClass, net: nets[at] as Decimal })),
    digits,
  )
  const whole = taxDocument([...taxables, ...deliveries], taxRounding, digits)
  const delivery = totalOf(whole.lines.slice(taxables.length).map(({ amount }) => amount))
  // Lines with a price stand in the document in their own order.
  let next = 0
  const lines = priced.map((line): CartLine => {
    const { wanted, unit, basis, taxClass } = line
    const taxed = line.total === null ? null : (whole.lines[next++] ?? null)
    const each =
      unit && toTaxable(prepared, pricingContext, { amount: unit, basis }, taxClass, pricingContext.digits)
    return {
      variant: wanted.variant,
      quantity: wanted.quantity,
      extras: wanted.extras,
      access: line.access,
      unit,
      unitAmount: each && taxedUnit(each, pricingContext.digits),
      basis,
      amount: taxed && taxed.amount,
      taxes: taxed ? taxed.taxes : [],
      misses: leviesOf(prepared, pricingContext, taxClass).misses,
      limits: line.limits,
      list: line.list,
      contract: line.contract,
      stock: prepared.store.variant.get(wanted.variant)?.stock ?? null,
    }
  })
  const goodsTotal = totalOf(lines.map(({ amount }) => amount).filter((amount) => amount !== null))
  const weights = numbered.map((line) => weightOf(prepared, line))
  return {
    ok: true,
    value: {
      currency: pricingContext.currency,
      digits,
      lines,
      delivery,
      goods: goodsTotal,
      taxes: whole.totals,
      total: totalOf([goodsTotal, delivery]),
      untaxed: pricingContext.terms.untaxed,
      weight: weights.every((weight) => weight !== null) ? sum(weights as Decimal[]) : null,
      problems: findProblems(prepared, pricingContext, {
        lines,
        numbered,
        weights,
        goodsNet: goodsTotal.net,
        past: question.past,
      }),
    },
  }
}

function checkLines({ store, index }: PreparedStore, { lines }: CartQuestion): QuestionError | null {
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

function priceLine(
  prepared: PreparedStore,
  pricingContext: PricingContext,
  line: NumberedLine,
  quantities: Quantities,
) {
  const { wanted, number, facts } = line
  const found = findPrice(prepared, pricingContext, number, quantities)
  const extras = extrasOf(prepared, pricingContext, line, quantities)
  const priced = extras && addExtras(prepared, pricingContext, number, found, extras)
  return {
    wanted,
    access: findRights(prepared, pricingContext, number, facts),
    limits: findLimits(prepared, pricingContext, number, facts),
    unit: priced?.unit ?? null,
    total: priced && exactTotal(prepared, pricingContext, line, quantities, found, priced),
    basis: found.basis,
    taxClass: taxClassOf(prepared, number),
    list: found.entry?.compiled.list.id ?? null,
    contract: found.entry?.contract?.id ?? null,
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

/** A unit price in a document: each of its taxes by itself, whatever the document rounds together. */
function taxedUnit({ amount, basis, levies }: TaxableAmount, digits: number): TaxedAmount {
  const { net, taxes, gross } = splitTax(amount, basis, levies, digits)
  return { net, tax: sum(taxes.map((tax) => tax.amount)), gross }
}

/**
 * Delivery by the levies it stands under: its own class, or the classes of the goods by their net.
 *
 * Source  Directive 2006/112/EC Art. 78(b): what is charged for transport belongs to the taxable amount of the goods
 *         (from memory); apportioned by net value, common practice.
 */
function deliveryParts(
  prepared: PreparedStore,
  pricingContext: PricingContext,
  goods: readonly { readonly taxClass: string | null; readonly net: Decimal }[],
  digits: number,
): readonly TaxableAmount[] {
  const { deliveryPrice, deliveryFreeFrom, deliveryTaxClass } = getSettings(prepared.store)
  if (deliveryPrice === null || goods.length === 0) return []
  const free =
    deliveryFreeFrom === null
      ? null
      : fromHome(prepared, pricingContext.currencyView, deliveryFreeFrom, digits)
  const price = fromHome(prepared, pricingContext.currencyView, deliveryPrice, digits)
  if (price === null || (free !== null && compare(sum(goods.map(({ net }) => net)), free) >= 0)) return []
  const part = (amount: Decimal, taxClass: string | null): TaxableAmount => ({
    amount,
    basis: 'net',
    levies: pricingContext.terms.untaxed ? [] : leviesOf(prepared, pricingContext, taxClass, true).levies,
  })
  if (deliveryTaxClass !== null) return [part(price, deliveryTaxClass)]
  const nets = new Map<string | null, Decimal>()
  for (const { taxClass, net } of goods) nets.set(taxClass, add(nets.get(taxClass) ?? ZERO, net))
  const classes = [...nets.keys()]
  const weights = classes.map((taxClass) => nets.get(taxClass) as Decimal)
  if (weights.every((weight) => weight === ZERO)) return [part(price, classes[0] ?? null)]
  return allocate(price, weights, digits).map((share, at) => part(share, classes[at] ?? null))
}

function weightOf({ store }: PreparedStore, { wanted }: NumberedLine): Decimal | null {
  const variant = store.variant.get(wanted.variant)
  const weight = variant?.weight ?? store.product.get(variant?.product ?? '')?.weight ?? null
  return weight && multiply(weight, wanted.quantity)
}

function totalOf(amounts: readonly TaxedAmount[]): TaxedAmount {
  return {
    net: sum(amounts.map(({ net }) => net)),
    tax: sum(amounts.map(({ tax }) => tax)),
    gross: sum(amounts.map(({ gross }) => gross)),
  }
}
