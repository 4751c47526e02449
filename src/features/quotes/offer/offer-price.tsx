'use client'

import { toFixed } from '@/core/decimal/decimal'
import { formatAmount } from '@/ui/format/amount'
import { type KeyboardEvent, useEffect, useRef, useState } from 'react'
import type { LineFigures } from './offer-view'

interface OfferPriceProps {
  readonly at: number
  readonly typed: string
  readonly known: LineFigures | null
  readonly digits: number
  readonly isSettled: boolean
  readonly onType: (price: string) => void
  readonly onKey: (event: KeyboardEvent) => void
}

/** A price as it is typed, an amount, a percentage or a margin, with what it comes to beside it. */
export function OfferPrice({ at, typed, known, digits, isSettled, onType, onKey }: OfferPriceProps) {
  const [isHere, setHere] = useState(false)
  const wasHere = useRef(false)
  const price = known?.price ?? null
  const amount = price === null ? null : toFixed(price, digits)
  const isFormula = !/^[\d.,\s]*$/.test(typed)
  useEffect(() => {
    if (isHere || !wasHere.current || !isSettled) return
    wasHere.current = false
    // What a formula came to is what is offered: it does not move when their own price does.
    if (amount !== null && typed.trim() !== '' && typed !== amount) onType(amount)
  }, [isHere, isSettled, amount, typed, onType])
  return (
    <span className="relative inline-block">
      <input
        data-row={at}
        data-field="price"
        aria-label={`Offered price of line ${at + 1}`}
        aria-invalid={known !== null && known.problem !== ''}
        autoComplete="off"
        className={`rounded-field border border-base-300 bg-lifted px-2 py-0.5 font-semibold aria-[invalid=true]:border-error ${isHere && isFormula ? 'w-28 pr-16 text-left' : 'w-20 text-right'}`}
        placeholder={known?.their ? formatAmount(known.their, digits) : 'price'}
        value={typed}
        onFocus={(event) => {
          event.currentTarget.select()
          setHere(true)
        }}
        onBlur={() => {
          wasHere.current = true
          setHere(false)
        }}
        onChange={(event) => onType(event.target.value)}
        onKeyDown={onKey}
      />
      {isHere && isFormula && price !== null && isSettled && (
        <span
          className="pointer-events-none absolute inset-y-0 right-2 flex items-center text-soft"
          aria-live="polite"
        >
          = {formatAmount(price, digits)}
        </span>
      )}
    </span>
  )
}
