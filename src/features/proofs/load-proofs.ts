import 'server-only'

import type { ClaimKind } from '@/core/proofs/proof'
import { isInTheWay, type Verdict } from '@/core/proving/prove'
import { getSettings, priceDigitsOf } from '@/core/store/store'
import { latestRuns } from '@/server/proofs/proof-runs'
import { formatDay } from '@/ui/format/instant'
import { verdictsOf } from '@/server/proofs/verdicts'
import type { RequestContext } from '@/server/engine/request-context'
import { proofSentence, verdictText } from '@/ui/format/proof-phrases'
import { recordHref } from '@/ui/frame/record-href'
import { type BrokenRow, brokenRows } from './broken-rows'

export interface VerdictView {
  readonly state: Verdict['state']
  readonly text: string
}

export interface ProofRow {
  readonly id: string
  readonly href: string
  readonly sentence: string
  readonly about: string
  /** Since when it holds, or is broken, live; empty where nobody has asked before. */
  readonly since: string
  readonly live: VerdictView
  /** `null` where no draft is looked through. */
  readonly draft: VerdictView | null
  /** Where it does not hold, in what is looked through; the first few. */
  readonly broken: readonly BrokenRow[]
}

export interface ProofsView {
  readonly groups: readonly { readonly title: string; readonly rows: readonly ProofRow[] }[]
  readonly counts: { readonly holds: number; readonly broken: number }
  readonly draftCounts: { readonly name: string; readonly holds: number; readonly broken: number } | null
  readonly checked: number
  readonly live: boolean
}

const GROUPS: readonly (readonly [title: string, claims: readonly ClaimKind[]])[] = [
  [
    'Agreed prices',
    [
      'price-is',
      'price-at-most',
      'price-at-least',
      'promoted-at-most',
      'off-base-at-least',
      'not-above-public',
    ],
  ],
  ['Who sees what', ['never-seen', 'price-never-seen', 'never-bought', 'always-seen', 'always-bought']],
  ['Margins', ['margin-at-least', 'average-margin-at-least']],
  ['Limits and tax', ['least-is', 'most-is', 'multiple-is', 'tax-is']],
]
const MOST_BROKEN = 3

/** Every proof, and whether it holds live and in the draft that is looked through. */
export async function loadProofs({ view, live, steppe }: RequestContext): Promise<ProofsView> {
  const since = new Map((await latestRuns(steppe)).map(({ proof, at, state }) => [proof, { at, state }]))
  const { prepared, draft } = view
  const shown = await verdictsOf(prepared)
  const beside = draft ? new Map((await verdictsOf(draft.live)).map((each) => [each.proof.id, each])) : null
  const rows = shown
    .filter(({ proof }) => proof.status === 'active')
    .map((verdict) => [verdict.proof.claim, toRow(verdict)] as const)
  function toRow(verdict: Verdict): ProofRow {
    const { proof } = verdict
    const was = beside ? beside.get(proof.id) : verdict
    return {
      id: proof.id,
      href: recordHref('proofs', proof.code),
      sentence: proofSentence(proof, prepared.store),
      about: [proof.reason, proof.isBlocking ? '' : 'only warns'].filter(Boolean).join(' · '),
      since: sinceText(verdict.proof.id, was?.state),
      live: was ? toView(was) : { state: 'idle', text: 'not there yet' },
      draft: beside ? toView(verdict) : null,
      broken: brokenRows(prepared, verdict).slice(0, MOST_BROKEN),
    }
  }
  function sinceText(proof: string, state: Verdict['state'] | undefined): string {
    const run = since.get(proof)
    const { timeZone } = getSettings(prepared.store)
    return run && run.state === state ? formatDay(run.at, timeZone) : ''
  }
  function toView(verdict: Verdict): VerdictView {
    return {
      state: verdict.state,
      text: verdictText(verdict, (currency) => priceDigitsOf(prepared.store, currency)),
    }
  }
  const liveVerdicts = beside ? [...beside.values()] : shown
  return {
    groups: GROUPS.map(([title, claims]) => ({
      title,
      rows: rows.filter(([claim]) => claims.includes(claim)).map(([, row]) => row),
    })).filter((group) => group.rows.length > 0),
    counts: countsOf(liveVerdicts),
    draftCounts: draft ? { name: draft.draft.name, ...countsOf(shown) } : null,
    checked: shown.reduce((sum, { checked }) => sum + checked, 0),
    live,
  }
}

function countsOf(verdicts: readonly Verdict[]) {
  return {
    holds: verdicts.filter(({ state }) => state === 'holds').length,
    broken: verdicts.filter((each) => each.state === 'broken' || isInTheWay(each)).length,
  }
}
