'use client'

import { useEffect, useState } from 'react'

const SEEN = 'steppe-first-look'

const HINTS: readonly { readonly title: string; readonly text: string }[] = [
  {
    title: 'Every column is a buyer.',
    text: 'Each price is what that buyer pays right now. Click one to read why, in the panel on the right.',
  },
  {
    title: 'Change a base price.',
    text: 'Choose a cell under Base, type +5% and press Enter: the columns that follow it move, the fixed ones stay.',
  },
  {
    title: 'You always look from somewhere.',
    text: 'Click Guest in the sentence on top and pick Fennmoor Honey Farm: their agreed prices get a column.',
  },
  {
    title: 'Then see it as they do.',
    text: 'Shop window on the left opens the shop with the same eyes and the same prices.',
  },
]

/** Four hints for the first minute, one at a time; gone for good once dismissed. */
export function FirstLook() {
  const [step, setStep] = useState<number | null>(null)
  useEffect(() => {
    const seen = Number(localStorage.getItem(SEEN) ?? '0')
    setStep(seen < HINTS.length ? seen : null)
  }, [])
  const hint = step === null ? undefined : HINTS[step]
  if (!hint || step === null) return null

  function go(next: number): void {
    localStorage.setItem(SEEN, String(next))
    setStep(next < HINTS.length ? next : null)
  }
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
