import type { BuyerReference } from '../buyers/buyer'
import type { Decimal } from '../decimal/decimal'
import type { PreparedStore } from '../engine/context/prepared-store'
import type { RecordKind } from '../issue/issue'
import type { Steps } from '../steps/steps'
import type { Change } from '../store/store'

/** What is worth a merchant's attention, worst first. */
export const FINDING_GROUPS = ['loses-money', 'wrong-for-buyers', 'soon', 'untidy'] as const
export type FindingGroup = (typeof FINDING_GROUPS)[number]

/** A record that is the reason, or is concerned. */
export interface FindingRecord {
  readonly kind: RecordKind
  readonly id: string
}

/** One case of a finding: a price, a record. */
export interface FindingCase {
  /** Id of the variant, where it is about one. */
  readonly variant: string | null
  /** Whom it is about; `null` where it is about nobody in particular. */
  readonly buyer: { readonly kind: 'guest' | 'group' | 'account'; readonly id: string } | null
  /** Amounts the sentence needs, in the currency named. */
  readonly amounts: Readonly<Record<string, Decimal>>
  readonly currency: string
  /** What puts it right; empty where a person has to decide. */
  readonly fix: readonly Change[]
}

/** Something that is probably not as the merchant wants it, with its cause. */
export interface Finding {
  readonly code: FindingCode
  readonly group: FindingGroup
  /** The same as long as it is the same finding: what a mute is kept under. */
  readonly key: string
  readonly cause: FindingRecord
  /** How many cases there are. */
  readonly count: number
  /** Of very many only the first. */
  readonly cases: readonly FindingCase[]
  /** Whether any of them can be put right at once. */
  readonly isFixable: boolean
  /** Days, dates, names: whatever the sentence needs beside the cases. */
  readonly facts: Readonly<Record<string, string>>
}

export type FindingCode =
  | 'below-cost'
  | 'above-public'
  | 'break-gap'
  | 'no-price'
  | 'contract-ends'
  | 'contract-ended'
  | 'list-over'
  | 'passcode-over'
  | 'exemption-over'
  | 'stale-rate'
  | 'no-exchange-rate'
  | 'rate-leaps'
  | 'rate-missing'
  | 'rate-late'
  | 'no-tax-rate'
  | 'only-listed'
  | 'list-reaches-nobody'
  | 'line-reaches-nothing'
  | 'rule-reaches-nothing'
  | 'promotions-clash'
  | 'ending-missed'
  | 'lists-tie'
  | 'gift-hidden'
  | 'unsold-at-loss'
  | 'struck-unlawful'

/** Whether a finding tells what something costs. */
export function isAboutCosts(code: FindingCode): boolean {
  return code === 'below-cost' || code === 'unsold-at-loss'
}

/** What a kind of finding is asked with. */
export interface Looking {
  readonly prepared: PreparedStore
  /** Epoch milliseconds. */
  readonly at: number
}

/** One kind of finding. */
export interface FindingKind {
  readonly code: FindingCode
  /** Kinds of record it reads: while these stay as they are, so does what was found. */
  readonly looksAt: readonly RecordKind[]
  readonly find: (looking: Looking) => Steps<readonly Finding[]>
}

/** A finding about one record, without cases of its own. */
export function aboutRecord(
  code: FindingCode,
  group: FindingGroup,
  cause: FindingRecord,
  facts: Finding['facts'] = {},
  fix: readonly Change[] = [],
): Finding {
  return {
    code,
    group,
    key: `${code}/${cause.kind}/${cause.id}`,
    cause,
    count: 1,
    cases: [{ variant: null, buyer: null, amounts: {}, currency: '', fix }],
    isFixable: fix.length > 0,
    facts,
  }
}

/** Whom of a class of buyers a case is about. */
export function caseBuyer(buyer: BuyerReference): FindingCase['buyer'] {
  switch (buyer.kind) {
    case 'group':
      return { kind: 'group', id: buyer.group }
    case 'account':
      return { kind: 'account', id: buyer.account }
    default:
      return { kind: 'guest', id: '' }
  }
}

/** The same finding with its cases counted. */
export function withCases(
  found: Omit<Finding, 'count' | 'cases' | 'isFixable'>,
  cases: readonly FindingCase[],
): Finding {
  return { ...found, count: cases.length, cases, isFixable: cases.some(({ fix }) => fix.length > 0) }
}
