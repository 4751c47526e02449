import Link from 'next/link'
import type { ShopOrders } from './load-orders'

/** What a visitor has ordered, at the figures of its moment. */
export function OrdersPage({ orders, older }: ShopOrders) {
  return (
    <>
      <h1 className="pb-4 text-3xl leading-9 font-bold tracking-tight">Orders</h1>
      {orders.length === 0 && <p className="text-base">You have not ordered anything yet.</p>}
      <ul>
        {orders.map(({ number, when, state, lines, due }) => (
          <li key={number} className="border-b border-base-300">
            <Link
              href={`/shop/orders/${number}`}
              className="grid grid-cols-[1fr_auto] gap-x-4 py-3 text-base hover:bg-base-200 sm:grid-cols-[8rem_1fr_8rem_8rem]"
            >
              <span className="font-semibold">{number}</span>
              <span className="max-sm:order-last max-sm:text-soft">
                {when}, {lines} {lines === 1 ? 'line' : 'lines'}
              </span>
              <span className="max-sm:order-last max-sm:text-right max-sm:text-soft">{state}</span>
              <span className="text-right font-semibold tabular-nums">{due}</span>
            </Link>
          </li>
        ))}
      </ul>
      {older !== null && (
        <Link
          href={`/shop/orders?before=${older}`}
          className="mt-4 inline-block underline underline-offset-2"
        >
          Older orders
        </Link>
      )}
    </>
  )
}
