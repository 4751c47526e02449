'use client'

import type { Decimal } from '@/core/decimal/decimal'
import { formatAmount, formatPercent } from '@/ui/format/amount'
import { VantageLink } from '@/ui/frame/vantage-link'
import type { KeyboardEvent, RefObject } from 'react'
import type { Desk } from './use-desk'

interface DeskLinesProps {
  readonly desk: Desk
  readonly table: RefObject<HTMLTableElement | null>
  readonly focused: number
  readonly onFocus: (at: number) => void
  /** Back to where items are found. */
  readonly onUp: () => void
}

/** What is in the order, each line at the buyer's price, with what is wrong beside it. */
export function DeskLines({ desk, table, focused, onFocus, onUp }: DeskLinesProps) {
  const { typed, figures, changeLine, removeLine } = desk
  const digits = figures?.digits ?? 2
  const priceDigits = figures?.priceDigits ?? 2
  const amount = (value: Decimal | null | undefined, size: number) =>
    value ? formatAmount(value, size) : '–'

  function onKey(event: KeyboardEvent<HTMLInputElement>, at: number, field: 'quantity' | 'price'): void {
    const step = event.key === 'ArrowDown' ? 1 : event.key === 'ArrowUp' ? -1 : 0
    if (step !== 0) {
      event.preventDefault()
      const next = table.current?.querySelector<HTMLInputElement>(
        `[data-row="${at + step}"][data-field="${field}"]`,
      )
      if (next) next.focus()
      else if (step < 0) onUp()
      return
    }
    if (event.key === 'Enter' && !event.ctrlKey && !event.metaKey) {
      event.preventDefault()
      onUp()
      return
    }
    const { selectionStart, selectionEnd, value } = event.currentTarget
    const isAll = selectionStart === 0 && selectionEnd === value.length
    if (event.key === 'Delete' && field === 'quantity' && isAll) {
      event.preventDefault()
      removeLine(at)
      onUp()
    }
  }
  if (typed.lines.length === 0)
    return (
      <p className="max-w-xl pt-6 text-soft">
        Nothing is in the order yet. Type a SKU or words above; a number behind them is how many.
      </p>
    )
  return (
    <table ref={table} className="mt-4 w-full" aria-label="Lines" data-ready={desk.isSettled}>
      <thead>
        <tr className="border-b border-base-content text-left text-xs">
          {['SKU', 'Item'].map((title) => (
            <th key={title} className="py-1 pl-1.5 font-semibold">
              {title}
            </th>
          ))}
          {['Quantity', 'Each'].map((title) => (
            <th key={title} className="py-1 text-right font-semibold">
              {title}
            </th>
          ))}
          <th className="py-1 pl-6 font-semibold">How</th>
          {['Tax', 'Margin', 'Line total'].map((title) => (
            <th key={title} className="py-1 pr-1.5 text-right font-semibold">
              {title}
            </th>
          ))}
        </tr>
      </thead>
      {typed.lines.map((line, at) => {
        const known = figures?.lines[at]
        const isByHand = line.price.trim() !== ''
        const isWrong = known !== undefined && known.problem !== ''
        return (
          <tbody key={at} className={focused === at ? 'bg-chosen/40' : ''} onFocus={() => onFocus(at)}>
            <tr className="border-t border-dotted border-base-300">
              <td className="py-1 pl-1.5 text-xs">{line.sku}</td>
              <td className="py-1 pl-1.5">
                {known?.productHref ? (
                  <VantageLink href={known.productHref} className="hover:underline" tabIndex={-1}>
                    {known.name}
                  </VantageLink>
                ) : (
                  (known?.name ?? '')
                )}
              </td>
              <td className="w-20 py-1 text-right">
                <input
                  data-row={at}
                  data-field="quantity"
                  aria-label={`Quantity of line ${at + 1}`}
                  aria-invalid={known?.wrong === 'quantity'}
                  inputMode="decimal"
                  className="w-14 rounded-field border border-base-300 bg-lifted px-1.5 py-0.5 text-right aria-[invalid=true]:border-error aria-[invalid=true]:font-semibold aria-[invalid=true]:text-error"
                  value={line.quantity}
                  onFocus={(event) => event.currentTarget.select()}
                  onChange={(event) => changeLine(at, { quantity: event.target.value })}
                  onKeyDown={(event) => onKey(event, at, 'quantity')}
                />
              </td>
              <td className="w-20 py-1 text-right">
                <input
                  data-row={at}
                  data-field="price"
                  aria-label={`Price of line ${at + 1}`}
                  aria-invalid={known?.wrong === 'price'}
                  className={`w-[4.5rem] rounded-field border px-1.5 py-0.5 text-right aria-[invalid=true]:border-error aria-[invalid=true]:text-error ${isByHand ? 'border-warning-content bg-lifted font-semibold' : 'border-transparent bg-transparent hover:border-base-300 focus:border-base-300 focus:bg-lifted'}`}
                  placeholder={amount(known?.unit, priceDigits)}
                  value={line.price}
                  onChange={(event) => changeLine(at, { price: event.target.value })}
                  onKeyDown={(event) => onKey(event, at, 'price')}
                />
              </td>
              <td className="py-1 pl-6 text-xs text-soft">{known?.how}</td>
              <td className="w-16 py-1 pr-1.5 text-right text-xs whitespace-nowrap text-soft">
                {known?.tax}
              </td>
              <td className="w-16 py-1 pr-1.5 text-right text-xs whitespace-nowrap text-soft">
                {known?.margin ? formatPercent(known.margin) : '–'}
              </td>
              <td className="w-24 py-1 pr-1.5 text-right font-semibold tabular-nums">
                {amount(known?.total, digits)}
              </td>
            </tr>
            {isByHand && (
              <tr>
                <td />
                <td colSpan={7} className="pb-1 pl-1.5">
                  <label className="flex items-baseline gap-2 text-xs text-soft">
                    {known?.unit && (
                      <b className="text-base-content">
                        {formatAmount(known.unit, priceDigits)} each, because
                      </b>
                    )}
                    <input
                      data-row={at}
                      data-field="reason"
                      aria-label={`Reason for the price of line ${at + 1}`}
                      aria-invalid={known?.wrong === 'reason'}
                      className="w-80 bg-transparent word"
                      placeholder="why the price is set by hand"
                      maxLength={200}
                      value={line.reason}
                      onChange={(event) => changeLine(at, { reason: event.target.value })}
                    />
                  </label>
                </td>
              </tr>
            )}
            {known?.less.map(({ name, amount: less }, place) => (
              <tr key={place} className="text-xs text-soft">
                <td />
                <td colSpan={6} className="pb-1 pl-1.5">
                  {name}
                </td>
                <td className="pr-1.5 pb-1 text-right tabular-nums">{formatAmount(less, digits)}</td>
              </tr>
            ))}
            {isWrong && (
              <tr>
                <td />
                <td colSpan={7} className="pb-1.5 pl-1.5 text-xs text-error" role="alert">
                  <b>{known.problem}</b>
                  {known.fix !== null && (
                    <>
                      {' '}
                      <button
                        type="button"
                        className="font-semibold underline underline-offset-2"
                        onClick={() => changeLine(at, { quantity: known.fix as string })}
                      >
                        Make it {known.fix}
                      </button>{' '}
                      <kbd className="kbd kbd-xs">Alt M</kbd>
                    </>
                  )}
                </td>
              </tr>
            )}
          </tbody>
        )
      })}
      <tbody>
        {figures?.gifts.map(({ sku, name, quantity, promotion }, at) => (
          <tr key={at} className="border-t border-dotted border-base-300 text-soft">
            <td className="py-1 pl-1.5 text-xs">{sku}</td>
            <td className="py-1 pl-1.5">
              {name} <span className="text-xs">{promotion}</span>
            </td>
            <td className="py-1 pr-1.5 text-right">+ {quantity}</td>
            <td colSpan={4} />
            <td className="py-1 pr-1.5 text-right">free</td>
          </tr>
        ))}
      </tbody>
    </table>
  )
}
