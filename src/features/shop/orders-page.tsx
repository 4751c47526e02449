import { formatMoney } from '@/ui/format/amount'
import type { Order, OrderDocument } from '@/server/shop/order-store'

interface OrdersPageProps {
  readonly orders: readonly Order[]
  /** Number of the order that was just placed; `null` otherwise. */
  readonly placed: number | null
}

/** What was bought, at the figures of its moment. */
export function OrdersPage({ orders, placed }: OrdersPageProps) {
  return (
    <>
      <h1 className="pb-4 text-3xl leading-9 font-bold tracking-tight">
        {placed === null ? 'Orders' : `Thank you: order ${placed} is placed`}
      </h1>
      {orders.length === 0 && <p>Nothing has been ordered from here yet.</p>}
      {orders.map(({ number, at, document }) => (
        <details key={number} open={number === placed} className="border-b border-base-300 py-3">
          <summary className="flex cursor-pointer flex-wrap justify-between gap-4 text-base">
            <span className="font-semibold">
              {number}, {at.toISOString().slice(0, 10)}
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
  const { digits, currency, address } = document
  const sums = [
    ['Goods without tax', document.goods.net],
    ['Delivery without tax', document.delivery.net],
    ...document.taxes.map(
      ({ name, percent, on, amount }) =>
        [`${name} ${percent} % on ${formatMoney(on, currency, digits)}`, amount] as const,
    ),
    ['Total', document.total.gross],
  ] as const
  return (
    <div className="grid gap-x-12 gap-y-4 pt-3 lg:grid-cols-[1fr_20rem]">
      <table className="w-full">
        <tbody>
          {document.lines.map((line, at) => (
            <tr key={at} className="border-t border-base-300 align-baseline">
              <td className="py-1">
                {line.name} <span className="text-xs text-soft">{line.sku}</span>
                {line.extras.length > 0 && <span className="block">with {line.extras.join(', ')}</span>}
              </td>
              <td className="py-1 text-right text-soft tabular-nums">
                {line.quantity} × {formatMoney(line.unit.net, currency, digits)}
              </td>
              <td className="w-32 py-1 text-right tabular-nums">{formatMoney(line.net, currency, digits)}</td>
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
          To{' '}
          {[address.name, address.street, address.postcode, address.city, address.country]
            .filter(Boolean)
            .join(', ')}
          . Paid {document.payment === 'card' ? 'by card' : `on account, ${document.payment}`}.
        </p>
      </div>
    </div>
  )
}
