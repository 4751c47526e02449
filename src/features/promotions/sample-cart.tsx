'use client'

import { VantageLink } from '@/ui/frame/vantage-link'
import { usePathname } from 'next/navigation'
import { useEffect, useState, useTransition } from 'react'
import type { SampleCartView, SampleLine, SampleOrder, SampleRow, SampleSet } from './sample-view'
import { ordersToTry, type SampleOf, trySample } from './try-sample'

/** A cart to try a promotion on: units are typed, lines added, and everything is worked out again. */
export function SampleCart({ of, first }: { readonly of: SampleOf; readonly first: SampleCartView }) {
  const path = usePathname()
  // What was typed into the cart stays there while the promotion above it is changed.
  const [typed, setTyped] = useState<readonly SampleLine[] | null>(null)
  const [priced, setPriced] = useState<SampleCartView | null>(null)
  const [problem, setProblem] = useState('')
  const [isBusy, startTransition] = useTransition()
  const view = priced ?? first
  const lines = view.rows.filter(({ isGift }) => !isGift).map(({ sku, quantity }) => ({ sku, quantity }))

  useEffect(() => {
    if (typed === null) return
    let isOld = false
    startTransition(async () => {
      const outcome = await trySample(of, typed)
      if (isOld) return
      setProblem(outcome.ok ? '' : outcome.problem)
      if (outcome.ok) setPriced(outcome.view)
    })
    return () => {
      isOld = true
    }
  }, [of, typed])

  return (
    <section aria-label="Sample cart" aria-busy={isBusy}>
      <p className="pb-1">
        <b>In a sample cart</b>{' '}
        <span className="text-soft">
          of {view.buyer}, as the vantage stands; {view.basis}, in {view.currency}
        </span>{' '}
        <PastOrder use={setTyped} />
      </p>
      <table className="w-full">
        <thead>
          <tr className="border-b border-base-content text-right">
            <th className="w-14 py-1 pr-2 font-semibold">Units</th>
            <th className="text-left font-semibold">Variant</th>
            <th className="w-16 font-semibold">Each</th>
            <th className="w-18 font-semibold">Before</th>
            <th className="w-44 pl-6 text-left font-semibold">Taken</th>
            <th className="w-18 font-semibold">Saved</th>
            <th className="w-18 font-semibold">Pays</th>
          </tr>
        </thead>
        <tbody>
          {view.rows.map((row, at) => (
            <Row
              key={`${row.sku} ${at}`}
              row={row}
              change={(quantity) =>
                setTyped(
                  quantity === '' || Number(quantity) === 0
                    ? lines.filter((_, other) => other !== at)
                    : lines.map((line, other) => (other === at ? { ...line, quantity } : line)),
                )
              }
            />
          ))}
          {view.charges.map(({ name, saved, pays }) => (
            <tr key={name} className="border-b border-base-300 text-right tabular-nums">
              <td />
              <td className="py-1 text-left">{name}</td>
              <td colSpan={3} />
              <td>{saved}</td>
              <td className="font-semibold">{pays}</td>
            </tr>
          ))}
          <tr className="text-right tabular-nums">
            <td />
            <td className="py-1 text-left">
              <AddLine add={(sku) => setTyped([...lines, { sku, quantity: '1' }])} />
            </td>
            <td />
            <td>{view.before}</td>
            <td />
            <td className="font-semibold">{view.saved}</td>
            <td className="font-semibold">{view.total}</td>
          </tr>
        </tbody>
      </table>
      {problem && (
        <p role="alert" className="text-error">
          {problem}
        </p>
      )}
      {view.why && (
        <p className="py-1">
          <b className="bg-warning px-2 text-warning-content">It saves nothing here</b>{' '}
          <span className="text-soft">It {view.why}.</span>{' '}
          {view.begins && (
            <VantageLink href={path} lookOn={view.begins.on} className="link-name">
              Look from {view.begins.words}
            </VantageLink>
          )}
        </p>
      )}
      <Sets sets={view.sets} />
      <Margin view={view} />
      <Competitors view={view} />
    </section>
  )
}

function Row({ row, change }: { readonly row: SampleRow; readonly change: (quantity: string) => void }) {
  return (
    <tr className={`border-b border-base-300 text-right tabular-nums ${row.isIn ? '' : 'text-soft'}`}>
      <td className="py-0.5 pr-2">
        {row.isGift ? (
          row.quantity
        ) : (
          <input
            key={row.quantity}
            className="input w-12 text-right input-xs"
            aria-label={`Units of ${row.name || row.sku}`}
            inputMode="decimal"
            defaultValue={row.quantity}
            onBlur={({ target }) => target.value !== row.quantity && change(target.value)}
            onKeyDown={({ key, currentTarget }) => key === 'Enter' && currentTarget.blur()}
          />
        )}
      </td>
      <td className="text-left">
        <VantageLink href={row.href} className="hover:underline">
          {row.name || row.sku}
        </VantageLink>
      </td>
      <td>{row.each}</td>
      <td>{row.before}</td>
      <td className="pl-6 text-left">
        {row.taken.map((set, at) => (
          <span
            key={at}
            className={`mr-1 inline-block w-4 rounded-xs text-center text-[11px] leading-4 font-semibold ${set % 2 === 1 ? 'bg-primary text-primary-content' : 'bg-primary/35'}`}
          >
            {set}
          </span>
        ))}
        {row.more > 0 && <span className="text-xs text-soft">and {row.more} more</span>}
        {row.note && <span className="text-xs text-soft">{row.note}</span>}
      </td>
      <td>{row.saved}</td>
      <td className="font-semibold">{row.pays}</td>
    </tr>
  )
}

