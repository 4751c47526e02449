'use client'

import { compare, subtract, sum, ZERO } from '@/core/decimal/decimal'
import { standingOf } from '@/core/order/standing'
import { formatAmount, formatMoney, formatPercent } from '@/ui/format/amount'
import { ORDER_STATE_WORDS, papersOf, paymentWords } from '@/ui/format/order-phrases'
import { countryName } from '@/ui/format/place-names'
import { VantageLink } from '@/ui/frame/vantage-link'
import { OrderLines } from './order-lines'
import { eventSentence } from './order-sentences'
import { WriteDownAgain } from './write-down-again'
import { OrderSteps } from './order-steps'
import type { OrderView } from './order-view'

/** One order: what was bought and why at that price, what became of it, and what can be done now. */
export function OrderSheet({ view }: { readonly view: OrderView }) {
  const { number, when, buyerHref, document, events } = view
  const standing = standingOf(document, events)
  const { address, buyer, email, payment, reference, placedBy } = document
  return (
    <div className="flex min-h-0 flex-1" data-testid="order">
      <section className="min-h-0 min-w-0 flex-1 overflow-auto px-6 pt-3 pb-8" aria-label={`Order ${number}`}>
        <p>
          <VantageLink href="/orders" className="link-name">
            Orders
          </VantageLink>
        </p>
        <h1 className="text-xl leading-7 font-semibold">
          Order {number}{' '}
          <span className="text-base font-normal text-soft">· {ORDER_STATE_WORDS[standing.state]}</span>
        </h1>
        <p className="max-w-3xl pt-1 text-base leading-7 text-soft">
          {buyerHref === null ? (
            <b className="text-base-content">{buyer}</b>
          ) : (
            <VantageLink href={buyerHref} className="link-name">
              {buyer}
            </VantageLink>
          )}{' '}
          ordered on {when}
          {placedBy !== null && `, placed for them by ${placedBy}`}
          {reference !== '' && `, as their ${reference}`}, to be delivered to{' '}
          {[
            address.name,
            address.street,
            `${address.postcode} ${address.city}`.trim(),
            countryName(address.country),
          ]
            .filter(Boolean)
            .join(', ')}
          ; paid {paymentWords(payment)}. Mails go to {email}.
        </p>
        <OrderSteps key={events.length} view={view} standing={standing} />
        <OrderLines view={view} standing={standing} />
      </section>
      <aside className="w-72 shrink-0 overflow-auto border-l border-base-300 bg-lifted px-4 py-4">
        <Sums view={view} />
        <h2 className="pt-5 pb-1 text-xs font-semibold">Documents</h2>
        <ul>
          {papersOf(events).map(([name, query]) => (
            <li key={query} className="border-b border-dotted border-base-300 py-1">
              <a href={`/api/orders/${number}?${query}`} target="_blank" className="link-name">
                {name}
              </a>{' '}
              <span className="text-soft">PDF</span>
              {/paper=(invoice|credit-note)/.test(query) && (
                <>
                  {' '}
                  <a href={`/api/orders/${number}?${query}&format=ubl`} className="link-name">
                    UBL
                  </a>
                </>
              )}
            </li>
          ))}
        </ul>
        <WriteDownAgain number={number} />
        <h2 className="pt-5 pb-1 text-xs font-semibold">What was done</h2>
        <ol aria-label="What was done">
          {[...events].reverse().map((event, at) => (
            <li key={at} className="border-b border-dotted border-base-300 py-1">
              <span className="block text-xs text-soft">
                {event.when}, {event.author}
              </span>
              {eventSentence(event, document)}
            </li>
          ))}
          <li className="py-1">
            <span className="block text-xs text-soft">
              {when}, {placedBy ?? buyer}
            </span>
            Placed
          </li>
        </ol>
      </aside>
    </div>
  )
}

function Sums({ view: { document, events, margin } }: { readonly view: OrderView }) {
  const { currency, digits, goods, delivery, paymentCharge, taxes, total, lines, untaxed } = document
  const { credited, due, state } = standingOf(document, events)
  const saved = subtract(sum(lines.map(({ before }) => before.net)), goods.net)
  const rows: readonly (readonly [string, string, boolean?])[] = [
    ...(compare(saved, ZERO) > 0
      ? [
          ['Before promotions', formatMoney(sum([goods.net, saved]), currency, digits)] as const,
          ['Promotions', `−${formatMoney(saved, currency, digits)}`] as const,
        ]
      : []),
    ['Goods, without tax', formatMoney(goods.net, currency, digits)],
    ['Delivery', formatMoney(delivery.net, currency, digits)],
    ...(paymentCharge.gross === ZERO
      ? []
      : [['For the way of paying', formatMoney(paymentCharge.net, currency, digits)] as const]),
    ...taxes.map(
      ({ name, percent, on, amount }) =>
        [
          `${name} ${percent} % on ${formatAmount(on, digits)}`,
          formatMoney(amount, currency, digits),
        ] as const,
    ),
    ['Total', formatMoney(total.gross, currency, digits), true],
    ...(credited.gross === ZERO
      ? []
      : ([
          ['Credited', `−${formatMoney(credited.gross, currency, digits)}`],
          [state === 'closed' ? 'Paid' : 'To pay', formatMoney(due.gross, currency, digits), true],
        ] as const)),
  ]
  return (
    <>
      <h2 className="pb-1 text-xs font-semibold">As of then</h2>
      <dl aria-label="Sums">
        {rows.map(([label, amount, isWhole]) => (
          <div
            key={label}
            className={`flex justify-between gap-3 border-b border-dotted border-base-300 py-1 ${isWhole ? 'font-semibold' : ''}`}
          >
            <dt>{label}</dt>
            <dd className="text-right whitespace-nowrap tabular-nums">{amount}</dd>
          </div>
        ))}
      </dl>
      <p className="pt-2 text-soft">
        {margin === null
          ? 'The margin is not known: a cost was missing then.'
          : `Margin of the goods ${formatPercent(margin)}, at the costs of then.`}
        {untaxed === 'reverse-charge' && ' Reverse charge: the buyer accounts for the tax.'}
        {untaxed === 'certificate' && ' No tax: the account had a certificate of exemption.'}
      </p>
    </>
  )
}
