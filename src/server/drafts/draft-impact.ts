import 'server-only'

import type { ClassImpact } from '@/core/impact/class-impact'
import { findImpact } from '@/core/impact/impact'
import { currentInstant } from '../clock'
import { Slices } from '../doors/slices'
import { Remembered } from '../engine/remembered'
import type { View, ViewedDraft } from '../views/view'

export type DraftView = View & { readonly draft: ViewedDraft }

/** Kept as long as neither the draft nor what is live changes, and for an hour: prices come and go by the clock, too. */
const IMPACTS = new Remembered<readonly ClassImpact[]>('draft-impacts')
const HOUR = 3_600_000

/** What a draft changes for whom, beside what is live. */
export function draftImpact({
  prepared,
  draft: { live, changes },
}: DraftView): Promise<readonly ClassImpact[]> {
  const at = currentInstant().getTime()
  return IMPACTS.of({ prepared }, String(Math.floor(at / HOUR)), () =>
    new Slices().run(findImpact({ before: live, after: prepared, at, channel: null }, changes)),
  )
}
