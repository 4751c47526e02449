'use client'

import { useActionState } from 'react'
import { quickOrder, type QuickOrdered } from './cart-actions'

/** A list of SKUs and quantities, added to the cart at once. */
export function QuickOrderForm() {
  const [state, order, isBusy] = useActionState<QuickOrdered, FormData>(quickOrder, { taken: 0, left: [] })
  const leftText = state.left.map(({ text }) => text).join('\n')
  return (
    <form action={order} className="max-w-lg">
      <h1 className="pb-2 text-3xl leading-9 font-bold tracking-tight">Quick order</h1>
      <label className="block">
        <span className="text-base">Enter or paste one item per line: its SKU and the quantity.</span>
        <textarea
          key={leftText}
          name="list"
          rows={10}
          required
          defaultValue={leftText}
          placeholder={'FR-BR-PF 20\nSM-CL 2'}
          aria-invalid={state.left.length > 0}
          className="mt-2 w-full border border-base-300 bg-lifted px-3 py-2 font-mono aria-[invalid=true]:border-error"
        />
      </label>
      {state.left.length > 0 && (
        <div role="alert" className="pt-2">
          {state.taken > 0 && (
            <p>
              {state.taken} {state.taken === 1 ? 'item is' : 'items are'} in the cart. These lines are not:
            </p>
          )}
          <ul className="text-error">
            {state.left.map(({ text, problem }, at) => (
              <li key={`${at} ${text}`}>
                <span className="font-mono">{text}</span>: {problem}
              </li>
            ))}
          </ul>
        </div>
      )}
      <button type="submit" className="btn mt-4 btn-primary" disabled={isBusy}>
        Add to cart
      </button>
    </form>
  )
}
