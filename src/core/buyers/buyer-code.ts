import { findByCode } from '../catalogue/find-by-code'
import type { Account, BuyerReference, CustomerGroup } from './buyer'

/**
 * A buyer as text people can read in an address: `guest`, `group:bee-farms`, `account:fennmoor`, `tag:organic`,
 * `email:ann@example.com`, `passcode:press`. Codes instead of ids, so that a link says whose eyes it looks through.
 */
export type BuyerCode =
  | 'guest'
  | `group:${string}`
  | `account:${string}`
  | `tag:${string}`
  | `email:${string}`
  /** A guest who has entered a passcode. */
  | `passcode:${string}`

export function isBuyerCode(text: string): text is BuyerCode {
  return text === 'guest' || /^(group|account|tag|email|passcode):.+$/.test(text)
}

/** Errors  `null` when no group or account has the code, or the tag; whoever has a passcode is a guest otherwise. */
export function findBuyer(
  groups: ReadonlyMap<string, CustomerGroup>,
  accounts: ReadonlyMap<string, Account>,
  code: BuyerCode,
): BuyerReference | null {
  if (code === 'guest') return { kind: 'guest' }
  const [kind, wanted] = [code.slice(0, code.indexOf(':')), code.slice(code.indexOf(':') + 1)]
  if (kind === 'group') {
    const group = findByCode(groups, wanted)
    return group ? { kind: 'group', group: group.id } : null
  }
  if (kind === 'passcode') return { kind: 'guest' }
  if (kind === 'tag')
    return [...accounts.values()].some(({ tags }) => tags.includes(wanted))
      ? { kind: 'tag', tag: wanted }
      : null
  if (kind === 'email') {
    const email = wanted.toLowerCase()
    const known = [...accounts.values()].find(({ emails }) => emails.includes(email))
    return known ? { kind: 'account', account: known.id } : { kind: 'email', email }
  }
  const account = findByCode(accounts, wanted)
  return account ? { kind: 'account', account: account.id } : null
}

/** What a buyer is called in a sentence. */
export function buyerName(
  groups: ReadonlyMap<string, CustomerGroup>,
  accounts: ReadonlyMap<string, Account>,
  buyer: BuyerReference,
): string {
  if (buyer.kind === 'guest') return 'Guest'
  if (buyer.kind === 'group') return groups.get(buyer.group)?.name ?? buyer.group
  if (buyer.kind === 'tag') return `Tagged ${buyer.tag}`
  if (buyer.kind === 'email') return buyer.email
  return accounts.get(buyer.account)?.name ?? buyer.account
}
