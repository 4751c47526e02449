import 'server-only'

import { and, eq, isNotNull, lte } from 'drizzle-orm'
import { commit } from '../changes/commit'
import type { CommitOutcome, CommitProgress } from '../changes/commit-outcome'
import type { ChangeRequest } from '../changes/weigh'
import { getSettings } from '@/core/store/store'
import { draftChangeSets, drafts } from '../database/schema'
import { findOutOfReach } from '../changes/out-of-reach'
import type { Steppe } from '../engine/steppe'
import { revisionKey } from '../records/record-tables'
import { merchantAddress, queueMail, wakeMails } from '../mails/queue-mail'
import { liveTarget } from '../views/view'
import { inDraft } from './commit-to-draft'
import type { What } from '@/core/predicates/what'
import type { PublishFailure } from '@/core/drafts/publish-failure'
import { type Draft, findDraft } from './draft-rows'
import { isInTheWay } from '@/core/proving/prove'
import { verdictsOf } from '../proofs/verdicts'
import type { DraftView } from './draft-impact'
import { draftView, forgetViews } from './draft-view'

export type PublishOutcome =
  | CommitOutcome
  /** It and what is live changed the same: to be settled first. */
  | { readonly ok: false; readonly code: 'conflicts'; readonly count: number }
  | { readonly ok: false; readonly code: 'past-instant'; readonly now: Date }
  /** Proofs it would break, by name, and nobody gave a reason to override them. */
  | { readonly ok: false; readonly code: 'proofs'; readonly names: readonly string[] }
  /** This store wants a second person, and whoever publishes it worked on it. */
  | { readonly ok: false; readonly code: 'own-work'; readonly author: string }

interface Publication {
  readonly author: string
  /** Why, in the merchant's words; empty where they say nothing. */
  readonly reason: string
  readonly at: Date
  /** Why proofs that break are overridden; left out where none may be. */
  readonly override?: string
  /** Whoever publishes it works with no more than lies within each of these. */
  readonly within?: readonly What[]
}

/** Live may move while a publication is weighed: so often it is weighed again. */
const MOST_TRIES = 10

/** Somebody else published or discarded it at the same moment. */
class Ended extends Error {}

/**
 * Makes everything in a draft live, as one change set of one author, or nothing of it.
 *
 * Holds   a draft is published once, however often that is asked for and whenever the server stops.
 * Errors  as of `commit`; conflicts are to be settled first. What fails stays a draft.
 */
export async function publishDraft(
  steppe: Steppe,
  code: string,
  publication: Publication,
  onProgress: CommitProgress = () => undefined,
): Promise<PublishOutcome> {
  const draft = await findDraft(steppe.database, code)
  if (!draft) return { ok: false, code: 'no-such-draft', draft: code }
  return inDraft(steppe, draft.id, async () => {
    for (let tries = 1; ; tries += 1) {
      const outcome = await tryToPublish(steppe, code, publication, onProgress)
      if (outcome.ok) forgetViews(steppe, draft.id)
      const isPassed = !outcome.ok && outcome.code === 'stale'
      if (!isPassed || tries === MOST_TRIES) return outcome
    }
  })
}

async function tryToPublish(
  steppe: Steppe,
  code: string,
  { author, reason, at, override = '', within = [] }: Publication,
  onProgress: CommitProgress,
): Promise<PublishOutcome> {
  const view = await draftView(steppe, code)
  if (!view?.draft) return { ok: false, code: 'no-such-draft', draft: code }
  const { draft, changes, conflicts, live } = view.draft
  if (conflicts.length > 0) return { ok: false, code: 'conflicts', count: conflicts.length }
  if (await isOwnWork(steppe, draft.id, author)) return { ok: false, code: 'own-work', author }
  const further = findOutOfReach({ within }, changes, live, view.prepared)
  if (further) return further
  // What was merged with an older live must not be written over a newer one.
  if (steppe.prepared !== live) return { ok: false, code: 'stale', conflicts: [] }
  const requests = changes.map(({ kind, id, after }) => ({
    kind,
    id,
    seen: steppe.revisions.get(revisionKey({ kind, id })) ?? null,
    after,
  })) as readonly ChangeRequest[]
  const broken = await brokenBy(view as DraftView)
  if (broken.length > 0 && override === '') return { ok: false, code: 'proofs', names: broken }
  // Proving takes time: live may have moved on.
  if (steppe.prepared !== live) return { ok: false, code: 'stale', conflicts: [] }
  const overridden = broken.length > 0 ? ` (breaks ${broken.join(', ')}: ${override})` : ''
  const note = reason === '' ? `Draft “${draft.name}” published` : `Draft “${draft.name}”: ${reason}`
  try {
    return await commit(
      liveTarget(steppe),
      requests,
      {
        author,
        note: `${note}${overridden}`,
        at,
        alongside: async (transaction, changeSet) => {
          const ended = await transaction
            .update(drafts)
            .set({ state: 'published', publishAt: null, failure: null, changeSet })
            .where(and(eq(drafts.id, draft.id), eq(drafts.state, 'open')))
            .returning({ id: drafts.id })
          if (ended.length === 0) throw new Ended()
        },
      },
      onProgress,
    )
  } catch (error) {
    if (error instanceof Ended) return { ok: false, code: 'no-such-draft', draft: code }
    throw error
  }
}

/** Whether somebody would publish what they changed themselves, in a store in which a second person does. */
async function isOwnWork({ database, prepared }: Steppe, draft: number, author: string): Promise<boolean> {
  if (!prepared || getSettings(prepared.store).publishing !== 'by-two') return false
  const own = await database
    .select({ id: draftChangeSets.id })
    .from(draftChangeSets)
    .where(and(eq(draftChangeSets.draft, draft), eq(draftChangeSets.author, author)))
    .limit(1)
  return own.length > 0
}

