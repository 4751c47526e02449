'use client'

import { useFrame } from '@/ui/frame/frame-context'
import { TypedWord } from '@/ui/frame/typed-word'
import { VantageLink } from '@/ui/frame/vantage-link'
import { useRouter } from 'next/navigation'
import type { OrderListView } from './load-order-list'
import { type OrderListShown, orderListHref, type OrdersShown } from './order-filter'

/** What buyers have ordered: first what is still to be done. */
export function OrderListPage({
  view,
  states,
}: {
  readonly view: OrderListView
  readonly states: readonly (readonly [value: OrdersShown, name: string])[]
}) {
  const { shown, rows, open, older, exact, ofWords } = view
  const { href } = useFrame()
  const router = useRouter()
  const show = (change: Partial<OrderListShown>) =>
    router.push(href(orderListHref({ ...shown, before: null, ...change })))
  return (
    <section className="min-h-0 flex-1 overflow-auto px-6 pt-3 pb-8" aria-label="Orders">
      <h1 className="inline text-xl leading-7 font-semibold">Orders</h1>
      <span className="pl-3 text-soft">Every figure as it was when the order was placed</span>
      <p className="flex flex-wrap items-baseline gap-x-1.5 gap-y-2 pt-2 text-base text-soft">
        Show
        <select
          aria-label="Which orders"
          className="[field-sizing:content] bg-transparent word text-base-content"
          value={shown.show}
          onChange={(event) => show({ show: event.target.value as OrdersShown })}
        >
          <option value="open">{`what is still to be sent (${open})`}</option>
          <option value="all">all orders</option>
          <optgroup label="By state">
            {states.map(([value, name]) => (
              <option key={value} value={value}>
                {name.toLowerCase()}
              </option>
            ))}
          </optgroup>
        </select>
        of
        <TypedWord
          key={`buyer ${shown.buyer}`}
          label="Buyer or number"
          value={shown.buyer}
          placeholder="every buyer"
          width={12}
          onDone={(buyer) => show({ buyer })}
        />
        <DayWord label="from" value={shown.since} onDone={(since) => show({ since })} />
        {ofWords !== '' && (
          <span>
            <b className="text-base-content">{ofWords}</b>{' '}
            <button type="button" className="link-name" onClick={() => show({ of: '' })}>
              without this
            </button>
          </span>
        )}
        <DayWord label="until" value={shown.until} onDone={(until) => show({ until })} />
      </p>
      {exact !== null && (
        <p className="pt-2">
          <VantageLink href={`/orders/${exact}`} className="link-name">
            Open order {exact}
          </VantageLink>
        </p>
      )}
      {rows.length === 0 ? (
        <Nothing shown={shown} onAll={() => show({ show: 'all', buyer: '', since: '', until: '', of: '' })} />
      ) : (
        <table className="mt-3 w-full max-w-5xl">
          <thead>
            <tr className="border-b border-base-content text-left text-soft">
              {['Number', 'Placed', 'Buyer', 'State'].map((title) => (
                <th key={title} className="py-1 pr-4 font-normal">
                  {title}
                </th>
              ))}
              <th className="py-1 pr-4 text-right font-normal">Lines</th>
              <th className="py-1 text-right font-normal">Total</th>
            </tr>
          </thead>
          <tbody>
            {rows.map((row) => (
              <tr key={row.number} className="border-b border-dotted border-base-300">
                <th scope="row" className="py-1.5 pr-4 text-left font-semibold">
                  <VantageLink href={`/orders/${row.number}`} className="link-name">
                    {row.number}
                  </VantageLink>
                </th>
                <td className="py-1.5 pr-4 text-soft">{row.when}</td>
                <td className="py-1.5 pr-4">
                  {row.buyerHref === null ? (
                    row.buyer
                  ) : (
                    <VantageLink href={row.buyerHref} className="link-name">
                      {row.buyer}
                    </VantageLink>
                  )}
                </td>
                <td className={`py-1.5 pr-4 ${row.isOpen ? 'font-semibold' : 'text-soft'}`}>{row.state}</td>
                <td className="py-1.5 pr-4 text-right tabular-nums">{row.lines}</td>
                <td className="py-1.5 text-right font-semibold tabular-nums">{row.due}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {older !== null && (
        <p className="pt-3">
          <VantageLink href={orderListHref({ ...shown, before: older })} className="link-name">
            Older orders
          </VantageLink>
        </p>
      )}
    </section>
  )
}

function DayWord({
  label,
  value,
  onDone,
}: {
  readonly label: string
  readonly value: string
  readonly onDone: (day: string) => void
}) {
  return (
    <label>
      {label}{' '}
      <input
        type="date"
        className="bg-transparent word text-base-content"
        value={value}
        onChange={(event) => onDone(event.target.value)}
      />
    </label>
  )
}

function Nothing({ shown, onAll }: { readonly shown: OrderListShown; readonly onAll: () => void }) {
  const isWide = shown.show === 'all' && shown.buyer === '' && shown.since === '' && shown.until === ''
  return (
    <p className="max-w-2xl pt-4">
      {isWide
        ? 'Nobody has ordered yet. Orders that buyers place in the shop stand here, with every figure explained as it was then.'
        : 'No order is like that. '}
      {!isWide && (
        <button type="button" className="link-name" onClick={onAll}>
          Show all orders
        </button>
      )}
    </p>
  )
}
