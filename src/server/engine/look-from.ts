import 'server-only'

import type { BuyerReference } from '@/core/buyers/buyer'
import type { BuyerCode } from '@/core/buyers/buyer-code'
import { openPricingContext } from '@/core/engine/price/open-pricing-context'
import type { PreparedStore } from '@/core/engine/context/prepared-store'
import type { PricingContext } from '@/core/engine/context/pricing-context'
import type { BuyerContext } from '@/core/engine/context/buyer-context'
import { resolveVantage, type Vantage } from '@/core/engine/context/vantage'
import { redirect } from 'next/navigation'
import { shownIn, type Source, type View } from '../views/view'
import { getView } from '../views/views'
import { viewAs } from '../views/view-as'
import { findDoer } from '../session/doer'
import { priorPricesStruck } from '../shop/prior-prices'
import { getSteppe, type Steppe } from './steppe'
import { currentInstant } from '@/server/clock'

/** A vantage resolved: the store of that instant, who looks, and what holds for them there. */
export interface RequestContext {
  /** What is looked at: what is changed there goes there. */
  readonly view: View
  readonly steppe: Steppe
  readonly prepared: PreparedStore
  readonly vantage: Vantage
  readonly buyerContext: BuyerContext
  readonly pricingContext: PricingContext
  readonly buyer: BuyerReference
  readonly as: BuyerCode
  readonly buyerName: string
  /** In thousandths. */
  readonly quantity: number
  /** Epoch milliseconds of the present. */
  readonly now: number
  /** Whether this is the present or the future, where things can be changed. */
  readonly live: boolean
}

/**
 * Looks from a vantage. Somebody who does not exist (a link from before they were removed) is a guest, and
 * an instant before the store existed is its first. The future is the store as it stands, at that instant.
 */
export async function lookFrom(vantage: Vantage): Promise<RequestContext> {
  const steppe = await getSteppe()
  if (steppe.broken) redirect('/mend')
  if (!steppe.prepared) redirect('/set-up')
  const looked = toRequestContext(
    viewAs(await findDoer(), await getView(steppe, sourceOf(vantage))),
    vantage,
    currentInstant().getTime(),
  )
  if (vantage.on !== null) return looked
  const priorPrices = await priorPricesStruck(steppe, looked.buyerContext)
  return priorPrices === null ? looked : { ...looked, buyerContext: { ...looked.buyerContext, priorPrices } }
}

/** A draft is looked through whatever the instant is; without one the past is what was live. */
function sourceOf({ draft, on }: Vantage): Source {
  if (draft !== null) return { kind: 'draft', code: draft }
  return on === null ? { kind: 'live' } : { kind: 'instant', at: new Date(on) }
}

export function toRequestContext(view: View, vantage: Vantage, now: number): RequestContext {
  const { steppe } = view
  // What was tried and not saved is made of all there is.
  const prepared = shownIn(view, view.prepared)
  const { buyerContext, as, buyerName, quantity } = resolveVantage(prepared.store, vantage, now)
  return {
    view,
    steppe,
    prepared,
    vantage,
    buyerContext,
    pricingContext: pricingContextOf(prepared, buyerContext),
    buyer: buyerContext.buyer,
    as,
    buyerName,
    quantity,
    now,
    live: vantage.on === null || Date.parse(vantage.on) > now,
  }
}

/**
 * What holds at a buyer context that names nothing unknown.
 *
 * Errors  throws `RangeError` for one that does: resolve a vantage first.
 */
export function pricingContextOf(prepared: PreparedStore, buyerContext: BuyerContext): PricingContext {
  const opened = openPricingContext(prepared, buyerContext)
  if (!opened.ok) throw new RangeError(`nobody can stand there: ${opened.error.code}`)
  return opened.value
}
