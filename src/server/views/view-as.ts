import 'server-only'

import { narrowed, type Sight } from '@/core/engine/context/narrowed'
import { type Doer, sightOf } from '../session/doing'
import type { View } from './view'

/** A view as somebody may see it and change it. Nobody known sees no costs and changes nothing. */
export function viewAs<Looked extends View>(doer: Doer | null, view: Looked): Looked {
  const within = doer?.narrowings.flatMap(({ what }) => what ?? []) ?? []
  return inSight(within.length > 0 ? { ...view, within } : view, sightOf(doer))
}

/** A view with no more in it than whoever looks is shown; everything without a sight. */
export function inSight<Looked extends View>(view: Looked, sight: Sight | undefined): Looked {
  if (!sight || (!sight.hidesCosts && sight.accounts === null)) return view
  const { prepared, draft } = view
  return {
    ...view,
    prepared: narrowed(prepared, sight),
    draft: draft && { ...draft, live: narrowed(draft.live, sight) },
    sight,
  }
}
