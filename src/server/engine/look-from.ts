import 'server-only'

import { type BuyerReference } from '@/core/buyers/buyer'
import { type BuyerCode, buyerName, findBuyer } from '@/core/buyers/buyer-code'
import type { PreparedStore } from '@/core/engine/prepared-store'
import { preparedAsOf } from '../changes/history'
import { getPrepared, getSteppe, type Steppe } from './steppe'

/** A vantage resolved: the store of that instant, and who looks. */
export interface Outlook {
  readonly steppe: Steppe
  readonly prepared: PreparedStore
  readonly buyer: BuyerReference
  readonly as: BuyerCode
  readonly buyerName: string
  readonly quantity: number
  /** Whether this is the present, where things can be changed. */
  readonly live: boolean
}

/**
 * Looks from a vantage. Somebody who does not exist (a link from before they were removed) is a guest, and
 * an instant before the store existed is its first.
 */
export async function lookFrom(vantage: {
  readonly as: BuyerCode
  readonly buying: number
  readonly on: string | null
}): Promise<Outlook> {
  const steppe = await getSteppe()
  const present = getPrepared(steppe)
  const prepared = vantage.on === null ? present : await preparedAsOf(steppe, new Date(vantage.on))
  const { group, account } = prepared.store
  const buyer = findBuyer(group, account, vantage.as)
  return {
    steppe,
    prepared,
    buyer: buyer ?? { kind: 'guest' },
    as: buyer ? vantage.as : 'guest',
    buyerName: buyerName(group, account, buyer ?? { kind: 'guest' }),
    quantity: vantage.buying,
    live: vantage.on === null || new Date(vantage.on) > new Date(),
  }
}
