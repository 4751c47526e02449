'use client'

import { useRef, useState } from 'react'
import { changeLine } from './cart-actions'
import type { CartLineView } from './cart-view'
import { QuantityStepper } from '../product/quantity-stepper'

/** The quantity of a line of the cart: every change counts at once. */
export function CartLineQuantity({
  line,
  isWrong,
}: {
  readonly line: CartLineView
  readonly isWrong: boolean
}) {
  const form = useRef<HTMLFormElement>(null)
  const [typed, setTyped] = useState(line.quantity)
  const done = (next: string) => {
    if (next.trim() === line.quantity) return
    // The field must hold what is sent.
    setTimeout(() => form.current?.requestSubmit())
  }
  return (
    <form ref={form} action={changeLine}>
      <input type="hidden" name="line" value={line.position} />
      <input type="hidden" name="sku" value={line.sku} />
      {line.values ? (
        <select
          name="quantity"
          aria-label={`Quantity of ${line.name}`}
          className="h-9 rounded-field border border-base-300 bg-lifted px-2 font-semibold"
          value={typed}
          onChange={(event) => {
            setTyped(event.target.value)
            done(event.target.value)
          }}
        >
          {!line.values.some(({ quantity }) => quantity === typed) && <option>{typed}</option>}
          {line.values.map(({ quantity, label }) => (
            <option key={quantity} value={quantity}>
              {label || quantity}
            </option>
          ))}
        </select>
      ) : (
        <QuantityStepper
          label={line.name}
          typed={typed}
          step={line.step}
          isWrong={isWrong}
          onType={setTyped}
          onDone={done}
        />
      )}
      <noscript>
        <button type="submit">Change</button>
      </noscript>
    </form>
  )
}