/** Puts the lines of an order into the cart. */
function PastOrder({ use }: { readonly use: (lines: readonly SampleLine[]) => void }) {
  const [orders, setOrders] = useState<readonly SampleOrder[] | null>(null)
  const [isBusy, startTransition] = useTransition()
  if (orders === null)
    return (
      <button
        type="button"
        className="link-name"
        disabled={isBusy}
        onClick={() => startTransition(async () => setOrders(await ordersToTry()))}
      >
        Use a past order
      </button>
    )
  if (orders.length === 0) return <span className="text-soft">Nothing has been ordered yet.</span>
  return (
    <select
      autoFocus
      aria-label="Past order"
      className="select w-72 select-xs"
      defaultValue=""
      onChange={({ target }) => {
        const chosen = orders[Number(target.value)]
        if (chosen) use(chosen.lines)
        setOrders(null)
      }}
    >
      <option value="" disabled>
        Which order?
      </option>
      {orders.map(({ name }, at) => (
        <option key={name} value={at}>
          {name}
        </option>
      ))}
    </select>
  )
}

function AddLine({ add }: { readonly add: (sku: string) => void }) {
  const [isOpen, setOpen] = useState(false)
  if (!isOpen)
    return (
      <button type="button" className="link-name" onClick={() => setOpen(true)}>
        Add a line
      </button>
    )
  return (
    <input
      autoFocus
      className="input w-40 input-xs"
      aria-label="SKU to add"
      placeholder="SKU, then Enter"
      onKeyDown={({ key, currentTarget }) => {
        if (key === 'Escape') setOpen(false)
        if (key !== 'Enter' || currentTarget.value.trim() === '') return
        add(currentTarget.value.trim())
        setOpen(false)
      }}
      onBlur={() => setOpen(false)}
    />
  )
}

function Margin({ view: { margin, belowCost } }: { readonly view: SampleCartView }) {
  if (!margin) return null
  return (
    <p className="py-1">
      Margin of what it takes and gives: {margin.before} → <b>{margin.now}</b>
      {belowCost.length > 0 && <b className="text-error">; below cost: {belowCost.join(', ')}</b>}
    </p>
  )
}

const MOST_SETS = 6

/** Of each set what is paid and, hatched, what is saved. */
function Sets({ sets }: { readonly sets: readonly SampleSet[] }) {
  if (sets.length === 0) return null
  return (
    <div className="py-2">
      <ul className="flex flex-wrap gap-x-8 gap-y-2">
        {sets.slice(0, MOST_SETS).map(({ number, times, before, after, paid }) => (
          <li key={number} className="w-44 text-xs">
            <span className="tabular-nums">
              <b>{times === 1 ? `Set ${number}` : `Sets ${number} to ${number + times - 1}, each`}</b>{' '}
              {before} → {after}
            </span>
            <span className="mt-0.5 flex h-2" aria-hidden>
              <span
                className={number % 2 === 1 ? 'bg-primary' : 'bg-primary/35'}
                style={{ width: `${Math.round(Math.max(0, Math.min(1, paid)) * 100)}%` }}
              />
              <span className="grow bg-hatched" />
            </span>
          </li>
        ))}
      </ul>
      <p className="pt-1 text-xs text-soft">
        Hatched is the saving: split by value, the odd cent to the largest remainder.
        {sets.length > MOST_SETS && ` ${sets.length - MOST_SETS} more sets are not drawn.`}
      </p>
    </div>
  )
}

function Competitors({ view }: { readonly view: SampleCartView }) {
  return (
    <div className="pt-2">
      <p className="pb-1">
        <b>What competes for these lines</b> <span className="text-soft">lowest priority number first</span>
      </p>
      <table className="w-full border-t border-base-content">
        <tbody>
          {view.competitors.map(({ rank, name, href, offer, standing, isThis, isWinner }) => (
            <tr key={href} className={`border-b border-base-300 align-top ${isThis ? 'bg-chosen/60' : ''}`}>
              <td className="w-10 py-1 pr-3 text-right tabular-nums">{rank}</td>
              <td className="w-48 py-1 pr-3">
                {isThis ? (
                  <b>{name}</b>
                ) : (
                  <VantageLink href={href} className="link-name">
                    {name}
                  </VantageLink>
                )}
              </td>
              <td className="py-1 pr-3 text-soft">{offer}</td>
              <td className={`py-1 ${isWinner ? 'font-semibold text-primary' : ''}`}>{standing}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  )
}
