import 'server-only'

import type { BuyerCode } from '@/core/buyers/buyer-code'
import type { BuyerClass } from '@/core/impact/buyer-classes'
import type { ClassImpact } from '@/core/impact/class-impact'
import type { Store } from '@/core/store/store'

export interface ClassName {
  readonly key: string
  readonly as: BuyerCode
  readonly name: string
  readonly about: string
}

/** What a class of buyers is called, and whom it takes in. */
export function nameOfClass(
  { buyer, currency, accounts }: BuyerClass,
  store: Store,
  before: Store,
): ClassName {
  const paying = currency === null ? '' : `paying ${currency}`
  if (buyer.kind === 'group') {
    const group = store.group.get(buyer.group) ?? before.group.get(buyer.group)
    const as = `group:${group?.code ?? ''}` as const
    return { key: as, as, name: group?.name ?? buyer.group, about: countOf(accounts.length) }
  }
  if (buyer.kind === 'account') {
    const accountOf = (id: string) => store.account.get(id) ?? before.account.get(id)
    const first = accountOf(buyer.account)
    const as = `account:${first?.code ?? ''}` as const
    const others = accounts.length - 1
    const groups = (first?.groups ?? []).map((id) => store.group.get(id)?.name ?? id).join(', ')
    return {
      key: as,
      as,
      name: first?.name ?? buyer.account,
      about: [others > 0 ? `and ${others} like ${others === 1 ? 'it' : 'them'}` : '', groups]
        .filter(Boolean)
        .join(' · '),
    }
  }
  return {
    key: currency === null ? 'guest' : `guest ${currency}`,
    as: 'guest',
    name: 'Guests',
    about: paying || 'and anybody not signed in',
  }
}

function countOf(count: number): string {
  return count === 0 ? 'no accounts yet' : `${count} ${count === 1 ? 'account' : 'accounts'}`
}

/** Contracts a class stands under on either side, by id. */
export function contractsOfClass({ of }: ClassImpact, store: Store): readonly string[] {
  const ids = new Set(of.accounts)
  const groups = of.buyer.kind === 'group' ? [of.buyer.group] : []
  return [...store.contract.values()]
    .filter(
      (contract) =>
        contract.accounts.some((id) => ids.has(id)) || contract.groups.some((id) => groups.includes(id)),
    )
    .map(({ id }) => id)
}
