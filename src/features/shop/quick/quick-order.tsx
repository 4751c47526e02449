'use client'

import { formatMoney } from '@/ui/format/amount'
import Link from 'next/link'
import { useState, useTransition } from 'react'
import { askHref } from '../quotes/ask-href'
import { addRows } from './quick-actions'
import { isEmpty, withNext } from './quick-rows'
import { QuickRowsTable } from './quick-rows-table'
import type { ResolvedOrder } from './resolved'
import { RowsFile } from './rows-file'
import { useQuickRows } from './use-quick-rows'

/** SKUs and quantities, typed, pasted or out of a file: each is looked up as it is typed, and what is ready goes into the cart. */
export function QuickOrder({ first }: { readonly first: ResolvedOrder }) {
  const [told, setTold] = useState('')
  const [isAdding, add] = useTransition()
  const quick = useQuickRows(first, 'order', { onChange: () => setTold('') })
  const { rows, setRows, order, isSettled, isOff, problem, setProblem } = quick

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
      <QuickRowsTable quick={quick} label="Quick order" />
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
          <RowsFile onFile={quick.onFile} />
          {order.mayAsk && (
            <Link href={askHref(rows.filter((row) => !isEmpty(row)))} className="block pt-2 shop-link">
              Ask for a quote on these
            </Link>
          )}
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
