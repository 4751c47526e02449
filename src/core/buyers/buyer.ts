import type { Decimal } from '../decimal/decimal'
import type { Status } from '../issue/issue'
import type { TaxDisplay } from '../places/place'
import type { BuyerFacts } from '../predicates/who'

/** Customers who are treated alike. */
export interface CustomerGroup {
  readonly id: string
  readonly code: string
  readonly name: string
  /** Trade groups buy to sell on or to work with; the others are consumers. */
  readonly trade: boolean
  /** How prices show to them, in the shop and in the cart; `null` leaves it to the region. */
  readonly taxDisplay: TaxDisplay | null
  readonly cartTaxDisplay: TaxDisplay | null
  readonly position: number
  readonly status: Status
}

/** Where an account is, or has things brought to. */
export interface Address {
  /** What the account calls it: "Office", "North yard". */
  readonly label: string
  readonly street: string
  readonly postcode: string
  readonly city: string
  /** ISO 3166-2 without the country: `CA`; empty where there is none. */
  readonly state: string
  /** ISO 3166-1 alpha-2. */
  readonly country: string
}

/** Somebody who signs in for an account. */
export interface Person {
  readonly name: string
  /** In lower case, one of the account's. */
  readonly email: string
  /** Whether they let through what others' limits hold back. */
  readonly approves: boolean
  /** Goods without tax, in the store's currency, above which an order of theirs waits for approval; `null` is never. */
  readonly limit: Decimal | null
}

/** A company or person who signs in. */
export interface Account {
  readonly id: string
  readonly code: string
  readonly name: string
  /** ISO 3166-1 alpha-2. */
  readonly country: string
  readonly city: string
  readonly state: string
  readonly postcode: string
  /** Ids. */
  readonly groups: readonly string[]
  readonly tags: readonly string[]
  /** Addresses its people sign in with, in lower case. */
  readonly emails: readonly string[]
  /** What is known of some of those who sign in. */
  readonly people: readonly Person[]
  /** Where things can be delivered beside its seat. */
  readonly addresses: readonly Address[]
  /** ISO 4217, of its prices; `null` leaves it to the place. */
  readonly currency: string | null
  readonly taxNumber: string
  /** The certificate that frees it from tax; empty where there is none. */
  readonly exemption: string
  /** Local date the certificate ends on, in the store's time zone; `null` is never. */
  readonly exemptUntil: string | null
  readonly paymentTerms: string
  readonly status: Status
}

/** Whose eyes a question is asked through. A group stands for a signed-in member with nothing of its own. */
export type BuyerReference =
  | { readonly kind: 'guest' }
  | { readonly kind: 'group'; readonly group: string }
  | { readonly kind: 'account'; readonly account: string }
  /** Somebody signed in of whom nothing else is known than a tag, or an e-mail address. */
  | { readonly kind: 'tag'; readonly tag: string }
  | { readonly kind: 'email'; readonly email: string }

/** What predicates know of somebody who is not signed in. */
export const GUEST_FACTS: BuyerFacts = {
  account: null,
  signedIn: false,
  groups: [],
  trade: false,
  tags: [],
  emails: [],
  passcode: null,
}

/**
 * What predicates need to know about a buyer.
 *
 * Errors  `null` when the group or account does not exist.
 */
export function findBuyerFacts(
  groups: ReadonlyMap<string, CustomerGroup>,
  accounts: ReadonlyMap<string, Account>,
  buyer: BuyerReference,
  passcode: string | null = null,
): BuyerFacts | null {
  const facts = ownFacts(groups, accounts, buyer)
  return facts && passcode !== null ? { ...facts, passcode } : facts
}

function ownFacts(
  groups: ReadonlyMap<string, CustomerGroup>,
  accounts: ReadonlyMap<string, Account>,
  buyer: BuyerReference,
): BuyerFacts | null {
  if (buyer.kind === 'guest') return GUEST_FACTS
  if (buyer.kind === 'group') {
    const group = groups.get(buyer.group)
    return group ? { ...GUEST_FACTS, signedIn: true, groups: [group.id], trade: group.trade } : null
  }
  if (buyer.kind === 'tag') return { ...GUEST_FACTS, signedIn: true, tags: [buyer.tag] }
  if (buyer.kind === 'email') return { ...GUEST_FACTS, signedIn: true, emails: [buyer.email] }
  const account = accounts.get(buyer.account)
  return account ? accountFacts(groups, account) : null
}

export function accountFacts(groups: ReadonlyMap<string, CustomerGroup>, account: Account): BuyerFacts {
  return {
    account: account.id,
    signedIn: true,
    groups: account.groups,
    trade: account.groups.some((id) => groups.get(id)?.trade === true),
    tags: account.tags,
    emails: account.emails,
    passcode: null,
  }
}

/** A text that is the same for the same buyer, fit for a map's key. */
export function buyerKey(buyer: BuyerReference): string {
  switch (buyer.kind) {
    case 'guest':
      return 'guest'
    case 'group':
      return `group:${buyer.group}`
    case 'account':
      return `account:${buyer.account}`
    case 'tag':
      return `tag:${buyer.tag}`
    case 'email':
      return `email:${buyer.email}`
  }
}
