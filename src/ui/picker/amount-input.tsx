'use client'

import { typedAmount } from '@/core/decimal/written-amount'
import { useState } from 'react'

interface AmountInputProps {
  readonly label: string
  /** A plain decimal; empty for none. */
  readonly value: string
  readonly onChange: (amount: string) => void
  /** Emptied; left out where there must be an amount. */
  readonly onClear?: () => void
  /** What holds while none is given. */
  readonly placeholder?: string
}

/** A figure that is being typed stands as it is typed, and counts as soon as it is a number. */
export function AmountInput({ label, value, onChange, onClear, placeholder }: AmountInputProps) {
  const [typed, setTyped] = useState<string | null>(null)
  return (
    <input
      inputMode="decimal"
      aria-label={label}
      placeholder={placeholder}
      className="w-24 max-w-full border border-base-300 bg-lifted px-2 py-0.5 text-right"
      value={typed ?? value.replace('-', '−')}
      onChange={(event) => {
        setTyped(event.target.value)
        const plain = typedAmount(event.target.value)
        if (plain === '') onClear?.()
        else if (/^-?\d+(\.\d+)?$/.test(plain)) onChange(plain)
      }}
      onBlur={() => setTyped(null)}
    />
  )
}
