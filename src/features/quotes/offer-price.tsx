'use client'

import { formatAmount } from '@/ui/format/amount'
import { type KeyboardEvent, useState } from 'react'
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
  const price = known?.price ?? null
  const isFormula = !/^[\d.,\s]*$/.test(typed)
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
        value={isHere || price === null ? typed : typed.trim() === '' ? '' : formatAmount(price, digits)}
        onFocus={(event) => {
          setHere(true)
          const field = event.currentTarget
          requestAnimationFrame(() => field.select())
        }}
        onBlur={() => {
          setHere(false)
          // What a formula came to is what is offered: it does not move when their own price does.
          if (isFormula && isSettled && price !== null) onType(price)
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
