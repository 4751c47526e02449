'use client'

import { NO_ANSWER } from '@/ui/format/no-answer'
import { useState } from 'react'

/** Keeping what is in a picker: whether the server is being asked, and what it found wrong. */
export function useDone<Chosen extends readonly unknown[]>(
  onDone: (...chosen: Chosen) => Promise<string | null>,
) {
  const [problem, setProblem] = useState<string | null>(null)
  const [isBusy, setBusy] = useState(false)
  async function done(...chosen: Chosen): Promise<void> {
    setBusy(true)
    setProblem(null)
    try {
      setProblem(await onDone(...chosen))
    } catch {
      setProblem(NO_ANSWER)
    }
    setBusy(false)
  }
  return { problem, setProblem, isBusy, done }
}
