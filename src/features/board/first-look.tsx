'use client'

import { useSyncExternalStore } from 'react'

const SEEN = 'steppe-first-look'

const HINTS: readonly { readonly title: string; readonly text: string }[] = [
  {
    title: 'Every column is a buyer.',
    text: 'Click any price to read why it is what it is.',
  },
  {
    title: 'Change a base price.',
    text: 'Pick a cell under Base, type +5%, press Enter: what follows it moves.',
  },
  {
    title: 'You always look from somewhere.',
    text: 'Click Guest above and pick Fennmoor Honey Farm.',
  },
  {
    title: 'Then see it as they do.',
    text: 'Shop window, on the left, opens the shop with the same eyes.',
  },
]

const listeners = new Set<() => void>()

function subscribe(listener: () => void): () => void {
  listeners.add(listener)
  return () => listeners.delete(listener)
}

function go(next: number): void {
  localStorage.setItem(SEEN, String(next))
  for (const listener of listeners) listener()
}

/** Four hints for the first minute, one at a time; gone for good once dismissed. */
export function FirstLook() {
  const step = useSyncExternalStore(
    subscribe,
    () => Number(localStorage.getItem(SEEN) ?? '0'),
    () => HINTS.length,
  )
  const hint = HINTS[step]
  if (!hint) return null
  return (
    <aside
      aria-label="First look"
      className="mx-6 mb-1 flex items-baseline gap-2 bg-warning px-3 py-1 text-warning-content"
    >
      <span className="font-semibold">{hint.title}</span>
      <span className="min-w-0 flex-1">{hint.text}</span>
      <button
        type="button"
        className="shrink-0 font-semibold underline underline-offset-2"
        onClick={() => go(step + 1)}
      >
        {step + 1 < HINTS.length ? `Next (${step + 1} of ${HINTS.length})` : 'Done'}
      </button>
      <button
        type="button"
        className="shrink-0 underline underline-offset-2"
        onClick={() => go(HINTS.length)}
      >
        Dismiss
      </button>
    </aside>
  )
}
