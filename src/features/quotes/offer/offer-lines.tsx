'use client'

import { formatAmount, formatPercent } from '@/ui/format/amount'
import { compare, type Decimal, ZERO } from '@/core/decimal/decimal'
import { VantageLink } from '@/ui/frame/vantage-link'
import { type KeyboardEvent, useRef } from 'react'
import { AddOfferLine } from './add-offer-line'
import { OfferPrice } from './offer-price'
import type { LineFigures, QuoteView } from './offer-view'
import type { OfferBeingWritten } from './use-offer'

interface OfferLinesProps {
  readonly view: QuoteView
  readonly offer: OfferBeingWritten
  readonly isOpen: boolean
  readonly focused: number
  readonly onFocus: (at: number) => void
}

const NUMBER = 'px-1.5 py-1 text-right tabular-nums whitespace-nowrap'

/** What was asked for, and what is offered for it. */
export function OfferLines({ view, offer, isOpen, focused, onFocus }: OfferLinesProps) {
  const { working, figures, changeLine, removeLine } = offer
  const { priceDigits, digits, asked } = view
  const table = useRef<HTMLTableElement>(null)
  function move(event: KeyboardEvent, at: number, field: 'quantity' | 'price'): void {
    const step = event.key === 'ArrowDown' || event.key === 'Enter' ? 1 : event.key === 'ArrowUp' ? -1 : 0
    if (step === 0) return
    event.preventDefault()
    table.current
      ?.querySelector<HTMLInputElement>(`[data-row="${at + step}"][data-field="${field}"]`)
      ?.focus()
  }
  return (
    <table ref={table} className="mt-2 w-full" aria-label="Offer" data-ready={offer.isSettled}>
      <thead>
        <tr className="border-b border-base-content text-xs">
          <th className="py-1 text-left font-semibold">Item</th>
          {['Asked', 'Offer', 'Their price', 'Offered each', 'To theirs', 'Cost', 'Margin', 'Line total'].map(
            (title) => (
              <th key={title} className="px-1.5 py-1 text-right font-semibold whitespace-nowrap">
                {title}
              </th>
            ),
          )}
          <th>
            <span className="sr-only">More</span>
          </th>
        </tr>
      </thead>
      <tbody>
        {working.lines.map((line, at) => {
          const known = figures.lines[at]
          const was = line.asked === null ? undefined : asked[line.asked]
          const amount = (value: LineFigures['price'] | undefined, size: number) =>
            value ? formatAmount(value, size) : '–'
          return (
            <tr
              key={at}
              title={line.sku}
              className={`border-b border-dotted border-base-300 align-baseline ${focused === at ? 'bg-chosen' : ''}`}
              onFocus={() => onFocus(at)}
              onClick={() => onFocus(at)}
            >
              <th scope="row" className="py-1 pr-2 text-left font-normal">
                {line.insteadOf !== null && (
                  <span className="text-soft">or instead of line {line.insteadOf + 1}: </span>
                )}
                {known?.productHref ? (
                  <VantageLink href={known.productHref} className="link-name">
                    {known.name}
                  </VantageLink>
                ) : (
                  (known?.name ?? line.sku)
                )}
                {line.extras.length > 0 && (
                  <span className="block text-xs text-soft">with {line.extras.join(', ')}</span>
                )}
                {isOpen && focused === at ? (
                  <input
                    className="block w-full max-w-sm bg-transparent word text-xs"
                    aria-label={`Said of line ${at + 1}`}
                    placeholder="a note, such as: two more in June"
                    maxLength={300}
                    value={line.note}
                    onChange={(event) => changeLine(at, { note: event.target.value })}
                  />
                ) : (
                  line.note && <span className="block text-xs text-soft">{line.note}</span>
                )}
                {known?.problem && (
                  <span role="alert" className="block text-xs text-error">
                    {known.problem}
                  </span>
                )}
                {known?.stock &&
                  compare(known.stock, ZERO) >= 0 &&
                  Number(line.quantity) > Number(known.stock) && (
                    <span className="block text-xs text-warning-content">
                      {known.stock} left to promise; the rest is ordered
                    </span>
                  )}
              </th>
              <td className={`${NUMBER} text-soft`}>
                {was?.quantity ?? 'added'}
                {was?.wish && (
                  <span className="block text-2xs">wishes {formatAmount(was.wish, priceDigits)}</span>
                )}
              </td>
              <td className={NUMBER}>
                {isOpen ? (
                  <input
                    data-row={at}
                    data-field="quantity"
                    aria-label={`Quantity of line ${at + 1}`}
                    inputMode="decimal"
                    className={`w-14 rounded-field border px-1.5 py-0.5 text-right ${was && was.quantity !== line.quantity ? 'border-warning bg-warning/20' : 'border-base-300 bg-lifted'}`}
                    value={line.quantity}
                    onChange={(event) => changeLine(at, { quantity: event.target.value })}
                    onKeyDown={(event) => move(event, at, 'quantity')}
                  />
                ) : (
                  line.quantity
                )}
              </td>
              <td className={`${NUMBER} text-soft`}>{amount(known?.their, priceDigits)}</td>
              <td className={NUMBER}>
                {isOpen ? (
                  <OfferPrice
                    at={at}
                    typed={line.price}
                    known={known ?? null}
                    digits={priceDigits}
                    isSettled={offer.isSettled}
                    onType={(price) => changeLine(at, { price })}
                    onKey={(event) => move(event, at, 'price')}
                  />
                ) : (
                  <b>{amount(known?.price, priceDigits)}</b>
                )}
              </td>
              <td className={`${NUMBER} text-soft`}>
                {(known?.toTheirs ?? null) === null
                  ? '–'
                  : known?.toTheirs === ZERO
                    ? 'same'
                    : formatPercent(known?.toTheirs as Decimal)}
              </td>
              <td className={`${NUMBER} text-soft`}>{amount(known?.cost, priceDigits)}</td>
              <td
                className={`${NUMBER} ${known?.isBelow ? 'font-semibold text-warning-content' : 'text-soft'}`}
              >
                {(known?.margin ?? null) === null ? '–' : formatPercent(known?.margin as Decimal)}
              </td>
              <td className={`${NUMBER} font-semibold`}>
                {line.insteadOf === null ? (
                  amount(known?.total, digits)
                ) : (
                  <span className="font-normal text-soft">({amount(known?.total, digits)})</span>
                )}
              </td>
              <td className="py-1 text-right">
                {isOpen && (
                  <button
                    type="button"
                    aria-label={`Leave out line ${at + 1}`}
                    className="px-1 text-soft hover:text-error"
                    onClick={() => removeLine(at)}
                  >
                    ×
                  </button>
                )}
              </td>
            </tr>
          )
        })}
      </tbody>
      {isOpen && (
        <tfoot>
          <tr>
            <td colSpan={10} className="pt-1">
              <AddOfferLine focused={focused} offer={offer} figures={figures} />
            </td>
          </tr>
        </tfoot>
      )}
    </table>
  )
}
