/** One kind of buyer a rule can name. Groups and accounts are named by id. */
export type WhoTerm =
  | { readonly kind: 'everyone' }
  | { readonly kind: 'guests' }
  | { readonly kind: 'signed-in' }
  | { readonly kind: 'trade' }
  | { readonly kind: 'group'; readonly group: string }
  | { readonly kind: 'tag'; readonly tag: string }
  | { readonly kind: 'passcode'; readonly passcode: string }
  | { readonly kind: 'email'; readonly email: string }
  | { readonly kind: 'account'; readonly account: string }

/** Two terms with one key say the same, in whatever order their fields stand. */
export function whoTermKey(term: WhoTerm): string {
  return JSON.stringify(Object.entries(term).sort())
}

/** An audience: a buyer belongs to it when a term of `include` matches and none of `exclude` does. */
export interface Who {
  readonly include: readonly WhoTerm[]
  readonly exclude: readonly WhoTerm[]
}

/** What a predicate needs to know about a buyer; everything else about an account does not matter here. */
export interface BuyerFacts {
  readonly account: string | null
  readonly signedIn: boolean
  readonly groups: readonly string[]
  /** Whether any of the groups is a trade group. */
  readonly trade: boolean
  readonly tags: readonly string[]
  readonly emails: readonly string[]
  /** Id of the passcode they came in with. */
  readonly passcode: string | null
}

export type WhoMatch =
  | { readonly matches: true; readonly by: WhoTerm; readonly specificity: number }
  | { readonly matches: false; readonly because: 'not-included' }
  | { readonly matches: false; readonly because: 'excluded'; readonly by: WhoTerm }

/** Higher is more specific: account and e-mail > passcode > tag > group > all trade > signed in and guests > everyone. */
const SPECIFICITY: Readonly<Record<WhoTerm['kind'], number>> = {
  everyone: 0,
  guests: 1,
  'signed-in': 1,
  trade: 2,
  group: 3,
  tag: 4,
  passcode: 5,
  email: 6,
  account: 6,
}

/** Whether the audience holds this buyer, through which of its terms (the most specific), or why not. */
export function matchWho(who: Who, buyer: BuyerFacts): WhoMatch {
  const excluded = who.exclude.find((term) => holds(term, buyer))
  if (excluded) return { matches: false, because: 'excluded', by: excluded }
  let best: WhoTerm | null = null
  for (const term of who.include) {
    if (holds(term, buyer) && (best === null || SPECIFICITY[term.kind] > SPECIFICITY[best.kind])) best = term
  }
  return best
    ? { matches: true, by: best, specificity: SPECIFICITY[best.kind] }
    : { matches: false, because: 'not-included' }
}

/** How many of these buyers the audience holds. */
export function countWho(who: Who, buyers: Iterable<BuyerFacts>): number {
  let count = 0
  for (const buyer of buyers) if (matchWho(who, buyer).matches) count += 1
  return count
}

function holds(term: WhoTerm, buyer: BuyerFacts): boolean {
  switch (term.kind) {
    case 'everyone':
      return true
    case 'guests':
      return !buyer.signedIn
    case 'signed-in':
      return buyer.signedIn
    case 'trade':
      return buyer.trade
    case 'group':
      return buyer.groups.includes(term.group)
    case 'tag':
      return buyer.tags.includes(term.tag)
    case 'passcode':
      return buyer.passcode === term.passcode
    case 'email':
      return buyer.emails.includes(term.email)
    case 'account':
      return buyer.account === term.account
  }
}
