import 'server-only'

import type { Vantage } from '@/core/engine/context/vantage'
import { redirect } from 'next/navigation'
import { findDoer } from '../session/doer'
import { priorPricesStruck } from '../shop/prior-prices'
import type { Source } from '../views/view'
import { viewAs } from '../views/view-as'
import { getView } from '../views/views'
import { type RequestContext, toRequestContext } from './request-context'
import { getSteppe } from './steppe'
import { currentInstant } from '@/server/clock'

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
