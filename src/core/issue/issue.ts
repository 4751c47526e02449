import { closest, distance } from 'fastest-levenshtein'

/** The kinds of record a store is made of. */
export const RECORD_KINDS = [
  'settings',
  'currency',
  'exchange-rate',
  'channel',
  'region',
  'tax-class',
  'tax',
  'tax-rate',
  'category',
  'price-family',
  'product',
  'variant',
  'extra',
  'group',
  'account',
  'price-list',
  'price-line',
  'contract',
  'adjustment',
  'limit',
  'access-rule',
  'passcode',
] as const
export type RecordKind = (typeof RECORD_KINDS)[number]

/** Why a value is refused. What would be right stands in `Issue.expected`. */
export type IssueCode =
  | 'malformed'
  | 'missing'
  | 'not-a-decimal'
  | 'too-many-digits'
  | 'not-above-zero'
  | 'negative'
  | 'too-low'
  | 'not-whole'
  | 'unknown'
  | 'duplicate'
  | 'cycle'
  | 'empty-audience'
  | 'empty-scope'
  | 'unsorted-endings'
  | 'in-use'
  | 'not-in-axes'
  /** A window that ends before, or when, it starts. */
  | 'reversed-window'
  | 'too-high'
  /** Quantity breaks that do not rise. */
  | 'unsorted-breaks'
  | 'no-breaks'
  /** A margin that no price can have. */
  | 'margin-too-high'
  /** An own amount in the store's own currency. */
  | 'store-currency'
  | 'no-parties'
  | 'reversed-range'
  /** A rate outside 0 to 100 % that nobody gave a reason for. */
  | 'unusual-rate'
  /** Two records that say the same for the same time. */
  | 'overlap'
  | 'min-above-max'
  | 'not-a-multiple'
  | 'max-below-multiple'
  /** A list of quantities of which none is allowed by the other limits. */
  | 'no-value-allowed'
  /** Values and weights are of everything in a scope together. */
  | 'only-together'
  /** What only one thing by itself can have. */
  | 'not-together'
  | 'no-limit'
  | 'too-short'
  /** A rule that changes nothing, whoever comes. */
  | 'no-effect'
  /** A rule for the very same as another one, at the same rank: one of them never counts. */
  | 'shadowed'

/** One thing that is wrong with what somebody wants to store: data, worded by the interface. */
export interface Issue {
  readonly code: IssueCode
  readonly kind: RecordKind
  /** What the record is called by people: its code, SKU or name. */
  readonly label: string
  readonly field: string
  /** What was submitted, as text. */
  readonly value: string
  /** The nearest right thing, as the code needs it: a limit, a code that exists, a list of codes. */
  readonly expected: string | null
}

/** Whether a record still takes part; an archived one is kept for what speaks of it. */
export type Status = 'active' | 'archived'

export type Parsed<Value> =
  { readonly ok: true; readonly value: Value } | { readonly ok: false; readonly issues: readonly Issue[] }

/** The candidate that looks most like what was typed, when one is like it at all. */
export function findNearest(typed: string, candidates: readonly string[]): string | null {
  if (candidates.length === 0) return null
  const best = closest(
    typed.toLowerCase(),
    candidates.map((candidate) => candidate.toLowerCase()),
  )
  const found = candidates.find((candidate) => candidate.toLowerCase() === best) as string
  return distance(typed.toLowerCase(), best) <= Math.max(2, Math.floor(typed.length / 3)) ? found : null
}
