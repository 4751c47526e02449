import { compare, ZERO } from '@/core/decimal/decimal'
import { formatAmount, formatMoney } from '@/ui/format/amount'
import { paymentWords } from '@/ui/format/order-phrases'
import { countryName } from '@/ui/format/place-names'
import Link from 'next/link'
import { orderAgain } from '../cart/cart-actions'
import type { ShopOrder, ShopOrderLine } from './shop-order-view'

interface OrderPageProps {
  readonly order: ShopOrder
  /** Whether it was placed a moment ago. */
  readonly isNew: boolean
}

/** One order as it was bought, and what became of it. */
export function OrderPage({ order, isNew }: OrderPageProps) {
  const { number, when, state, address, payment, reference, placedBy, events } = order
  return (
    <>
      <p className="pb-1">
        <Link href="/shop/orders" className="underline underline-offset-2">
          All orders
        </Link>
      </p>
      <h1 className="text-3xl leading-9 font-bold tracking-tight">
        {isNew ? `Thank you. Your order number is ${number}` : `Order ${number}`}
      </h1>
      <p className="pb-4 text-base text-soft">
        {when} · {state}
        {reference !== '' && ` · your reference ${reference}`}
        {placedBy !== null && ` · placed for you by ${placedBy}`}
      </p>
      <div className="grid items-start gap-x-12 gap-y-4 lg:grid-cols-[1fr_20rem]">
        <Lines order={order} />
        <div>
          <Sums order={order} />
          <p className="pt-3 text-soft">
            Delivered to{' '}
            {[address.name, address.street, address.postcode, address.city, countryName(address.country)]
              .filter(Boolean)
              .join(', ')}
            . Paid {paymentWords(payment)}.
          </p>
          <p className="flex flex-wrap gap-x-5 pt-3">
            {order.papers.map(([name, query]) => (
              <a
                key={query}
                href={`/shop/orders/${number}/paper?${query}`}
                target="_blank"
                className="underline underline-offset-2"
              >
                {name} (PDF)
              </a>
            ))}
          </p>
          <form action={orderAgain} className="pt-3">
            <input type="hidden" name="number" value={number} />
            <button type="submit" className="btn btn-outline btn-sm">
              Order the same again
            </button>
          </form>
          {events.length > 0 && (
            <ol className="pt-3" aria-label="What became of it">
              {events.map(({ when: day, what }, at) => (
                <li key={at} className="grid grid-cols-[8rem_1fr] gap-2 border-t border-base-300 py-1">
                  <span className="text-soft">{day}</span>
                  <span>{what}</span>
                </li>
              ))}
            </ol>
          )}
        </div>
      </div>
    </>
  )
}

function Lines({ order }: { readonly order: ShopOrder }) {
  const { currency, display, digits, lines } = order
  const shows = display === 'gross' ? 'gross' : 'net'
  return (
    <table className="w-full">
      <caption className="pb-1 text-left text-soft">
        Prices in {currency}, {shows === 'gross' ? 'with tax' : 'without tax'}
      </caption>
      <tbody>
        {lines.map((line, at) => (
          <tr key={at} className="border-t border-base-300 align-baseline">
            <td className="py-1">
              {line.product === null ? (
                line.name
              ) : (
                <Link
                  href={`/shop/product/${encodeURIComponent(line.product)}?sku=${encodeURIComponent(line.sku)}`}
                  className="hover:underline"
                >
                  {line.name}
                </Link>
              )}{' '}
              <span className="text-xs text-soft" data-testid="order-sku">
                {line.sku}
              </span>
              {line.extras.length > 0 && <span className="block">with {line.extras.join(', ')}</span>}
              {line.promotions.length > 0 && (
                <span className="block text-xs font-semibold text-primary">{line.promotions.join(', ')}</span>
              )}
              {line.perUnit && (
                <span className="block text-xs text-soft">
                  {formatAmount(line.perUnit.amount, digits)} per {line.perUnit.per}
                </span>
              )}
              <Became line={line} />
            </td>
            <td className="py-1 text-right text-soft tabular-nums">
              {line.quantity} × {formatAmount(line.unit[shows], digits)}
            </td>
            <td className="w-28 py-1 text-right tabular-nums">
              {line.before[shows] !== line[shows] && (
                <s className="block text-xs text-soft">{formatAmount(line.before[shows], digits)}</s>
              )}
              {line.isGift ? 'free' : formatAmount(line[shows], digits)}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  )
}

/** What became of a line, where that is not told by the state of the whole order. */
function Became({ line }: { readonly line: ShopOrderLine }) {
  const { sent, returned, cancelled, quantity } = line
  const parts = [
    compare(sent, ZERO) > 0 && compare(sent, quantity) < 0 ? `${sent} sent` : '',
    cancelled === ZERO ? '' : `${cancelled} cancelled`,
    returned === ZERO ? '' : `${returned} taken back`,
  ].filter(Boolean)
  return parts.length === 0 ? null : <span className="block text-xs text-soft">{parts.join(', ')}</span>
}

function Sums({ order }: { readonly order: ShopOrder }) {
  const { digits, currency, display } = order
  const shows = display === 'gross' ? 'gross' : 'net'
  const taxes = order.taxes.map(
    ({ name, percent, on, amount }) =>
      [
        `${shows === 'gross' ? 'includes ' : ''}${name} ${percent} % on ${formatAmount(on, digits)}`,
        amount,
      ] as const,
  )
  const sums = [
    [shows === 'net' ? 'Subtotal, without tax' : 'Subtotal', order.goods[shows]] as const,
    ['Delivery', order.delivery[shows]] as const,
    ...(order.paymentCharge.gross === ZERO
      ? []
      : [['For the way of paying', order.paymentCharge[shows]] as const]),
    ...(shows === 'net' ? taxes : []),
    ['Total', order.total.gross] as const,
    ...(shows === 'gross' ? taxes : []),
    ...(order.credited === ZERO
      ? []
      : [['Credited', order.credited] as const, [order.isPaid ? 'Paid' : 'To pay', order.due] as const]),
  ]
  return (
    <dl className="grid grid-cols-[1fr_auto]">
      {sums.map(([label, amount]) => (
        <div
          key={label}
          className={`contents ${label === 'Total' || label === 'To pay' || label === 'Paid' ? 'font-semibold' : ''}`}
        >
          <dt className="border-t border-base-300 py-1">{label}</dt>
          <dd className="border-t border-base-300 py-1 text-right tabular-nums">
            {formatMoney(amount, currency, digits)}
          </dd>
        </div>
      ))}
    </dl>
  )
}
