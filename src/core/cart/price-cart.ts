import { allocate } from '../decimal/allocate'
import { add, compare, type Decimal, isPositive, multiply, sum, ZERO } from '../decimal/decimal'
import { toFraction } from '../decimal/fraction'
import { roundToDigits } from '../decimal/rounding'
import { findMinorDigits } from '../currency/iso-4217'
import { bracketsTotal, explainFound } from '../engine/explain-found'
import type { Quantities } from '../engine/find-in-list'
import { findLimits } from '../engine/find-limits'
import { findPrice } from '../engine/find-price'
import { findRights } from '../engine/find-rights'
import { leviesOf, type TaxableAmount, taxBasisOf, taxClassOf, toTaxable } from '../engine/find-tax'
import { fromHome } from '../engine/lens'
import { openSituationExactly } from '../engine/open-situation'
import type { PreparedStore } from '../engine/prepared-store'
import { toPrice } from '../engine/price-step'
import type { Situation } from '../engine/situation'
import type { QuestionError } from '../engine/standpoint'
import { matchWhat } from '../predicates/what'
import { getSettings } from '../store/store'
import { splitTax, type TaxBasis } from '../tax/split-tax'
import type { CartLine, CartQuestion, Carted, TaxedAmount } from './cart'
import { cartQuantities, type NumberedLine, numberLines } from './cart-quantities'
import { netsOf, taxDocument } from './cart-tax'
import { findProblems } from './find-problems'

/**
 * What a cart costs and whether it may be ordered: prices with breaks counted together, limits, delivery, taxes,
 * totals.
 *
 * Errors  names the buyer, variant, extra, channel or currency that does not exist, or a quantity not above zero. A
 *         line that may not be bought or a limit that is broken is a problem of the cart, not an error.
 * Holds   net + tax = gross on every line, for goods, delivery and in all, to the last unit of the currency.
 */
export function priceCart(prepared: PreparedStore, question: CartQuestion): Carted {
  const opened = openSituationExactly(prepared, question)
  if (!opened.ok) return opened
  const wrong = checkLines(prepared, question)
  if (wrong) return { ok: false, error: wrong }
  const situation = opened.value
  const digits = findMinorDigits(situation.currency) ?? 2
  const numbered = numberLines(prepared, question.lines)
  const quantitiesOf = cartQuantities(numbered)
  const priced = numbered.map((line) => priceLine(prepared, situation, line, quantitiesOf(line), digits))
  const sold = priced.filter((line) => line.total !== null)
  const taxables = sold.map((line) =>
    toTaxable(prepared, situation, line.total as Decimal, line.basis, line.taxClass, digits),
  )
  const { taxRounding } = getSettings(prepared.store)
  // Delivery depends on the net of the goods, and is taxed with them.
  const nets = netsOf(taxables, taxRounding, digits)
  const deliveries = deliveryParts(
    prepared,
    situation,
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
    const each = unit && toTaxable(prepared, situation, unit, basis, taxClass, situation.digits)
    return {
      variant: wanted.variant,
      quantity: wanted.quantity,
      extras: wanted.extras,
      access: line.access,
      unit,
      unitAmount: each && taxedUnit(each, situation.digits),
      basis,
      amount: taxed && taxed.amount,
      taxes: taxed ? taxed.taxes : [],
      misses: leviesOf(prepared, situation, taxClass).misses,
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
      currency: situation.currency,
      digits,
      lines,
      delivery,
      goods: goodsTotal,
      taxes: whole.totals,
      total: totalOf([goodsTotal, delivery]),
      untaxed: situation.terms.untaxed,
      weight: weights.every((weight) => weight !== null) ? sum(weights as Decimal[]) : null,
      problems: findProblems(prepared, situation, {
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
    const missing = extras.find((id) => store.extra.get(id)?.status !== 'active')
    if (missing !== undefined) return { code: 'unknown-extra', extra: missing }
  }
  return null
}

function priceLine(
  prepared: PreparedStore,
  situation: Situation,
  line: NumberedLine,
  quantities: Quantities,
  digits: number,
) {
  const { wanted, number, facts } = line
  const found = findPrice(prepared, situation, number, quantities)
  const item = toPrice(found.units, situation.digits)
  const extras = extrasOf(prepared, situation, line, quantities)
  const unit = item && extras && add(item, extras)
  const compiledLine = found.entry && found.line >= 0 ? found.entry.compiled.line(found.line) : null
  const bracketed =
    unit && compiledLine?.isGraduated
      ? bracketsTotal(explainFound(prepared, situation, number, quantities, found), wanted.quantity)
      : null
  const whole = bracketed
    ? add(bracketed, multiply(extras as Decimal, wanted.quantity))
    : unit && multiply(unit, wanted.quantity)
  return {
    wanted,
    access: findRights(prepared, situation, number, facts),
    limits: findLimits(prepared, situation, number, facts),
    unit,
    total: whole && roundToDigits(toFraction(whole), digits, 'half-up'),
    basis: taxBasisOf(prepared, found.entry),
    taxClass: taxClassOf(prepared, number),
    list: found.entry?.compiled.list.id ?? null,
    contract: found.entry?.contract?.id ?? null,
  }
}

/** What the extras of a line add to each unit; `null` where one is not for the item or has no price. */
function extrasOf(
  prepared: PreparedStore,
  situation: Situation,
  { wanted, facts }: NumberedLine,
  quantities: Quantities,
): Decimal | null {
  const amounts: Decimal[] = []
  for (const id of wanted.extras) {
    const extra = prepared.store.extra.get(id)
    if (!extra || !matchWhat(extra.scope, facts).matches) return null
    const at = prepared.index.numberOf.get(id) as number
    const amount = toPrice(findPrice(prepared, situation, at, quantities).units, situation.digits)
    if (amount === null) return null
    amounts.push(amount)
  }
  return sum(amounts)
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
  situation: Situation,
  goods: readonly { readonly taxClass: string | null; readonly net: Decimal }[],
  digits: number,
): readonly TaxableAmount[] {
  const { deliveryPrice, deliveryFreeFrom, deliveryTaxClass } = getSettings(prepared.store)
  if (deliveryPrice === null || goods.length === 0) return []
  const free = deliveryFreeFrom === null ? null : fromHome(prepared, situation.lens, deliveryFreeFrom, digits)
  const price = fromHome(prepared, situation.lens, deliveryPrice, digits)
  if (price === null || (free !== null && compare(sum(goods.map(({ net }) => net)), free) >= 0)) return []
  const part = (amount: Decimal, taxClass: string | null): TaxableAmount => ({
    amount,
    basis: 'net' as TaxBasis,
    levies: situation.terms.untaxed ? [] : leviesOf(prepared, situation, taxClass, true).levies,
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
