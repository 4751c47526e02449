import 'server-only'

import type { BuyerCode } from '@/core/buyers/buyer-code'
import type { Store } from '@/core/store/store'

export interface AccountGroup {
  readonly name: string
  readonly accounts: readonly {
    readonly as: BuyerCode
    readonly name: string
    readonly place: string
    /** Who can sign in for it, where somebody in particular can. */
    readonly people: readonly { readonly name: string; readonly email: string; readonly about: string }[]
  }[]
}

/** Every account one can sign in as, by the group it is first in. */
export function loadAccounts(store: Store): readonly AccountGroup[] {
  return [...store.group.values()]
    .sort((left, right) => left.position - right.position)
    .map(({ id, name: group }) => ({
      name: group,
      accounts: [...store.account.values()]
        .filter(({ groups }) => groups[0] === id)
        .map((account) => ({
          as: `account:${account.code}` as const,
          name: account.name,
          place: `${account.city}, ${account.country}`,
          people: account.people.map(({ name, email, approves, limit }) => ({
            ...{ name, email },
            about: approves ? 'approves' : limit === null ? '' : `orders up to ${limit} alone`,
          })),
        })),
    }))
}
