'use client'

import { useState } from 'react'
import { useFrame, useFresh } from './frame-context'

/** What a sheet's edit came to: what the sheet shows now, or what was wrong. */
export type SheetOutcome<View> =
  { readonly ok: true; readonly view: View } | { readonly ok: false; readonly problem: string }

/** A sheet that shows what its last edit answered. `take` makes an edit and resolves to what is wrong, or `null`. */
export function useSheet<View extends { readonly asOf: number }>(initial: View) {
  const [view, setView] = useState(initial)
  const { pricesChanged } = useFrame()
  useFresh(initial.asOf)

  async function take(act: () => Promise<SheetOutcome<View>>): Promise<string | null> {
    try {
      const outcome = await act()
      if (!outcome.ok) return outcome.problem
      setView(outcome.view)
      pricesChanged(outcome.view.asOf)
      return null
    } catch {
      return 'The server did not answer. Nothing was changed; try again.'
    }
  }
  return { view, take }
}
