import 'server-only'

import type { Cart, CartLine } from '@/core/cart/cart'
import { findBySku } from '@/core/catalogue/find-by-code'
import { itemName } from '@/core/catalogue/product'
import { compare, type Decimal, multiply, negate, subtract, sum, ZERO } from '@/core/decimal/decimal'
import type { PreparedStore } from '@/core/engine/context/prepared-store'
import type { TraceStep } from '@/core/engine/explain/trace'
import { makeOrder } from '@/core/order/make-order'
import type { OrderDocument } from '@/core/order/order'
import { marginPercent } from '@/core/price/margin'
import type { PriceExpressionError } from '@/core/price/price-expression'
import { getSettings, type Store } from '@/core/store/store'
import type { DeskContent } from '@/server/desk/desk-shape'
import { problemViews } from '@/ui/cart/cart-problems'
import { promotionsView } from '@/ui/cart/cart-promotions'
import { savedAsShown } from '@/core/cart/promote/saved-as-shown'
import { formatMoney } from '@/ui/format/amount'
import { promotionPhrase } from '@/ui/format/promotion-phrases'
import { methodPhrase } from '@/ui/format/rule-phrases'
import { limitPhrase } from '@/ui/format/terms-phrases'
import { recordHref } from '@/ui/frame/record-href'
import type { DeskFigures, DeskLineFigures, DeskOffer } from './desk-view'
import type { DeskLineFault, PricedDesk } from './price-desk'

const FAULTS: Readonly<Record<DeskLineFault, string>> = {
  'unknown-sku': 'No item has this SKU.',
  'no-quantity': 'Enter a quantity above zero.',
  'unknown-extra': 'What goes with it is not sold any more.',
  'no-reason': 'Say why the price is set by hand.',
  'needs-approval': 'This leaves less margin than staff may give. Make it a quote to have it approved.',
  ...({
    'not-understood': 'Type a price such as 21.45, -6%, -1 or m35.',
    comma: 'Type the price with a point, such as 21.45.',
    'too-many-digits': 'That is more decimals than a price may have.',
    'not-positive': 'A price must be above zero.',
    'no-current-price': 'They have no price for this: type an amount.',
    'no-cost': 'Its cost is not known, so a margin says nothing.',
    'margin-too-high': 'A margin is below 100 %.',
  } satisfies Readonly<Record<PriceExpressionError, string>>),
}

/** Which field a fault is about, where that is not the price. */
const WRONG: { readonly [Fault in DeskLineFault]?: 'quantity' | 'reason' } = {
  ...{ 'unknown-sku': 'quantity', 'no-quantity': 'quantity', 'unknown-extra': 'quantity' },
  'no-reason': 'reason',
}

