'use client'

import { useActionState } from 'react'
import { quickOrder, type QuickOrdered } from './cart-actions'

/** A list of SKUs and quantities, put into the cart at once. */
export function QuickOrderForm() {
  const [state, order, isBusy] = useActionState<QuickOrdered, FormData>(quickOrder, { taken: 0, left: [] })
  return (
    <form action={order} className="max-w-lg">
      <h1 className="pb-2 text-3xl leading-9 font-bold tracking-tight">Quick order</h1>
      <label className="block">
        <span className="text-base">One line an article: its SKU and how many.</span>
        <textarea
          key={state.left.join('\n')}
          name="list"
          rows={10}
          required
          defaultValue={state.left.join('\n')}
          placeholder={'FR-BR-PF 20\nSM-CL 2'}
          className="mt-2 w-full border border-base-300 bg-lifted px-3 py-2 font-mono"
        />
      </label>
      {state.left.length > 0 && (
        <p role="alert" className="pt-2 text-error">
          {state.taken > 0 && `${state.taken} ${state.taken === 1 ? 'is' : 'are'} in the cart. `}
          Nothing that can be bought was found for the lines still above.
        </p>
      )}
      <button type="submit" className="btn mt-4 btn-primary" disabled={isBusy}>
        Put into the cart
      </button>
    </form>
  )
}
