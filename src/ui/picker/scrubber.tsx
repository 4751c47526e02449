'use client'

import { IconArrowsHorizontal } from '@tabler/icons-react'
import { type KeyboardEvent, type PointerEvent, useEffect, useRef, useState } from 'react'

interface ScrubberProps {
  /** What is scrubbed, for people who cannot see it. */
  readonly label: string
  /** How it is used, shown when pointed at. */
  readonly hint: string
  readonly value: number
  readonly valueText: string
  readonly min: number
  readonly max: number
  /** While it moves; `null` when it was released where it began. */
  readonly onScrub: (value: number | null) => void
  /** Released elsewhere, or idle after keys. */
  readonly onSettle: (value: number) => void
}

const PIXELS_A_STEP = 5
/** How long the keyboard must rest before the value counts, in milliseconds. */
const REST = 500
const LARGE_STEP = 10

const KEYS: Readonly<Record<string, number>> = {
  ArrowRight: 1,
  ArrowUp: 1,
  ArrowLeft: -1,
  ArrowDown: -1,
  PageUp: LARGE_STEP,
  PageDown: -LARGE_STEP,
}

/** A handle beside a figure: dragging it, or arrow keys, move through values, and what is looked at follows. */
export function Scrubber(props: ScrubberProps) {
  const { label, hint, value, valueText, min, max, onScrub, onSettle } = props
  const [moving, setMoving] = useState<number | null>(null)
  const start = useRef({ x: 0, value })
  const settling = useRef<ReturnType<typeof setTimeout> | undefined>(undefined)
  useEffect(() => () => clearTimeout(settling.current), [])
  const within = (wanted: number) => Math.min(max, Math.max(min, wanted))

  function move(wanted: number): void {
    const next = within(wanted)
    if (next === moving) return
    setMoving(next)
    onScrub(next)
  }

  function settle(at: number | null): void {
    clearTimeout(settling.current)
    setMoving(null)
    if (at === value) onScrub(null)
    else if (at !== null) onSettle(at)
  }

  function onPointerDown(event: PointerEvent): void {
    event.currentTarget.setPointerCapture(event.pointerId)
    start.current = { x: event.clientX, value: moving ?? value }
  }

  function onPointerMove(event: PointerEvent): void {
    if (!event.currentTarget.hasPointerCapture(event.pointerId)) return
    const steps = Math.round((event.clientX - start.current.x) / PIXELS_A_STEP)
    move(start.current.value + steps * (event.shiftKey ? LARGE_STEP : 1))
  }

  function onKeyDown(event: KeyboardEvent): void {
    if (event.key === 'Enter') return settle(moving)
    const step = KEYS[event.key]
    if (step === undefined) return
    event.preventDefault()
    const next = within((moving ?? value) + step * (event.shiftKey ? LARGE_STEP : 1))
    move(next)
    clearTimeout(settling.current)
    settling.current = setTimeout(() => settle(next), REST)
  }

  return (
    <span
      role="slider"
      tabIndex={0}
      aria-label={label}
      aria-valuemin={min}
      aria-valuemax={max}
      aria-valuenow={moving ?? value}
      aria-valuetext={valueText}
      title={hint}
      className="-ml-1 cursor-ew-resize touch-none self-center text-soft hover:text-base-content"
      onPointerDown={onPointerDown}
      onPointerMove={onPointerMove}
      onPointerUp={() => settle(moving)}
      onPointerCancel={() => settle(moving)}
      onKeyDown={onKeyDown}
      onBlur={() => settle(moving)}
    >
      <IconArrowsHorizontal size={13} stroke={1.75} aria-hidden />
    </span>
  )
}
