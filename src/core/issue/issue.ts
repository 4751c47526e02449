import { distance } from 'fastest-levenshtein'

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
  'promotion',
  'proof',
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
  /** Limits of two levels that leave no quantity between them. */
  | 'contradicts'
  | 'no-limit'
  | 'too-short'
  /** A text longer than its field takes. */
  | 'too-long'
  /** An amount with more digits than can be kept exactly. */
  | 'too-large'
  /** A day or time that is no instant, or does not say its offset. */
  | 'no-instant'
  /** More levels below one another than a tree may have. */
  | 'too-deep'
  /** Signs that are no text: a null, or half of a pair. */
  | 'not-text'
  /** A rule that changes nothing, whoever comes. */
  | 'no-effect'
  /** A rule for the very same as another one, at the same rank: one of them never counts. */
  | 'shadowed'
  /** A set of fewer than two units. */
  | 'empty-set'
  /** A set price no set could save by. */
  | 'above-parts'
  /** What nobody can know of guests. */
  | 'never-known'
  /** A record that is kept only for what speaks of it. */
  | 'archived'

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

/** What is longer is nobody's slip of the hand, and would take long to compare. */
const LONGEST_TYPED = 120

/** Candidates made ready to be looked through many times. */
export interface ReadyCandidates {
  readonly texts: readonly string[]
  readonly lower: readonly string[]
  readonly letters: Int32Array
}

export function readyCandidates(candidates: Iterable<string>): ReadyCandidates {
  const texts = [...candidates]
  const lower = texts.map((text) => text.toLowerCase())
  return { texts, lower, letters: Int32Array.from(lower, lettersOf) }
}

/**
 * The candidate that looks most like what was typed, when one is like it at all; of equals the first in the
 * alphabet, whatever order they come in.
 *
 * Linear in the number of candidates: whatever cannot be near is passed over without being compared.
 */
export function findNearest(typed: string, candidates: Iterable<string> | ReadyCandidates): string | null {
  if (typed.length > LONGEST_TYPED) return null
  const { texts, lower, letters } = 'texts' in candidates ? candidates : readyCandidates(candidates)
  const wanted = typed.toLowerCase()
  const signs = lettersOf(wanted)
  let within = Math.max(2, Math.floor(typed.length / 3))
  let nearest = within
  let best: string | null = null
  for (let at = 0; at < texts.length; at += 1) {
    const other = lower[at] as string
    if (Math.abs(other.length - wanted.length) > within) continue
    if (missing(signs, letters[at] as number) > within) continue
    const away = distance(wanted, other)
    const text = texts[at] as string
    if (away > within || (away === nearest && best !== null && best < text)) continue
    best = text
    if (away === 0) return best
    within = nearest = away
  }
  return best
}

/** So many near ones are looked at for some that are accepted. */
const MOST_CONSIDERED = 50

/**
 * The candidates most like what was typed, the nearest first, of those that are accepted. Linear in the number of candidates, as
 * `findNearest` is.
 */
export function findNearestFew(
  typed: string,
  { texts, lower, letters }: ReadyCandidates,
  most: number,
  accepts: (candidate: string) => boolean,
): readonly string[] {
  if (typed.length > LONGEST_TYPED) return []
  const wanted = typed.toLowerCase()
  const signs = lettersOf(wanted)
  let within = Math.max(2, Math.floor(typed.length / 3))
  const byDistance: string[][] = Array.from({ length: within + 1 }, () => [])
  let nearer = 0
  for (let at = 0; at < texts.length; at += 1) {
    const other = lower[at] as string
    if (Math.abs(other.length - wanted.length) > within) continue
    if (missing(signs, letters[at] as number) > within) continue
    const away = distance(wanted, other)
    if (away > within) continue
    byDistance[away]?.push(texts[at] as string)
    if (away === within) continue
    nearer += 1
    // Where that many are nearer, those that are as far as this will hardly be asked for.
    if (nearer < MOST_CONSIDERED) continue
    within -= 1
    nearer = byDistance.slice(0, within).reduce((sum, { length }) => sum + length, 0)
  }
  const found: string[] = []
  for (const text of byDistance.slice(0, within + 1).flatMap((equals) => equals.sort())) {
    if (found.length === most) break
    if (accepts(text)) found.push(text)
  }
  return found
}

/** Which signs a text has, as bits: some signs share one. */
function lettersOf(text: string): number {
  let letters = 0
  for (let at = 0; at < text.length; at += 1) letters |= 1 << (text.charCodeAt(at) & 31)
  return letters
}

/** How many signs one text has and the other does not: at least so many must be changed. */
function missing(left: number, right: number): number {
  return Math.max(bits(left & ~right), bits(right & ~left))
}

function bits(value: number): number {
  let count = 0
  for (let rest = value >>> 0; rest !== 0; rest &= rest - 1) count += 1
  return count
}
