'use client'

import { formatMoney } from '@/ui/format/amount'
import { type ClipboardEvent, type KeyboardEvent, useRef, useState, useTransition } from 'react'
import { addRows } from './quick-actions'
import { QuickRowResult } from './quick-row-result'
import { EMPTY_ROW, isEmpty, MOST_ROWS, type QuickRow, readPasted, withNext, withRows } from './quick-rows'
import type { ResolvedOrder } from './resolved'
import { useResolved } from './use-resolved'

/** SKUs and quantities, typed, pasted or out of a file: each is looked up as it is typed, and what is ready goes into the cart. */
export function QuickOrder({ first }: { readonly first: ResolvedOrder }) {
  const [rows, setRows] = useState<readonly QuickRow[]>([EMPTY_ROW])
  const [told, setTold] = useState('')
  const [problem, setProblem] = useState('')
  const [isAdding, add] = useTransition()
  const { order, isSettled, isOff } = useResolved(rows, first)
  const table = useRef<HTMLTableElement>(null)

  function change(next: readonly QuickRow[]): void {
    if (next.length > MOST_ROWS + 1)
      return setProblem(`${MOST_ROWS} rows can be ordered at once. Add these to the cart first.`)
    setProblem('')
    setTold('')
    setRows(next)
  }
  const set = (at: number, part: Partial<QuickRow>) =>
    change(withNext(rows.map((row, place) => (place === at ? { ...row, ...part } : row))))
  const focus = (row: number, field: 'sku' | 'quantity') =>
    table.current?.querySelector<HTMLInputElement>(`[data-row="${row}"][data-field="${field}"]`)?.focus()

  function onKey(event: KeyboardEvent, row: number, field: 'sku' | 'quantity'): void {
    if (event.key === 'Enter') {
      event.preventDefault()
      if (field === 'sku') focus(row, 'quantity')
      else focus(row + 1, 'sku')
    } else if (event.key === 'ArrowDown') focus(row + 1, field)
    else if (event.key === 'ArrowUp') focus(row - 1, field)
  }
  function onPaste(event: ClipboardEvent, row: number): void {
    const pasted = event.clipboardData.getData('text')
    // A SKU alone goes into its field.
    if (!/[\n\t]/.test(pasted) && !/\S[\s,;]+\d/.test(pasted.trim())) return
    event.preventDefault()
    const next = withRows(rows, row, readPasted(pasted))
    change(next)
    // Where the next line goes.
    requestAnimationFrame(() => focus(next.length - 1, 'sku'))
  }
  async function onFile(file: File | undefined): Promise<void> {
    if (!file) return
    setProblem('')
    const read = (await fetch('/api/shop/quick/file', {
      method: 'POST',
      headers: { 'content-type': 'application/octet-stream' },
      body: file,
    })
      .then((response) => response.json())
      .catch(() => ({ problem: 'The file could not be sent. Try again.' }))) as {
      readonly rows?: readonly QuickRow[]
      readonly problem?: string
    }
    if (read.rows) change(withNext([...rows.filter((row) => !isEmpty(row)), ...read.rows]))
    else setProblem(read.problem ?? 'The file could not be read.')
  }
  function onAdd(): void {
    add(async () => {
      const outcome = await addRows(rows.filter((row) => !isEmpty(row))).catch(() => null)
      if (!outcome) return setProblem('The server did not answer. Nothing was added; try again.')
      if (!outcome.ok) return setProblem(outcome.problem)
      setRows(withNext(outcome.left))
      setTold(
        `${outcome.added} ${outcome.added === 1 ? 'line is' : 'lines are'} in the cart. These need a look first.`,
      )
    })
  }

  const ready = order.rows.filter(({ kind }) => kind === 'ready').length
  const wrong = order.rows.filter(({ kind }) => kind === 'wrong' || kind === 'unknown').length
  return (
    <div className="max-w-4xl">
      <h1 className="text-3xl leading-9 font-bold tracking-tight">Quick order</h1>
      <p className="pt-1 pb-4 text-base text-soft">
        Type, or paste from a spreadsheet: a SKU and a quantity on each line. Prices are yours, {order.words}.
      </p>
      {told && (
        <p role="status" className="pb-3 text-base">
          {told}
        </p>
      )}
      <table
        ref={table}
        className="w-full"
        aria-label="Quick order"
        aria-busy={!isSettled}
        data-ready={isSettled}
      >
        <thead className="max-sm:sr-only">
          <tr className="border-b border-base-content text-left text-xs text-soft">
            <th className="w-36 py-1 pl-3 font-normal">SKU</th>
            <th className="w-20 py-1 pr-3 text-right font-normal">Quantity</th>
            <th className="py-1 pl-3 font-normal">Item</th>
            <th className="w-24 py-1 text-right font-normal">Unit price</th>
            <th className="w-28 py-1 text-right font-normal">Line total</th>
          </tr>
        </thead>
        <tbody>
          {rows.map((row, at) => {
            const result = order.rows[at] ?? { kind: 'empty' as const }
            const isWrong = result.kind === 'wrong' || result.kind === 'unknown'
            return (
              <tr
                key={at}
                className={`border-b border-base-300 max-sm:grid max-sm:grid-cols-[1fr_5rem] ${isWrong ? 'border-l-4 border-l-error' : ''}`}
              >
                <td className="bg-lifted">
                  <input
                    data-row={at}
                    data-field="sku"
                    aria-label={`SKU of line ${at + 1}`}
                    aria-invalid={result.kind === 'unknown'}
                    autoComplete="off"
                    autoCapitalize="characters"
                    spellCheck={false}
                    className="w-full bg-transparent px-3 py-2.5 text-base"
                    value={row.sku}
                    onChange={(event) => set(at, { sku: event.target.value })}
                    onKeyDown={(event) => onKey(event, at, 'sku')}
                    onPaste={(event) => onPaste(event, at)}
                  />
                </td>
                <td className="bg-lifted sm:border-r sm:border-base-300">
                  <input
                    data-row={at}
                    data-field="quantity"
                    aria-label={`Quantity of line ${at + 1}`}
                    aria-invalid={result.kind === 'wrong'}
                    autoComplete="off"
                    inputMode="decimal"
                    className="w-full bg-transparent px-3 py-2.5 text-right text-base tabular-nums"
                    value={row.quantity}
                    onChange={(event) => set(at, { quantity: event.target.value })}
                    onFocus={() => {
                      if (row.sku.trim() !== '' && row.quantity === '') set(at, { quantity: '1' })
                    }}
                    onKeyDown={(event) => onKey(event, at, 'quantity')}
                  />
                </td>
                <QuickRowResult
                  result={result}
                  isLast={at === rows.length - 1}
                  digits={order.digits}
                  priceDigits={order.priceDigits}
                  typed={row.sku}
                  onSku={(sku) => set(at, { sku })}
                  onQuantity={(quantity) => set(at, { quantity })}
                />
              </tr>
            )
          })}
        </tbody>
      </table>
      <div className="flex flex-wrap items-start justify-between gap-4 border-t border-base-content pt-4">
        <div aria-live="polite">
          <p>
            <b>
              {ready} {ready === 1 ? 'line' : 'lines'} ready
            </b>
            {wrong > 0 && (
              <span className="text-error">
                , {wrong} {wrong === 1 ? 'needs' : 'need'} a look
              </span>
            )}
          </p>
          {order.notes.map((note) => (
            <p key={note} className="max-w-md text-soft">
              {note}
            </p>
          ))}
          {isOff && <p className="text-error">The server does not answer. What you typed is still here.</p>}
          {problem && (
            <p role="alert" className="text-error">
              {problem}
            </p>
          )}
          <label className="mt-2 inline-block cursor-pointer underline underline-offset-2 focus-within:outline-2">
            Add the rows of a file (CSV or XLSX)
            <input
              type="file"
              accept=".csv,.xlsx,text/csv"
              className="sr-only"
              onChange={(event) => {
                void onFile(event.target.files?.[0])
                event.target.value = ''
              }}
            />
          </label>
        </div>
        <div className="ml-auto flex flex-wrap items-center justify-end gap-4">
          {order.total !== null && ready > 0 && (
            <p className="text-soft">
              {order.words}{' '}
              <b className="pl-1 text-xl text-base-content tabular-nums" data-testid="quick-total">
                {formatMoney(order.total, order.currency, order.digits)}
              </b>
            </p>
          )}
          <button
            type="button"
            className="btn btn-primary"
            disabled={isAdding || !isSettled || ready === 0}
            onClick={onAdd}
          >
            {ready === 0 ? 'Add to cart' : `Add ${ready} ${ready === 1 ? 'line' : 'lines'} to cart`}
          </button>
        </div>
      </div>
    </div>
  )
}
