import 'server-only'

import { inSight } from '@/server/views/view-as'
import { summarize } from '@/core/impact/summary'
import { getSettings } from '@/core/store/store'
import { draftImpact, type DraftView } from '@/server/drafts/draft-impact'
import { viewOf } from '@/server/drafts/draft-view'
import { openDrafts } from '@/server/drafts/draft-rows'
import type { RequestContext } from '@/server/engine/request-context'
import { formatMoment } from '@/ui/format/instant'
import type { DraftFigures, DraftsView } from '@/ui/frame/drafts-view'
import { failureSentence } from '@/ui/format/draft-phrases'
import { newlyBroken } from './newly-broken'

/** What the frame shows of drafts: which there are, and the one at hand in figures. */
export async function loadDrafts({ view, steppe, live }: RequestContext): Promise<DraftsView> {
  const drafts = await openDrafts(steppe.database)
  const latest = drafts.at(-1)
  const shown = view.draft ? view : latest ? inSight(await viewOf(steppe, latest), view.sight) : null
  return {
    drafts: drafts.map(({ code, name }) => ({ code, name })),
    current: shown?.draft ? await figuresOf(shown as DraftView) : null,
    missing: view.missing,
    isPast: !live,
  }
}

async function figuresOf(view: DraftView): Promise<DraftFigures> {
  const { draft, changes, conflicts, live } = view.draft
  const { timeZone } = getSettings(live.store)
  const impact = summarize(await draftImpact(view))
  return {
    code: draft.code,
    name: draft.name,
    changes: changes.length,
    moved: impact.moved,
    marginBefore: impact.marginBefore,
    marginAfter: impact.marginAfter,
    belowCost: impact.newlyBelowCost,
    conflicts: conflicts.length,
    brokenProofs: await newlyBroken(view),
    planned: draft.publishAt ? formatMoment(draft.publishAt.getTime(), timeZone) : '',
    failure: draft.failure === null ? '' : failureSentence(draft.failure),
  }
}
