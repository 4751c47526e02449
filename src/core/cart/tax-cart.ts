import { type Decimal, sum } from '../decimal/decimal'
import type { PreparedStore } from '../engine/context/prepared-store'
import type { PricingContext } from '../engine/context/pricing-context'
import { leviesOf, type TaxableAmount, toTaxable } from '../engine/rules/find-tax'
import { getSettings } from '../store/store'
import { splitTax } from '../tax/split-tax'
import type { CartLine, TaxedAmount, TaxTotal } from './cart'
import { netsOf, taxDocument } from './cart-tax'
import { chargeDelivery } from './charge-delivery'
import type { PricedLine } from './price-lines'

/** The third stage: one document of goods and delivery, with its taxes. */
export interface TaxedCart {
  readonly lines: readonly CartLine[]
  readonly goods: TaxedAmount
  readonly delivery: TaxedAmount
  readonly taxes: readonly TaxTotal[]
  readonly total: TaxedAmount
}

export function taxCart(
  prepared: PreparedStore,
  pricingContext: PricingContext,
  priced: readonly PricedLine[],
  digits: number,
): TaxedCart {
  const sold = priced.filter((line) => line.total !== null)
  const taxables = sold.map(({ total, basis, taxClass }) =>
    toTaxable(prepared, pricingContext, { amount: total as Decimal, basis }, taxClass, digits),
  )
  const { taxRounding } = getSettings(prepared.store)
  // Delivery depends on the net of the goods, and is taxed with them.
  const nets = netsOf(taxables, taxRounding, digits)
  const deliveries = chargeDelivery(
    prepared,
    pricingContext,
    sold.map(({ taxClass }, at) => ({ taxClass, net: nets[at] as Decimal })),
    digits,
  )
  const whole = taxDocument([...taxables, ...deliveries], taxRounding, digits)
  // Lines with a price stand in the document in their own order.
  let next = 0
  const lines = priced.map((line): CartLine => {
    const taxed = line.total === null ? null : (whole.lines[next++] ?? null)
    return {
      ...line.wanted,
      access: line.access,
      unit: line.unit,
      unitAmount: unitAmountOf(prepared, pricingContext, line),
      basis: line.basis,
      amount: taxed && taxed.amount,
      taxes: taxed ? taxed.taxes : [],
      misses: leviesOf(prepared, pricingContext, line.taxClass).misses,
      limits: line.limits,
      list: line.list,
      contract: line.contract,
      stock: prepared.store.variant.get(line.wanted.variant)?.stock ?? null,
    }
  })
  const goods = totalOf(lines.flatMap(({ amount }) => amount ?? []))
  const delivery = totalOf(whole.lines.slice(taxables.length).map(({ amount }) => amount))
  return { lines, goods, delivery, taxes: whole.totals, total: totalOf([goods, delivery]) }
}

function unitAmountOf(
  prepared: PreparedStore,
  pricingContext: PricingContext,
  { unit, basis, taxClass }: PricedLine,
): TaxedAmount | null {
  if (unit === null) return null
  const { digits } = pricingContext
  return taxedUnit(toTaxable(prepared, pricingContext, { amount: unit, basis }, taxClass, digits), digits)
}

/** A unit price in a document: each of its taxes by itself, whatever the document rounds together. */
function taxedUnit({ amount, basis, levies }: TaxableAmount, digits: number): TaxedAmount {
  const { net, taxes, gross } = splitTax(amount, basis, levies, digits)
  return { net, tax: sum(taxes.map((tax) => tax.amount)), gross }
}

function totalOf(amounts: readonly TaxedAmount[]): TaxedAmount {
  return {
    net: sum(amounts.map(({ net }) => net)),
    tax: sum(amounts.map(({ tax }) => tax)),
    gross: sum(amounts.map(({ gross }) => gross)),
  }
}
