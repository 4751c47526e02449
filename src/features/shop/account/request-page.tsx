'use client'

import { formatAmount } from '@/ui/format/amount'
import Link from 'next/link'
import { useRouter } from 'next/navigation'
import { useState, useTransition } from 'react'
import { Sums } from '../cart/cart-sums'
import { Labelled, SHOP_INPUT } from '../frame/labelled'
import { type Decided, letThrough, turnRequestDown } from './request-actions'
import type { RequestView } from './request-view'

const TITLES = {
  waiting: 'Waits for approval',
  ordered: 'Let through and ordered',
  'turned-down': 'Turned down',
} as const

/** An order of a colleague: what it is, what it comes to now, and whether it is ordered. */
export function RequestPage({ view, isNew }: { readonly view: RequestView; readonly isNew: boolean }) {
  const { cart, who, when, state, decided, reason, order, before, goesTo, terms } = view
  return (
    <>
      <p className="pb-1">
        <Link href="/shop/account" className="underline underline-offset-2">
          Your account
        </Link>
      </p>
      <h1 className="text-3xl leading-9 font-bold tracking-tight">
        {isNew ? 'Sent for approval' : TITLES[state]}
      </h1>
      <p className="pb-4 text-base text-soft">
        {who} wants to order this since {when}.{decided !== '' && ` ${decided} has decided.`}
        {isNew && ' You hear by mail what became of it.'}
      </p>
      {reason !== '' && <p className="mb-4 border-l-4 border-warning pl-3 text-base">{reason}</p>}
      {order !== null && (
        <p className="pb-4">
          <Link href={`/shop/orders/${order}`} className="btn btn-outline btn-sm">
            Order {order}
          </Link>
        </p>
      )}
      <div className="grid items-start gap-x-12 gap-y-6 lg:grid-cols-[1fr_20rem]">
        <table className="w-full">
          <caption className="sr-only">What is wanted</caption>
          <tbody>
            {[...cart.lines, ...cart.gifts].map((line) => (
              <tr key={line.position} className="border-t border-base-300 align-baseline">
                <td className="py-1.5 text-base">
                  {line.name} <span className="text-xs text-soft">{line.sku}</span>
                  {line.extras.length > 0 && <span className="block">with {line.extras.join(', ')}</span>}
                  {cart.problems
                    .filter((problem) => problem.line === line.position)
                    .map(({ text }) => (
                      <span key={text} role="alert" className="block text-error">
                        {text}
                      </span>
                    ))}
                </td>
                <td className="py-1.5 text-right text-soft tabular-nums">
                  {line.quantity}
                  {line.unit !== null && ` × ${formatAmount(line.unit, cart.priceDigits)}`}
                </td>
                <td className="w-28 py-1.5 text-right tabular-nums">
                  {line.total === null ? '–' : formatAmount(line.total, cart.digits)}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
        <div>
          <Sums view={cart} />
          {before !== '' && (
            <p className="mt-3 border-l-4 border-warning pl-3">
              It came to {before} when {who} asked: a price, a promotion or a tax has changed since.
            </p>
          )}
          <p className="pt-3 text-soft">
            Delivered to {goesTo}. Paid{' '}
            {view.payment === 'card' || terms === '' ? 'by card' : `on account, ${terms}`}.
          </p>
          {view.mayDecide && <Decision view={view} />}
          {!view.mayDecide && state === 'waiting' && (
            <p className="pt-3 text-soft">Somebody of your account who approves decides on it.</p>
          )}
        </div>
      </div>
    </>
  )
}

function Decision({ view: { id, seen, payment, terms } }: { readonly view: RequestView }) {
  const [isTurning, setTurning] = useState(false)
  const [reason, setReason] = useState('')
  const [card, setCard] = useState('')
  const [problems, setProblems] = useState<Decided['problems']>({})
  const [isBusy, start] = useTransition()
  const router = useRouter()
  function run(act: () => Promise<Decided>): void {
    start(async () => {
      const decided = await act().catch(() => ({
        problems: { all: 'The server did not answer. Nothing was done; try again.' } as const,
      }))
      if (!decided) return
      setProblems(decided.problems)
      if (Object.keys(decided.problems).length === 0) router.refresh()
    })
  }
  return (
    <div className="grid gap-3 pt-4">
      {!isTurning && (payment === 'card' || terms === '') && (
        <Labelled label="Card number (simulated)" problem={problems['card']}>
          <input
            className={SHOP_INPUT}
            inputMode="numeric"
            value={card}
            onChange={(event) => setCard(event.target.value)}
          />
        </Labelled>
      )}
      {isTurning ? (
        <>
          <Labelled label="Why not? They read it" problem={problems['reason']}>
            <textarea
              className={SHOP_INPUT}
              rows={3}
              autoFocus
              value={reason}
              onChange={(event) => setReason(event.target.value)}
            />
          </Labelled>
          <div className="grid grid-cols-2 gap-3">
            <button type="button" className="btn" onClick={() => setTurning(false)}>
              Back
            </button>
            <button
              type="button"
              className="btn btn-primary"
              disabled={isBusy}
              onClick={() => run(() => turnRequestDown(id, reason))}
            >
              Turn it down
            </button>
          </div>
        </>
      ) : (
        <>
          <button
            type="button"
            className="btn btn-primary"
            disabled={isBusy}
            onClick={() => run(() => letThrough(id, seen, card))}
          >
            Let it through and order
          </button>
          <button type="button" className="btn btn-outline" onClick={() => setTurning(true)}>
            Turn it down
          </button>
        </>
      )}
      {problems['all'] && (
        <p role="alert" className="text-error">
          {problems['all']}
        </p>
      )}
    </div>
  )
}
