import type { PreparedStore } from '../engine/context/prepared-store'
import type { Steps } from '../steps/steps'
import { FINDING_GROUPS, type Finding, type FindingKind, type Looking } from './finding'
import { CONTRACT_FINDINGS, EXEMPTION_FINDINGS, LIST_FINDINGS, PASSCODE_FINDINGS } from './periods'
import { GIFT_FINDINGS } from './gifts'
import { findInPast, type PastFacts } from './past'
import { findPriceFaults, type PriceFindings } from './prices'
import { RATE_FINDINGS, TAX_FINDINGS } from './rates'
import { AUDIENCE_FINDINGS, LINE_FINDINGS, RULE_FINDINGS } from './reach'
import { BREAK_FINDINGS, CLASH_FINDINGS } from './rules'
import { TIE_FINDINGS } from './ties'

const KINDS: readonly FindingKind[] = [
  CONTRACT_FINDINGS,
  LIST_FINDINGS,
  PASSCODE_FINDINGS,
  EXEMPTION_FINDINGS,
  RATE_FINDINGS,
  TAX_FINDINGS,
  AUDIENCE_FINDINGS,
  LINE_FINDINGS,
  RULE_FINDINGS,
  CLASH_FINDINGS,
  BREAK_FINDINGS,
  TIE_FINDINGS,
  GIFT_FINDINGS,
]

/** What was found in a store, kind by kind, so that the next one asks only what an edit touches. */
export interface FoundFindings {
  readonly looking: Looking
  readonly byKind: ReadonlyMap<FindingKind, readonly Finding[]>
  /** What hangs on prices, which nearly every record can move. */
  readonly prices: PriceFindings
  /** What hangs on what has happened; nothing where that is not known. */
  readonly past: readonly Finding[]
}

/**
 * Everything worth a look in a store, worst first. `before` is what was found in another state of it at the same instant:
 * a kind whose records have not changed is not asked again.
 */
export function* findFindings(
  looking: Looking,
  before: FoundFindings | null = null,
  facts: PastFacts | null = null,
): Steps<FoundFindings> {
  const byKind = new Map<FindingKind, readonly Finding[]>()
  for (const kind of KINDS) {
    const known = before?.looking.at === looking.at ? before.byKind.get(kind) : undefined
    const isSame =
      known !== undefined && before !== null && areSame(kind, before.looking.prepared, looking.prepared)
    byKind.set(kind, isSame ? known : yield* kind.find(looking))
  }
  const prices = yield* findPriceFaults(looking, before?.prices ?? null)
  return { looking, byKind, prices, past: facts ? yield* findInPast(looking, facts, prices) : [] }
}

function areSame({ looksAt }: FindingKind, before: PreparedStore, after: PreparedStore): boolean {
  return looksAt.every((kind) => before.store[kind] === after.store[kind])
}

/** All findings, by how bad they are and how many cases they have. */
export function worstFirst({ byKind, prices, past }: FoundFindings): readonly Finding[] {
  return [...prices.findings, ...past, ...[...byKind.values()].flat()].sort(
    (left, right) =>
      FINDING_GROUPS.indexOf(left.group) - FINDING_GROUPS.indexOf(right.group) ||
      right.count - left.count ||
      (left.key < right.key ? -1 : 1),
  )
}
