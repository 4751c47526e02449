'use client'

import { NO_ANSWER } from '@/ui/format/no-answer'
import { useState, useTransition } from 'react'
import { toast } from 'sonner'
import type { StaffOutcome } from './staff-actions'

type Refused = Extract<StaffOutcome, { readonly ok: false }>

/** One action at a time: what is wrong with it stays until the next, and what was done is told. */
export function useStaffAction() {
  const [refused, setRefused] = useState<Refused | null>(null)
  const [isBusy, start] = useTransition()
  const run = (act: () => Promise<StaffOutcome>, told: string, after?: (open: string | undefined) => void) =>
    start(async () => {
      const outcome = await act().catch((): StaffOutcome => ({ ok: false, problem: NO_ANSWER }))
      setRefused(outcome.ok ? null : outcome)
      if (!outcome.ok) return
      toast(told)
      after?.(outcome.open)
    })
  return { refused, isBusy, run }
}
