import 'server-only'

import { hideCosts } from '@/core/engine/context/hide-costs'
import type { Doer } from '../session/doer'
import type { View } from './view'

/** A view as somebody may see it and change it. Nobody known sees no costs and changes nothing. */
export function viewAs<Looked extends View>(doer: Doer | null, view: Looked): Looked {
  const within = doer?.narrowings.flatMap(({ what }) => what ?? []) ?? []
  const narrowed = within.length > 0 ? { ...view, within } : view
  if (doer?.permissions.has('costs:see')) return narrowed
  const { prepared, draft } = view
  return {
    ...narrowed,
    prepared: hideCosts(prepared),
    draft: draft && { ...draft, live: hideCosts(draft.live) },
    hidesCosts: true,
  }
}
