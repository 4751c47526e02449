import 'server-only'

import { narrowed } from '@/core/engine/context/narrowed'
import { type Doer, sightOf } from '../session/doing'
import type { View } from './view'

/** A view as somebody may see it and change it. Nobody known sees no costs and changes nothing. */
export function viewAs<Looked extends View>(doer: Doer | null, view: Looked): Looked {
  const within = doer?.narrowings.flatMap(({ what }) => what ?? []) ?? []
  const bounded = within.length > 0 ? { ...view, within } : view
  const sight = sightOf(doer)
  if (!sight.hidesCosts && sight.accounts === null) return bounded
  const { prepared, draft } = view
  return {
    ...bounded,
    prepared: narrowed(prepared, sight),
    draft: draft && { ...draft, live: narrowed(draft.live, sight) },
    sight,
  }
}
