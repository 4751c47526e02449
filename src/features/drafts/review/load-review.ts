import 'server-only'

import { changeWithoutCosts } from '@/core/store/without-costs'
import { getSettings, priceDigitsOf } from '@/core/store/store'
import { currentInstant } from '@/server/clock'
import { draftImpact, type DraftView } from '@/server/drafts/draft-impact'
import { latestEdits } from '@/server/drafts/draft-rows'
import { verdictsOf } from '@/server/proofs/verdicts'
import { changeWords } from '@/sheet/effect/change-words'
import { formatDay, formatMoment } from '@/ui/format/instant'
import { proofSentence, verdictText } from '@/ui/format/proof-phrases'
import { recordHref } from '@/ui/frame/record-href'
import { failureSentence } from '@/ui/format/draft-phrases'
import { toConflict } from './conflict-view'
import { loadImpact } from '../impact/load-impact'
import { reviewAddress, type ReviewShown } from './review-url'
import type { ReviewView } from './review-view'

const MOST_EDITS = 1_000

/** Everything the review of a draft shows. */
export async function loadReview(view: DraftView, shown: ReviewShown): Promise<ReviewView> {
  const { prepared, draft: viewed, steppe } = view
  const { draft, changes, conflicts, live } = viewed
  const { store } = prepared
  const { timeZone } = getSettings(store)
  const edits = await latestEdits(steppe.database, draft.id, MOST_EDITS)
  const compared = { steppe, before: live.store, after: store, impacts: await draftImpact(view) }
  const impact = await loadImpact(
    compared,
    {
      address: reviewAddress(draft.code),
      names: ['Live', 'Draft'],
      exportHref: `/api/drafts/impact?draft=${encodeURIComponent(draft.code)}`,
    },
    shown,
  )
  return {
    ...impact,
    code: draft.code,
    name: draft.name,
    about: aboutOf(
      changes.length,
      edits.map(({ author }) => author),
      formatDay(draft.at, timeZone),
    ),
    changes: (view.sight?.hidesCosts
      ? changes.flatMap((change) => changeWithoutCosts(change) ?? [])
      : changes
    ).map((change) => changeWords(change, live.store, store)),
    proofs: await proofsOf(view),
    conflicts: conflicts.map((conflict) => {
      const shown = view.sight?.hidesCosts
        ? (changeWithoutCosts(conflict.change) ?? conflict.change)
        : conflict.change
      return toConflict({ ...conflict, change: shown }, live.store, store)
    }),
    planned: draft.publishAt && {
      at: draft.publishAt.toISOString(),
      text: formatMoment(draft.publishAt.getTime(), timeZone),
      reason: draft.reason,
    },
    failure: draft.failure === null ? '' : failureSentence(draft.failure),
    timeZone,
    today: currentInstant().toISOString(),
  }
}

/** What the draft does to the proofs. */
async function proofsOf({ prepared, draft: { live } }: DraftView): Promise<ReviewView['proofs']> {
  const verdicts = await verdictsOf(prepared)
  const before = new Map((await verdictsOf(live)).map(({ proof, state }) => [proof.id, state]))
  return {
    holds: verdicts.filter(({ state }) => state === 'holds').length,
    broken: verdicts
      .filter(({ state }) => state === 'broken' || state === 'empty')
      .map((verdict) => ({
        sentence: proofSentence(verdict.proof, prepared.store),
        href: recordHref('proofs', verdict.proof.code),
        found: verdictText(verdict, (currency) => priceDigitsOf(prepared.store, currency)),
        isBlocking: verdict.proof.isBlocking,
        isBrokenLive: before.get(verdict.proof.id) === verdict.state,
      })),
  }
}

function aboutOf(count: number, authors: readonly string[], since: string): string {
  const by = [...new Set(authors)]
  const who =
    by.length === 0
      ? ''
      : ` by ${by
          .slice(0, 3)
          .join(', ')
          .replace(/, ([^,]*)$/, ' and $1')}`
  return `${count} ${count === 1 ? 'change' : 'changes'}${who} since ${since}`
}
