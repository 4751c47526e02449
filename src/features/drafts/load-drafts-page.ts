import 'server-only'

import type { Sight } from '@/core/engine/context/narrowed'
import { changeWithoutCosts } from '@/core/store/without-costs'
import { inSight } from '@/server/views/view-as'
import { applyChanges, getSettings, reverseChanges } from '@/core/store/store'
import { changeWords } from '@/sheet/effect/change-words'
import { preparedAsOf, readChanges } from '@/server/changes/history'
import { storeHistory } from '@/server/changes/store-history'
import { openDrafts } from '@/server/drafts/draft-rows'
import { viewOf } from '@/server/drafts/draft-view'
import type { Steppe } from '@/server/engine/steppe'
import { liveView, type View } from '@/server/views/view'
import { formatDay, formatMoment } from '@/ui/format/instant'
import { failureSentence } from '@/ui/format/draft-phrases'
import { betweenHref } from '@/ui/frame/between-href'
import { newlyBroken } from './newly-broken'
import type { DraftsPageView, OpenDraftRow } from './drafts-page-view'

const ROWS = 50
const MINUTE = 60_000
/** A change of more records is told by its number alone. */
const MOST_TOLD = 200

/** The open drafts, and what was changed live; `opened` is the number of a change whose parts are told. */
export async function loadDraftsPage(
  steppe: Steppe,
  { opened, before }: { readonly opened: number | null; readonly before: number | null },
  sight?: Sight,
): Promise<DraftsPageView> {
  const live = inSight(liveView(steppe), sight)
  const { timeZone } = getSettings(live.prepared.store)
  const history = await storeHistory(steppe, { before, limit: ROWS })
  const last = history.at(-1)
  return {
    drafts: await Promise.all(
      (await openDrafts(steppe.database)).map((draft) => toRow(steppe, draft, timeZone)),
    ),
    history: await Promise.all(
      history.map(async ({ id, at, author, note, records, undoneBy }) => ({
        id,
        when: formatMoment(at.getTime(), timeZone),
        before: `${new Date(Math.floor(at.getTime() / MINUTE) * MINUTE - MINUTE).toISOString().slice(0, 16)}Z`,
        moved: betweenHref(new Date(at.getTime() - 1), at),
        author,
        note,
        records,
        isUndone: undoneBy !== null,
        isFirst: id === 1,
        changes: id === opened ? await toldChanges(live, id, at) : null,
      })),
    ),
    older: last && last.id > 1 && history.length === ROWS ? last.id : null,
    isFirstPage: before === null,
  }
}

async function toRow(
  steppe: Steppe,
  draft: Awaited<ReturnType<typeof openDrafts>>[number],
  timeZone: string,
): Promise<OpenDraftRow> {
  const view = await viewOf(steppe, draft)
  const { draft: viewed } = view
  return {
    code: draft.code,
    name: draft.name,
    author: draft.author,
    since: formatDay(draft.at, timeZone),
    changes: viewed?.changes.length ?? 0,
    conflicts: viewed?.conflicts.length ?? 0,
    brokenProofs: viewed ? await newlyBroken({ ...view, draft: viewed }) : 0,
    planned: draft.publishAt ? formatMoment(draft.publishAt.getTime(), timeZone) : '',
    failure: draft.failure === null ? '' : failureSentence(draft.failure),
  }
}

/** What a change did, with names as they were when it was made. */
async function toldChanges(live: View, id: number, at: Date) {
  const changes = await readChanges(live, id)
  const { store: after } = await preparedAsOf(live.steppe, at)
  const before = applyChanges(after, reverseChanges(changes))
  const shown = live.sight?.hidesCosts
    ? changes.flatMap((change) => changeWithoutCosts(change) ?? [])
    : changes
  return shown.slice(0, MOST_TOLD).map((change) => changeWords(change, before, after))
}
