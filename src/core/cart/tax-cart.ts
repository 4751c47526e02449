import { findAvailable, type StockLevels } from '../catalogue/stock'
import { type Decimal, sum, ZERO } from '../decimal/decimal'
import { fromHome } from '../engine/context/currency-view'
import type { PreparedStore } from '../engine/context/prepared-store'
import type { PricingContext } from '../engine/context/pricing-context'
import { leviesOf, toTaxable } from '../engine/rules/find-tax'
import type { Money, Payment } from '../promotions/promotion'
import { getSettings } from '../store/store'
import { splitTax } from '../tax/split-tax'
import type { Cart, CartLine, TaxedAmount, TaxTotal } from './cart'
import { netsOf, taxDocument } from './cart-tax'
import { type ChargedGoods, deliveryPrice, taxableCharge, taxableDelivery } from './charge-delivery'
import type { PricedLine } from './price-lines'
import { promoteDelivery, promotePayment } from './promote/charges'
import type { Promoted } from './promote/promote'

/** The third stage: one document of goods, delivery and payment, with its taxes. */
export interface TaxedCart {
  readonly lines: readonly CartLine[]
  readonly goods: TaxedAmount
  readonly delivery: TaxedAmount
  readonly payment: TaxedAmount
  readonly taxes: readonly TaxTotal[]
  readonly total: TaxedAmount
  readonly promotions: Cart['promotions']
}

export function taxCart(
  prepared: PreparedStore,
  pricingContext: PricingContext,
  promoted: Promoted,
  known: { readonly payment: Payment | null; readonly stock: StockLevels; readonly isCollected: boolean },
  digits: number,
): TaxedCart {
  const sold = promoted.lines.filter((line) => line.total !== null)
  const taxables = sold.map(({ total, priced }) =>
    toTaxable(
      prepared,
      pricingContext,
      { amount: total as Decimal, basis: priced.basis },
      priced.taxClass,
      digits,
    ),
  )
  const { taxRounding } = getSettings(prepared.store)
  // Delivery and payment depend on the net of the goods, and are taxed with them.
  const nets = netsOf(taxables, taxRounding, digits)
  const goods = sold.map(({ priced }, at) => ({ taxClass: priced.taxClass, net: nets[at] as Decimal }))
  const charges = chargesOf(prepared, pricingContext, promoted, known, goods, digits)
  const deliveries = charges.delivery
    ? taxableDelivery(prepared, pricingContext, charges.delivery, goods, digits)
    : []
  const payments =
    charges.payment === ZERO ? [] : taxableCharge(prepared, pricingContext, charges.payment, goods, digits)
  const whole = taxDocument([...taxables, ...deliveries, ...payments], taxRounding, digits)
  const amounts = whole.lines.map(({ amount }) => amount)
  // Lines with a price stand in the document in their own order.
  let next = 0
  const lines = promoted.lines.map(({ priced: line, total, discounts, gift }): CartLine => {
    const taxed = total === null ? null : (whole.lines[next++] ?? null)
    return {
      variant: line.wanted.variant,
      quantity: line.wanted.quantity,
      extras: line.wanted.extras,
      settled: line.wanted.settled,
      access: line.access,
      unit: line.unit,
      unitAmount: taxedAlone(prepared, pricingContext, line, line.unit, pricingContext.digits),
      basis: line.basis,
      amount: taxed && taxed.amount,
      taxes: taxed ? taxed.taxes : [],
      misses: leviesOf(prepared, pricingContext, line.taxClass).misses,
      limits: line.limits,
      list: line.list,
      contract: line.contract,
      stock: findAvailable(known.stock, line.wanted.variant),
      before: line.total,
      beforeAmount: taxedAlone(prepared, pricingContext, line, line.total, digits),
      discounts,
      gift,
    }
  })
  const ofGoods = totalOf(amounts.slice(0, taxables.length))
  const delivery = totalOf(amounts.slice(taxables.length, taxables.length + deliveries.length))
  const ofPayment = totalOf(amounts.slice(taxables.length + deliveries.length))
  return {
    lines,
    goods: ofGoods,
    delivery,
    payment: ofPayment,
    taxes: whole.totals,
    total: totalOf([ofGoods, delivery, ofPayment]),
    promotions: {
      applied: [...promoted.applied, ...charges.applied],
      idle: [...promoted.idle, ...charges.idle],
    },
  }
}

/** What delivery and payment come to, after the promotions on them. */
function chargesOf(
  prepared: PreparedStore,
  { currencyView }: PricingContext,
  { onCharges }: Promoted,
  { payment, isCollected }: { readonly payment: Payment | null; readonly isCollected: boolean },
  goods: readonly ChargedGoods[],
  digits: number,
) {
  const money = ({ amount, own }: Money) =>
    own[currencyView.currency] ?? fromHome(prepared, currencyView, amount, digits)
  const price = isCollected ? null : deliveryPrice(prepared, { currencyView }, goods, digits)
  const delivery = promoteDelivery(onCharges, price ?? ZERO, money, digits)
  const goodsNet = sum(goods.map(({ net }) => net))
  const paid = promotePayment(onCharges, payment, goodsNet, money, digits)
  return {
    delivery: price === null ? null : delivery.charge,
    payment: paid.charge,
    applied: [...delivery.applied, ...paid.applied],
    idle: [...delivery.idle, ...paid.idle],
  }
}

/** An amount of a line with each of its taxes by itself, whatever the document rounds together. */
function taxedAlone(
  prepared: PreparedStore,
  pricingContext: PricingContext,
  { basis, taxClass }: PricedLine,
  amount: Decimal | null,
  digits: number,
): TaxedAmount | null {
  if (amount === null) return null
  const taxable = toTaxable(prepared, pricingContext, { amount, basis }, taxClass, digits)
  const { net, taxes, gross } = splitTax(taxable.amount, taxable.basis, taxable.levies, digits)
  return { net, tax: sum(taxes.map((tax) => tax.amount)), gross }
}

function totalOf(amounts: readonly TaxedAmount[]): TaxedAmount {
  return {
    net: sum(amounts.map(({ net }) => net)),
    tax: sum(amounts.map(({ tax }) => tax)),
    gross: sum(amounts.map(({ gross }) => gross)),
  }
}
