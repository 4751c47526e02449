import 'server-only'

import { rateTable } from '@/core/currency/currency'
import { toInstant } from '@/core/predicates/when'
import { getSettings, type RecordOfKind, type Store } from '@/core/store/store'
import type { RequestContext } from '@/server/engine/request-context'
import { localPhrase } from '@/ui/format/rule-phrases'
import type { Fields } from '../fields/field-rule'
import type { EditableKind } from './sections'

const DAY = 86_400_000
/** How long before its end a contract is flagged. */
const NEAR_END = 45 * DAY

/** What is worth knowing about a record at once. */
export function flagOf(
  { prepared, pricingContext }: RequestContext,
  kind: EditableKind,
  record: Fields,
): string {
  const { store } = prepared
  if (kind === 'currency') {
    const { id, ageLimit } = record as unknown as RecordOfKind['currency']
    const rate = latestRate(store, id, pricingContext.at)
    if (!rate) return 'no rate'
    const age = Math.floor((pricingContext.at - Date.parse(rate.from)) / DAY)
    return ageLimit !== null && age > ageLimit ? `rate is ${age} days old` : ''
  }
  if (kind !== 'contract') return ''
  const { state, to } = record as unknown as RecordOfKind['contract']
  if (state !== 'active' || to === null) return ''
  const left = toInstant(to, getSettings(store).timeZone) - pricingContext.at
  if (left <= 0) return 'over'
  return left < NEAR_END ? `ends in ${Math.ceil(left / DAY)} days` : ''
}

/** A currency’s rate in force at an instant. */
function latestRate(store: Store, currency: string, at: number) {
  const table = rateTable(store['exchange-rate'].values(), at)
  return table.rates.get(`${getSettings(store).currency}>${currency}`)
}

export function currentRate({ prepared, pricingContext }: RequestContext, currency: string): string {
  const rate = latestRate(prepared.store, currency, pricingContext.at)
  return rate ? `1 ${rate.per} = ${rate.rate} ${currency} since ${dayOf(rate.from)}` : 'none'
}

function dayOf(instant: string): string {
  return localPhrase(`${instant.slice(0, 10)}T00:00`)
}