/** The names of the proofs a publication would break that stop it: not those that are broken live already. */
async function brokenBy({ prepared, draft: { live } }: DraftView): Promise<readonly string[]> {
  const already = new Set((await verdictsOf(live)).filter(isInTheWay).map(({ proof }) => proof.id))
  return (await verdictsOf(prepared))
    .filter((verdict) => isInTheWay(verdict) && !already.has(verdict.proof.id))
    .map(({ proof }) => proof.name)
}

/**
 * Plans a draft to be published by itself; another plan takes the place of the one before.
 *
 * Errors  `past-instant` for a time that is over, `no-such-draft`.
 */
export async function planDraft(
  steppe: Steppe,
  code: string,
  instant: Date,
  { author, reason, at }: Publication,
): Promise<{ readonly ok: true; readonly draft: Draft } | Exclude<PublishOutcome, { readonly ok: true }>> {
  if (instant.getTime() <= at.getTime()) return { ok: false, code: 'past-instant', now: at }
  const found = await findDraft(steppe.database, code)
  if (found && (await isOwnWork(steppe, found.id, author))) return { ok: false, code: 'own-work', author }
  const draft = await setPlan(steppe, code, {
    publishAt: instant,
    publishAuthor: author,
    reason,
    failure: null,
  })
  return draft ? { ok: true, draft } : { ok: false, code: 'no-such-draft', draft: code }
}

/** Takes the plan of a draft back. Resolves to `null` when there is no such draft. */
export async function unplanDraft(steppe: Steppe, code: string): Promise<Draft | null> {
  return setPlan(steppe, code, { publishAt: null, failure: null })
}

async function setPlan(
  steppe: Steppe,
  code: string,
  plan: Partial<Pick<Draft, 'publishAt' | 'publishAuthor' | 'reason' | 'failure'>>,
): Promise<Draft | null> {
  const draft = await findDraft(steppe.database, code)
  if (!draft) return null
  const [planned] = await steppe.database
    .update(drafts)
    .set(plan)
    .where(and(eq(drafts.id, draft.id), eq(drafts.state, 'open')))
    .returning()
  steppe.sync()
  return planned ?? null
}

/** Later than this after its time, a publication says so. */
const PUNCTUAL = 60_000

/**
 * Publishes every draft whose time has come. One that cannot be published stays a draft, keeps why, and is not tried
 * again by itself.
 */
export async function publishDue(steppe: Steppe, now: Date): Promise<readonly number[]> {
  const due = await steppe.database.query.drafts.findMany({
    where: and(eq(drafts.state, 'open'), isNotNull(drafts.publishAt), lte(drafts.publishAt, now)),
    orderBy: (draft, { asc }) => [asc(draft.publishAt), asc(draft.id)],
  })
  const published: number[] = []
  for (const { code, id, publishAt, publishAuthor, reason } of due) {
    const late = now.getTime() - (publishAt as Date).getTime()
    const excuse =
      late > PUNCTUAL
        ? `due ${(publishAt as Date).toISOString().slice(0, 16)}Z, late because Steppe was not running`
        : ''
    const outcome = await publishDraft(steppe, code, {
      author: publishAuthor,
      reason: [reason, excuse].filter(Boolean).join('; '),
      at: now,
    })
    if (outcome.ok) published.push(outcome.changeSet)
    else if (outcome.code !== 'no-such-draft')
      await keepFailure(steppe, { id, code, due: publishAt as Date, failure: outcome.code }, now)
  }
  return published
}

/** Notes on a draft why it was not published, and tells the merchant by mail: nobody need look for what did not happen. */
async function keepFailure(
  steppe: Steppe,
  {
    id,
    code,
    due,
    failure,
  }: Pick<Draft, 'id' | 'code'> & { readonly due: Date; readonly failure: PublishFailure },
  now: Date,
): Promise<void> {
  await steppe.database.transaction(async (transaction) => {
    const noted = await transaction
      .update(drafts)
      .set({ publishAt: null, failure })
      .where(and(eq(drafts.id, id), eq(drafts.state, 'open'), isNotNull(drafts.publishAt)))
      .returning({ id: drafts.id })
    if (noted.length > 0)
      await queueMail(
        transaction,
        { to: merchantAddress(steppe), account: null, at: now },
        { kind: 'not-published', draft: code, due: due.getTime(), failure },
      )
  })
  steppe.sync()
  wakeMails(steppe)
}

/** The next instant at which a draft is due; `null` where none is planned. */
export async function nextDue(steppe: Steppe): Promise<Date | null> {
  const [next] = await steppe.database
    .select({ at: drafts.publishAt })
    .from(drafts)
    .where(and(eq(drafts.state, 'open'), isNotNull(drafts.publishAt)))
    .orderBy(drafts.publishAt)
    .limit(1)
  return next?.at ?? null
}

/** Ends a draft with nothing of it live. Resolves to whether there was one. */
export async function discardDraft(steppe: Steppe, code: string): Promise<boolean> {
  const draft = await findDraft(steppe.database, code)
  if (!draft) return false
  return inDraft(steppe, draft.id, async () => {
    const ended = await steppe.database
      .update(drafts)
      .set({ state: 'discarded', publishAt: null })
      .where(and(eq(drafts.id, draft.id), eq(drafts.state, 'open')))
      .returning({ id: drafts.id })
    steppe.sync()
    forgetViews(steppe, draft.id)
    return ended.length > 0
  })
}
