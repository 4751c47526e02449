'use client'

import { NO_ANSWER } from '@/ui/format/no-answer'
import { useRef, useState } from 'react'
import { useFrame, useFresh } from './frame-context'

/** What a sheet's edit came to: what the sheet shows now, or what was wrong. */
export type SheetOutcome<View> =
  { readonly ok: true; readonly view: View } | { readonly ok: false; readonly problem: string }

/**
 * A sheet that shows what its last edit answered. `take` makes an edit of what the sheet shows by then and resolves to what
 * is wrong, or `null`: edits made quickly go one after the other, so that nobody is refused because of their own.
 */
export function useSheet<View extends { readonly asOf: number }>(initial: View) {
  const [view, setView] = useState(initial)
  const latest = useRef(initial)
  const before = useRef<Promise<unknown>>(Promise.resolve())
  const { pricesChanged } = useFrame()
  useFresh(initial.asOf)

  async function takeNow(act: (view: View) => Promise<SheetOutcome<View>>): Promise<string | null> {
    try {
      const outcome = await act(newerOf(latest.current, initial))
      if (!outcome.ok) return outcome.problem
      latest.current = outcome.view
      setView(outcome.view)
      pricesChanged(outcome.view.asOf)
      return null
    } catch {
      return NO_ANSWER
    }
  }

  function take(act: (view: View) => Promise<SheetOutcome<View>>): Promise<string | null> {
    const turn = before.current.then(() => takeNow(act))
    before.current = turn
    return turn
  }
  return { view: newerOf(view, initial), take }
}

/** What the page was read with, or what an edit answered since: whichever came later. */
function newerOf<View extends { readonly asOf: number }>(answered: View, read: View): View {
  return read.asOf > answered.asOf ? read : answered
}
