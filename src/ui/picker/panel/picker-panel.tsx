'use client'

import type { ReactNode } from 'react'
import { pickerKeys } from './picker-keys'
import { PickerFoot } from './picker-parts'

interface PickerPanelProps {
  readonly label: string
  readonly children: ReactNode
  /** What it comes to, live. */
  readonly foot: ReactNode
  readonly problem: string | null
  readonly isBusy: boolean
  /** What the keys do here, where it is not choosing in columns. */
  readonly keys?: ReactNode
  readonly onDone: () => void
  /** What the button does, where that is more than Enter: it ends the choosing, with what is still typed. */
  readonly onEnd?: () => void
  readonly onCancel: () => void
  /** `null` where there is nothing to remove one by one. */
  readonly onRemoveLast?: (() => void) | null
}

/** A picker unrolled across the sheet: what is chosen from, with what it comes to and the ways out at its foot. */
export function PickerPanel({
  label,
  children,
  foot,
  problem,
  isBusy,
  keys,
  onDone,
  onEnd = onDone,
  onCancel,
  onRemoveLast = null,
}: PickerPanelProps) {
  return (
    <section
      aria-label={label}
      className="@container/picker border-y-2 border-secondary bg-base-100"
      onKeyDown={pickerKeys({ onDone, onCancel, onRemoveLast })}
    >
      {children}
      <PickerFoot problem={problem} isBusy={isBusy} keys={keys} onDone={onEnd} onCancel={onCancel}>
        {foot}
      </PickerFoot>
    </section>
  )
}
