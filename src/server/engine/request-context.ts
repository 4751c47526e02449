import 'server-only'

import type { BuyerReference } from '@/core/buyers/buyer'
import type { BuyerCode } from '@/core/buyers/buyer-code'
import { openPricingContext } from '@/core/engine/price/open-pricing-context'
import type { PreparedStore } from '@/core/engine/context/prepared-store'
import type { PricingContext } from '@/core/engine/context/pricing-context'
import type { BuyerContext } from '@/core/engine/context/buyer-context'
import { resolveVantage, type Vantage } from '@/core/engine/context/vantage'
import { shownIn, type View } from '../views/view'
import type { Steppe } from './steppe'

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

/** A view looked at from a vantage. Somebody who does not exist is a guest. */
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
