import { findByCode } from '../catalogue/find-by-code'
import type { Account, BuyerReference, CustomerGroup } from './buyer'

/**
 * A buyer as text people can read in an address: `guest`, `group:bee-farms`, `account:fennmoor`. Codes
 * instead of ids, so that a link says whose eyes it looks through.
 */
export type BuyerCode = 'guest' | `group:${string}` | `account:${string}`

export function isBuyerCode(text: string): text is BuyerCode {
  return text === 'guest' || /^(group|account):.+$/.test(text)
}

/** Errors  `null` when no group or account has the code. */
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
  return accounts.get(buyer.account)?.name ?? buyer.account
}
