'use client'

import { useState } from 'react'

/** Keeping what is in a picker: whether the server is being asked, and what it found wrong. */
export function useDone(onDone: (text: string) => Promise<string | null>) {
  const [problem, setProblem] = useState<string | null>(null)
  const [isBusy, setBusy] = useState(false)
  async function done(text: string): Promise<void> {
    setBusy(true)
    setProblem(null)
    try {
      setProblem(await onDone(text))
    } catch {
      setProblem('The server did not answer. Nothing was changed; try again.')
    }
    setBusy(false)
  }
  return { problem, setProblem, isBusy, done }
}
