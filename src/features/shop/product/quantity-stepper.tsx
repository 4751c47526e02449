'use client'

import { add, compare, type Decimal, decimal, subtract, ZERO } from '@/core/decimal/decimal'
import { isQuantity } from '@/ui/frame/vantage-url'
import { IconMinus, IconPlus } from '@tabler/icons-react'

interface QuantityStepperProps {
  readonly label: string
  readonly typed: string
  /** What one press adds or takes away; one where nothing is sold in multiples. */
  readonly step: string | null
  readonly isWrong: boolean
  readonly large?: boolean
  readonly onType: (typed: string) => void
  /** A press, Enter, or leaving the field: what is typed counts from here on. */
  readonly onDone?: (typed: string) => void
}

/** A quantity, typed or stepped. */
export function QuantityStepper(props: QuantityStepperProps) {
  const { label, typed, step, isWrong, large = false, onType, onDone } = props
  const by = decimal(step ?? '1')
  const now = isQuantity(typed.trim()) ? decimal(typed.trim()) : null
  const press = (next: Decimal) => {
    onType(next)
    onDone?.(next)
  }
  const size = large ? 'h-12 text-lg' : 'h-9'
  const button = `px-3 hover:bg-base-200 disabled:opacity-30 ${large ? 'border-base-300 first:border-r last:border-l' : ''}`
  return (
    <span
      className={`inline-flex w-fit items-stretch rounded-field border bg-lifted ${isWrong ? 'border-2 border-error' : 'border-base-300'} ${size}`}
    >
      <button
        type="button"
        aria-label={`Less of ${label}`}
        className={button}
        disabled={now === null || compare(subtract(now, by), ZERO) <= 0}
        onClick={() => now !== null && press(subtract(now, by))}
      >
        <IconMinus size={16} stroke={1.5} aria-hidden />
      </button>
      <input
        name="quantity"
        inputMode="decimal"
        aria-label={`Quantity of ${label}`}
        aria-invalid={isWrong}
        className={`${large ? 'w-20' : 'w-14'} bg-transparent text-center font-semibold tabular-nums`}
        value={typed}
        onChange={(event) => onType(event.target.value)}
        onBlur={() => onDone?.(typed)}
        onKeyDown={(event) => {
          if (event.key !== 'Enter' || !onDone) return
          event.preventDefault()
          onDone(typed)
        }}
      />
      <button
        type="button"
        aria-label={`More of ${label}`}
        className={button}
        onClick={() => press(now === null ? by : add(now, by))}
      >
        <IconPlus size={16} stroke={1.5} aria-hidden />
      </button>
    </span>
  )
}
