import type { Cart, CartLine } from '../cart/cart'
import { cartQuantities, numberLines } from '../cart/cart-quantities'
import { unitPriceOf } from '../catalogue/content'
import { itemName, type ReferenceField } from '../catalogue/product'
import { add, type Decimal } from '../decimal/decimal'
import { amountAt, shownAmounts } from '../engine/amounts/amounts'
import { shownInBasis, storeBasis } from '../engine/amounts/basis'
import type { PreparedStore } from '../engine/context/prepared-store'
import type { PricingContext } from '../engine/context/pricing-context'
import { explainFound } from '../engine/explain/explain-found'
import type { TraceStep } from '../engine/explain/trace'
import { findPrice } from '../engine/price/find-price'
import { contentOf, displayOf } from '../engine/rules/find-tax'
import type { OrderDocument, OrderLine } from './order'

/** What an order says that is not in the cart. */
export type OrderHead = Pick<
  OrderDocument,
  'buyer' | 'email' | 'address' | 'payment' | 'reference' | 'placedBy' | 'changeSet'
> & { readonly quote?: number; readonly slipNote?: string }

/** A cart that may be ordered, as the order it becomes: what everything is called and costs now, and why. */
export function makeOrder(
  prepared: PreparedStore,
  pricingContext: PricingContext,
  cart: Cart,
  head: OrderHead,
): OrderDocument {
  const { store } = prepared
  const traceOf = tracesOf(prepared, pricingContext, cart)
  return {
    version: 2,
    quote: null,
    slipNote: '',
    ...head,
    taxNumber: pricingContext.terms.account?.taxNumber ?? '',
    currency: cart.currency,
    digits: cart.digits,
    display: displayOf(prepared, pricingContext, 'cart'),
    lines: cart.lines.flatMap((line) => {
      const made = toLine(prepared, pricingContext, cart, line)
      return made ? [{ ...made, trace: traceOf(line) }] : []
    }),
    goods: cart.goods,
    delivery: cart.delivery,
    paymentCharge: cart.payment,
    promotions: cart.promotions.applied.map(({ promotion, saving, uses }) => ({
      id: promotion,
      name: store.promotion.get(promotion)?.name ?? promotion,
      saving,
      uses,
    })),
    taxes: cart.taxes.map(({ levy, on, amount }) => ({
      name: levy.tax.name,
      percent: levy.percent,
      on,
      amount,
    })),
    total: cart.total,
    untaxed: cart.untaxed,
  }
}

/** `null` for a line without a price: a cart with one cannot be ordered. */
function toLine(
  prepared: PreparedStore,
  pricingContext: PricingContext,
  { digits }: Cart,
  line: CartLine,
): Omit<OrderLine, 'trace'> | null {
  const { store, index } = prepared
  const variant = store.variant.get(line.variant)
  const product = store.product.get(variant?.product ?? '')
  if (!variant || !product || !line.amount || !line.unitAmount) return null
  const number = index.numberOf.get(variant.id) as number
  const shows = displayOf(prepared, pricingContext, 'cart') === 'gross' ? 'gross' : 'net'
  const items = [number, ...line.extras.map((id) => index.numberOf.get(id) as number)]
  return {
    variant: variant.id,
    sku: variant.sku,
    name: itemName(product, variant),
    quantity: line.quantity,
    extras: line.extras.map((id) => ({ id, name: store.extra.get(id)?.name ?? id })),
    unit: { net: line.unitAmount.net, gross: line.unitAmount.gross },
    perUnit: unitPriceOf(line.unitAmount[shows], contentOf(prepared, number), digits),
    ...line.amount,
    taxes: line.taxes.map(({ levy, amount }) => ({ name: levy.tax.name, percent: levy.percent, amount })),
    before: {
      net: line.beforeAmount?.net ?? line.amount.net,
      gross: line.beforeAmount?.gross ?? line.amount.gross,
    },
    promotions: line.discounts.map(({ promotion }) => store.promotion.get(promotion)?.name ?? promotion),
    isGift: line.gift !== null,
    base: referenceNet(prepared, pricingContext, items, 'basePrice'),
    cost: referenceNet(prepared, pricingContext, items, 'cost'),
    list: line.list,
    contract: line.contract,
  }
}

/** An amount of an item and what is added to it, without tax, in the buyer's currency; `null` where one of them has none. */
export function referenceNet(
  prepared: PreparedStore,
  { currencyView }: PricingContext,
  items: readonly number[],
  field: ReferenceField,
): Decimal | null {
  const amounts = shownAmounts(prepared, field, currencyView)
  return items
    .map((number) =>
      shownInBasis(
        prepared,
        currencyView,
        number,
        { units: amountAt(amounts, number), basis: storeBasis(prepared) },
        'net',
      ),
    )
    .reduce((sum, each) => (sum === null || each === null ? null : add(sum, each)))
}

/** How the price of each line came about, with what is bought together counted as in the cart. */
function tracesOf(
  prepared: PreparedStore,
  pricingContext: PricingContext,
  cart: Cart,
): (line: CartLine) => readonly TraceStep[] {
  const numbered = numberLines(
    prepared,
    cart.lines.filter(({ gift }) => gift === null),
  )
  const quantitiesOf = cartQuantities(numbered)
  const byLine = new Map(numbered.map((line) => [line.wanted, line]))
  return (line) => {
    const known = byLine.get(line)
    if (!known) return []
    const quantities = quantitiesOf(known)
    const found = findPrice(prepared, pricingContext, known.number, quantities)
    const steps = explainFound(prepared, pricingContext, known.number, quantities, found)
    const { settled } = known.wanted
    if (!settled) return steps
    const { by, amount, basis } = settled
    return [...steps, { kind: 'settled', by, amount, currency: cart.currency, basis }]
  }
}