/** What a desk order comes to, as it is shown. */
export function deskFigures(prepared: PreparedStore, content: DeskContent, priced: PricedDesk): DeskFigures {
  const { context, cart, question } = priced
  const { basis, pricingContext } = context
  const { store } = prepared
  const document = makeOrder(prepared, pricingContext, cart, {
    ...{ buyer: '', email: '', payment: '', reference: '', placedBy: null, changeSet: null },
    address: context.address,
  })
  const problems = problemViews(prepared, cart)
  const costs = document.lines.map(({ cost, quantity }) => cost && multiply(cost, quantity))
  const cost = costs.some((each) => each === null) ? null : sum(costs as Decimal[])
  const own = cart.lines.filter(({ gift }) => gift === null)
  return {
    ...{ currency: cart.currency, digits: cart.digits, priceDigits: pricingContext.digits, basis },
    lines: priced.lines.map((line, at): DeskLineFigures => {
      const sku = content.lines[at]?.sku ?? ''
      if (!line.ok)
        return {
          ...unpricedLine(store, sku),
          problem: FAULTS[line.fault],
          wrong: WRONG[line.fault] ?? 'price',
        }
      const made = cart.lines[line.position] as CartLine
      const mine = problems.find((problem) => problem.line === line.position)
      return {
        ...figuresOf(prepared, made, ordered(document, cart, line.position), basis),
        problem: mine?.text ?? '',
        wrong: mine ? 'quantity' : null,
        fix: mine?.fixes[0]?.quantity ?? null,
      }
    }),
    gifts: cart.lines.flatMap(({ gift, variant, quantity }) => {
      if (gift === null) return []
      return [
        {
          ...{ name: nameOf(prepared, variant), sku: store.variant.get(variant)?.sku ?? '', quantity },
          promotion: store.promotion.get(gift)?.name ?? '',
        },
      ]
    }),
    offers: offersOf(prepared, priced),
    sums: sumsOf(prepared, document, basis, content.delivery),
    total: own.length === 0 ? null : cart.total.gross,
    seen: `${cart.currency} ${cart.total.gross}`,
    units: sum(own.map(({ quantity }) => quantity)),
    weight: cart.weight,
    margin: cost === null || cart.goods.net === ZERO ? null : marginPercent(cart.goods.net, cost),
    problems: problems.filter(({ line }) => line === null).map(({ text }) => text),
    limits: limitsOf(prepared, cart),
  }

  function offersOf(of: PreparedStore, { cart: looked }: PricedDesk): readonly DeskOffer[] {
    const shown = promotionsView(of, looked, question, basis)
    const toOffer = (code: string, saves: Decimal, choice: DeskOffer['choice']): readonly DeskOffer[] => {
      const promotion = [...store.promotion.values()].find((each) => each.code === code)
      if (!promotion) return []
      const { name, value } = promotion
      return [
        {
          ...{ code, name, saves, choice, about: promotionPhrase(store, value) },
          href: recordHref('promotions', code),
        },
      ]
    }
    const always = looked.promotions.applied.flatMap(({ promotion: id, saving }) => {
      const promotion = store.promotion.get(id)
      if (!promotion || promotion.isOffer) return []
      const saved = savedAsShown(looked, id, basis)
      return toOffer(promotion.code, saved === ZERO ? saving : saved, 'always')
    })
    return [...shown.offers.flatMap(({ code, saves, choice }) => toOffer(code, saves, choice)), ...always]
  }
}

/** A line that cannot be priced as it stands still says what it is, where that is known. */
function unpricedLine(store: Store, sku: string): DeskLineFigures {
  const variant = findBySku(store.variant, sku.trim())
  const product = variant && store.product.get(variant.product)
  return {
    name: variant && product ? itemName(product, variant) : sku,
    productHref: product ? recordHref('products', product.code) : null,
    ...{ unit: null, how: '', tax: '', total: null, less: [] },
    ...{ margin: null, stock: null, problem: '', wrong: null, fix: null },
  }
}

/** The line of an order that a line of the cart became; a line without a price is in none. */
function ordered({ lines }: OrderDocument, cart: Cart, position: number) {
  const before = cart.lines.slice(0, position).filter(({ amount, unitAmount }) => amount && unitAmount).length
  const made = cart.lines[position]
  return made?.amount && made.unitAmount ? (lines[before] ?? null) : null
}

function figuresOf(
  prepared: PreparedStore,
  line: CartLine,
  made: OrderDocument['lines'][number] | null,
  basis: 'net' | 'gross',
): Omit<DeskLineFigures, 'problem' | 'wrong' | 'fix'> {
  const { store } = prepared
  const product = store.product.get(store.variant.get(line.variant)?.product ?? '')
  const all = sum(line.discounts.map(({ saving }) => saving))
  const taken =
    line.beforeAmount && line.amount ? subtract(line.beforeAmount[basis], line.amount[basis]) : ZERO
  return {
    name: [
      nameOf(prepared, line.variant),
      ...line.extras.map((id) => `with ${store.extra.get(id)?.name ?? id}`),
    ].join(', '),
    productHref: product ? recordHref('products', product.code) : null,
    unit: line.unitAmount?.[basis] ?? null,
    how: howWords(prepared, made?.trace ?? [], line),
    tax: line.taxes.length === 0 ? '0 %' : line.taxes.map(({ levy }) => `${levy.percent} %`).join(' + '),
    total: line.beforeAmount?.[basis] ?? null,
    less: line.discounts.map(({ promotion, saving }) => ({
      name: store.promotion.get(promotion)?.name ?? promotion,
      // Of one promotion all that was taken off is its own; of several each has its share.
      amount: negate(line.discounts.length === 1 && all !== ZERO ? taken : saving),
    })),
    margin: made?.cost ? marginPercent(made.net, multiply(made.cost, made.quantity)) : null,
    stock: line.stock,
  }
}

