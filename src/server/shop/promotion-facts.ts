import 'server-only'

import { ZERO } from '@/core/decimal/decimal'
import { intoHome } from '@/core/engine/context/currency-view'
import type { PreparedStore } from '@/core/engine/context/prepared-store'
import type { PricingContext } from '@/core/engine/context/pricing-context'
import { startOfDay } from '@/core/predicates/instant'
import { NO_FACTS, type PastOrder, type PromotionFacts } from '@/core/promotions/facts'
import { getSettings } from '@/core/store/store'
import { currentInstant } from '@/server/clock'
import type { Steppe } from '../engine/steppe'
import { orderedValues } from '../orders/past-purchases'
import { readUses } from './promotion-uses'

/** Whose orders and uses: an account's, or those of a guest's window. */
interface Owner {
  readonly account: string | null
  readonly visitor: string | null
}

interface Standing {
  readonly prepared: PreparedStore
  readonly pricingContext: Pick<PricingContext, 'currencyView'>
}

/**
 * What a buyer has done that promotions ask for: what they ordered, and how often each promotion has been used; nothing is known of it
 * while the database is gone.
 */
export function factsOfBuyer(steppe: Steppe, standing: Standing, owner: Owner): Promise<PromotionFacts> {
  return steppe.presence.orKnown(
    () => readFacts(steppe, standing, owner),
    () => NO_FACTS,
  )
}

async function readFacts(steppe: Steppe, standing: Standing, owner: Owner): Promise<PromotionFacts> {
  const { store } = standing.prepared
  const used = [...store.promotion.values()].filter(
    ({ state, status }) => state === 'on' && status === 'active',
  )
  if (used.length === 0) return NO_FACTS
  const today = startOfDay(currentInstant(), getSettings(store).timeZone)
  const dependsOnUses = used.some(({ uses }) => Object.values(uses).some((limit) => limit !== null))
  const dependsOnOrders = used.some(({ conditions }) =>
    conditions.some(({ kind }) => kind === 'orders' || kind === 'spend' || kind === 'first-order'),
  )
  return {
    ...NO_FACTS,
    pastOrders:
      dependsOnOrders && owner.account !== null ? await pastOrders(steppe, standing, owner.account) : null,
    uses: dependsOnUses ? await readUses(steppe.database, owner, today) : {},
  }
}

/** What an account has ordered, in the currency of the store. */
async function pastOrders(
  steppe: Steppe,
  { prepared, pricingContext }: Standing,
  account: string,
): Promise<readonly PastOrder[]> {
  return (await orderedValues(steppe, account)).map(({ at, net, currency }) => ({
    at,
    // An order in a currency that has no rate any more is still an order; nobody knows what it is worth.
    value: intoHome(prepared, pricingContext.currencyView, net, currency) ?? ZERO,
  }))
}
