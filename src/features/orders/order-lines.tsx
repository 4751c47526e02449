'use client'

import { compare, type Decimal, subtract, ZERO } from '@/core/decimal/decimal'
import type { LineStanding, OrderStanding } from '@/core/order/standing'
import { formatAmount, formatPercent } from '@/ui/format/amount'
import { VantageLink } from '@/ui/frame/vantage-link'
import { Waterfall } from '@/ui/trace/waterfall'
import { useState } from 'react'
import type { OrderLineView, OrderView } from './order-view'

/** What was bought, line by line; an amount opens how it came about then. */
export function OrderLines({
  view,
  standing,
}: {
  readonly view: OrderView
  readonly standing: OrderStanding
}) {
  const { document, lines, notToday } = view
  const { currency, display } = document
  const [opened, setOpened] = useState<number | null>(null)
  const shows = display === 'gross' ? 'gross' : 'net'
  return (
    <>
      <table className="mt-4 w-full" aria-label="Lines">
        <thead>
          <tr className="border-b border-base-content text-left text-soft">
            <th className="py-1 pr-3 font-normal">Item</th>
            <th className="py-1 pr-3 text-right font-normal">Quantity</th>
            <th className="py-1 pr-3 text-right font-normal">Unit price</th>
            <th className="py-1 pr-3 text-right font-normal">Today</th>
            <th className="py-1 pr-3 text-right font-normal">Line total</th>
            <th className="py-1 pr-3 text-right font-normal">Margin</th>
          </tr>
        </thead>
        <tbody>
          {lines.map((line, at) => (
            <Line
              key={at}
              view={view}
              shown={line}
              became={standing.lines[at] as LineStanding}
              isOpen={opened === at}
              onOpen={() => setOpened(opened === at ? null : at)}
            />
          ))}
        </tbody>
      </table>
      <p className="pt-2 text-xs text-soft">
        Prices in {currency}, {shows === 'gross' ? 'with tax' : 'without tax'}, as the buyer saw them; margins
        without tax. Today is what one piece would cost them now, before promotions.
        {notToday !== '' && ` ${notToday}`}
      </p>
    </>
  )
}

function Line({
  view,
  shown,
  became,
  isOpen,
  onOpen,
}: {
  readonly view: OrderView
  readonly shown: OrderLineView
  readonly became: LineStanding
  readonly isOpen: boolean
  readonly onOpen: () => void
}) {
  const { display, digits, currency } = view.document
  const { line, productHref, margin, today, steps } = shown
  const shows = display === 'gross' ? 'gross' : 'net'
  const unit = line.unit[shows]
  return (
    <>
      <tr className="border-b border-dotted border-base-300 align-baseline">
        <th scope="row" className="py-1.5 pr-3 text-left font-normal">
          {productHref === null ? (
            line.name
          ) : (
            <VantageLink href={productHref} className="link-name">
              {line.name}
            </VantageLink>
          )}{' '}
          <span className="text-2xs text-soft">{line.sku}</span>
          {line.extras.length > 0 && (
            <span className="block text-xs">with {line.extras.map(({ name }) => name).join(', ')}</span>
          )}
          {line.promotions.length > 0 && (
            <span className="block text-xs font-semibold text-primary">{line.promotions.join(', ')}</span>
          )}
        </th>
        <td className="py-1.5 pr-3 text-right tabular-nums">
          {line.quantity}
          <span className="block text-xs text-soft">{becameWords(line.quantity, became)}</span>
        </td>
        <td className="py-1.5 pr-3 text-right tabular-nums">
          {steps.length === 0 ? (
            formatAmount(unit, digits)
          ) : (
            <button
              type="button"
              className="font-semibold underline decoration-dotted underline-offset-2"
              aria-expanded={isOpen}
              aria-label={`Why ${formatAmount(unit, digits)} for ${line.sku}`}
              onClick={onOpen}
            >
              {formatAmount(unit, digits)}
            </button>
          )}
        </td>
        <td className="py-1.5 pr-3 text-right tabular-nums">
          <Today unit={unit} today={today} digits={digits} />
        </td>
        <td className="py-1.5 pr-3 text-right font-semibold tabular-nums">
          {line.before[shows] !== line[shows] && (
            <s className="block text-xs font-normal text-soft">{formatAmount(line.before[shows], digits)}</s>
          )}
          {line.isGift ? 'free' : formatAmount(line[shows], digits)}
        </td>
        <td
          className={`py-1.5 pr-3 text-right tabular-nums ${margin?.startsWith('-') ? 'font-semibold text-error' : ''}`}
        >
          {margin === null ? '–' : formatPercent(margin)}
        </td>
      </tr>
      {isOpen && (
        <tr className="border-b border-dotted border-base-300 bg-lifted">
          <td colSpan={6} className="px-4 pb-3">
            <p className="max-w-xl pt-2 text-soft">How the price of one piece came about then</p>
            <div className="max-w-xl">
              <Waterfall steps={steps} currency={currency} />
            </div>
          </td>
        </tr>
      )}
    </>
  )
}

/** What became of a line, where that is not told by the state of the whole order. */
function becameWords(quantity: Decimal, { sent, open, cancelled, returned }: LineStanding): string {
  return [
    compare(sent, ZERO) > 0 && compare(sent, quantity) < 0 ? `${sent} sent` : '',
    compare(open, ZERO) > 0 && compare(open, quantity) < 0 ? `${open} to send` : '',
    cancelled === ZERO ? '' : `${cancelled} cancelled`,
    returned === ZERO ? '' : `${returned} returned`,
  ]
    .filter(Boolean)
    .join(', ')
}

function Today({
  unit,
  today,
  digits,
}: {
  readonly unit: Decimal
  readonly today: Decimal | null
  readonly digits: number
}) {
  if (today === null) return <span className="text-soft">–</span>
  const difference = subtract(today, unit)
  if (difference === ZERO) return <span className="text-soft">the same</span>
  return (
    <>
      {formatAmount(today, digits)}
      <span className="block text-xs text-soft">
        {compare(difference, ZERO) > 0 ? '+' : ''}
        {formatAmount(difference, digits)}
      </span>
    </>
  )
}
