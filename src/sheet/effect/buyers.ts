import 'server-only'

import type { BuyerReference } from '@/core/buyers/buyer'
import type { BuyerCode } from '@/core/buyers/buyer-code'
import { type BuyerContext, buyerContext } from '@/core/engine/context/buyer-context'
import type { Store } from '@/core/store/store'
import type { RequestContext } from '@/server/engine/request-context'

/** Somebody an effect is looked at for: guests, a group, an account. */
export interface EffectBuyer {
  readonly code: BuyerCode
  readonly name: string
  readonly buyer: BuyerReference
  readonly href: string | null
}

/** Guests, and every group in its order. */
export function usualBuyers(store: Store): readonly EffectBuyer[] {
  return [
    { code: 'guest', name: 'Guests', buyer: { kind: 'guest' }, href: null },
    ...[...store.group.values()]
      .filter(({ status }) => status === 'active')
      .sort((left, right) => left.position - right.position)
      .map(({ id, code, name }): EffectBuyer => ({
        code: `group:${code}`,
        name,
        buyer: { kind: 'group', group: id },
        href: `/groups/${encodeURIComponent(code)}`,
      })),
  ]
}

export function accountBuyer(store: Store, id: string): EffectBuyer | null {
  const account = store.account.get(id)
  return (
    (account && {
      code: `account:${account.code}` as const,
      name: account.name,
      buyer: { kind: 'account', account: id } as const,
      href: `/accounts/${encodeURIComponent(account.code)}`,
    }) ??
    null
  )
}

/** Where a buyer stands when nothing of the vantage but its instant and channel is kept. */
export function buyerContextOf(
  { buyer }: EffectBuyer,
  { buyerContext: from }: RequestContext,
  at = from.at,
): BuyerContext {
  return { ...buyerContext(buyer, at), channel: from.channel }
}
