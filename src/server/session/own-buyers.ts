import 'server-only'

import { accountFacts, GUEST_FACTS } from '@/core/buyers/buyer'
import { matchWho } from '@/core/predicates/who'
import type { Narrowing } from '@/core/staff/role'
import type { Store } from '@/core/store/store'
import { inArray, isNull, or, type SQL } from 'drizzle-orm'
import type { PgColumn } from 'drizzle-orm/pg-core'
import { currentDoer, type Doer } from './doing'

/** The buyers somebody sees who works with some of them only; `null` is all. */
export function buyersWithin(store: Store, narrowings: readonly Narrowing[]): Doer['buyers'] {
  const wanted = narrowings.flatMap(({ who }) => who ?? [])
  if (wanted.length === 0) return null
  const all = [...store.account.values()]
  return {
    accounts: new Set(
      all
        .filter((account) => {
          const facts = accountFacts(store.group, account)
          return wanted.every((who) => matchWho(who, facts).matches)
        })
        .map(({ id }) => id),
    ),
    guests: wanted.every((who) => matchWho(who, GUEST_FACTS).matches),
  }
}

/** Only rows of buyers whom whoever asks may see; nothing where they see all, and in jobs and in the shop. */
export function ofOwnBuyers(account: PgColumn): SQL | undefined {
  const buyers = currentDoer()?.buyers
  if (!buyers) return undefined
  return or(inArray(account, [...buyers.accounts, '']), buyers.guests ? isNull(account) : undefined)
}
