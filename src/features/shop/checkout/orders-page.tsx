import type { Order, OrderDocument } from '@/server/shop/order-store'
import { ZERO } from '@/core/decimal/decimal'
import { formatAmount, formatMoney } from '@/ui/format/amount'

interface OrdersPageProps {
  readonly orders: readonly Order[]
  /** Number of the order that was just placed; `null` otherwise. */
  readonly placed: number | null
}

const DAY = new Intl.DateTimeFormat('en-IE', { dateStyle: 'long', timeZone: 'UTC' })

/** What was bought, at the figures of its moment. */
export function OrdersPage({ orders, placed }: OrdersPageProps) {
  return (
    <>
      <h1 className="pb-4 text-3xl leading-9 font-bold tracking-tight">
        {placed === null ? 'Orders' : `Thank you. Your order number is ${placed}`}
      </h1>
      {orders.length === 0 && <p className="text-base">You have not ordered anything yet.</p>}
      {orders.map(({ number, at, document }) => (
        <details key={number} open={number === placed} className="border-b border-base-300 py-3">
          <summary className="flex cursor-pointer flex-wrap justify-between gap-4 text-base">
            <span className="font-semibold">
              {number}, {DAY.format(at)}
            </span>
            <span>{document.address.name}</span>
            <span className="font-semibold tabular-nums">
              {formatMoney(document.total.gross, document.currency, document.digits)}
            </span>
          </summary>
          <OrderLines document={document} />
        </details>
      ))}
    </>
  )
}

function OrderLines({ document }: { readonly document: OrderDocument }) {
  const { digits, currency, address, display } = document
  const shows = display === 'gross' ? 'gross' : 'net'
  const taxes = document.taxes.map(
    ({ name, percent, on, amount }) =>
      [
        `${shows === 'gross' ? 'includes ' : ''}${name} ${percent} % on ${formatAmount(on, digits)}`,
        amount,
      ] as const,
  )
  const sums = [
    [shows === 'net' ? 'Subtotal, without tax' : 'Subtotal', document.goods[shows]] as const,
    ['Delivery', document.delivery[shows]] as const,
    ...(document.paymentCharge.gross === ZERO
      ? []
      : [['For the way of paying', document.paymentCharge[shows]] as const]),
    ...(shows === 'net' ? taxes : []),
    ['Total', document.total.gross] as const,
    ...(shows === 'gross' ? taxes : []),
  ]
  return (
    <div className="grid gap-x-12 gap-y-4 pt-3 lg:grid-cols-[1fr_20rem]">
      <table className="w-full">
        <caption className="pb-1 text-left text-soft">
          Prices in {currency}, {shows === 'gross' ? 'with tax' : 'without tax'}
        </caption>
        <tbody>
          {document.lines.map((line, at) => (
            <tr key={at} className="border-t border-base-300 align-baseline">
              <td className="py-1">
                {line.name} <span className="text-xs text-soft">{line.sku}</span>
                {line.extras.length > 0 && <span className="block">with {line.extras.join(', ')}</span>}
                {line.promotions.length > 0 && (
                  <span className="block text-xs font-semibold text-primary">
                    {line.promotions.join(', ')}
                  </span>
                )}
                {line.perUnit && (
                  <span className="block text-xs text-soft">
                    {formatAmount(line.perUnit.amount, digits)} per {line.perUnit.per}
                  </span>
                )}
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
      <div>
        <dl className="grid grid-cols-[1fr_auto]">
          {sums.map(([label, amount]) => (
            <div key={label} className={`contents ${label === 'Total' ? 'font-semibold' : ''}`}>
              <dt className="border-t border-base-300 py-1">{label}</dt>
              <dd className="border-t border-base-300 py-1 text-right tabular-nums">
                {formatMoney(amount, currency, digits)}
              </dd>
            </div>
          ))}
        </dl>
        <p className="pt-3 text-soft">
          Delivered to{' '}
          {[address.name, address.street, address.postcode, address.city, address.country]
            .filter(Boolean)
            .join(', ')}
          . Paid {document.payment === 'card' ? 'by card' : `on account, ${document.payment}`}.
        </p>
      </div>
    </div>
  )
}