function nameOf({ store }: PreparedStore, variant: string): string {
  const found = store.variant.get(variant)
  const product = store.product.get(found?.product ?? '')
  return found && product ? itemName(product, found) : variant
}

/** What made the price, in a few words: the rule of the line that decided it. */
function howWords({ store }: PreparedStore, trace: readonly TraceStep[], { access, unit }: CartLine): string {
  if (unit === null) return access.quote ? 'by quote' : 'no price'
  if (trace.at(-1)?.kind === 'settled') return 'set by hand'
  const line = trace.findLast((step) => step.kind === 'line')
  if (line?.kind !== 'line') return 'base price'
  const money = (amount: Decimal) => formatMoney(amount, line.currency, 2)
  const words = methodPhrase(line.method, money, (id) => store['price-list'].get(id)?.name ?? id)
  return line.reached && compare(line.reached.from, ZERO) > 0 && line.reached.from !== '1'
    ? `${words}, from ${line.reached.from}`
    : words
}

function sumsOf(
  { store }: PreparedStore,
  document: OrderDocument,
  basis: 'net' | 'gross',
  delivery: DeskContent['delivery'],
): DeskFigures['sums'] {
  const { currency, digits, goods, taxes, paymentCharge } = document
  const before = sum(document.lines.map((line) => line.before[basis]))
  const saved = subtract(goods[basis], before)
  const taxRows = taxes.map(({ name, percent, on, amount }) => ({
    label: `${basis === 'gross' ? 'includes ' : ''}${name} ${percent} % on ${formatMoney(on, currency, digits)}`,
    ...{ amount, look: 'soft' as const },
  }))
  return [
    { label: 'Lines', amount: before },
    ...(saved === ZERO ? [] : [{ label: 'Promotions', amount: saved }]),
    { label: 'Goods', amount: goods[basis], look: 'bold' },
    {
      label: delivery === 'collect' ? 'Delivery, taken with them' : 'Delivery',
      amount: document.delivery[basis],
    },
    ...(paymentCharge.gross === ZERO
      ? []
      : [{ label: 'For the way of paying', amount: paymentCharge[basis] }]),
    ...(getSettings(store).taxTotals === 'one'
      ? [{ label: 'Tax', amount: document.total.tax, look: 'soft' as const }]
      : taxRows),
  ]
}

/** The rules that limit what is in the order, and whether one of them is in its way. */
function limitsOf({ store }: PreparedStore, cart: Cart): DeskFigures['limits'] {
  const broken = new Set(
    cart.problems.flatMap((problem) =>
      problem.kind === 'together'
        ? [problem.rule.id]
        : problem.kind === 'quantity' && problem.source?.kind === 'rule'
          ? [problem.source.rule]
          : [],
    ),
  )
  const ids = new Set(
    cart.lines.flatMap(({ limits }) => [
      ...limits.together.map(({ id }) => id),
      ...Object.values(limits.setBy).flatMap((source) => (source?.kind === 'rule' ? [source.rule] : [])),
    ]),
  )
  return [...ids].flatMap((id) => {
    const rule = store.limit.get(id)
    if (!rule) return []
    return [
      {
        ...{ name: rule.name, href: recordHref('limits', rule.code), about: limitPhrase(rule) },
        isBroken: broken.has(id),
      },
    ]
  })
}
