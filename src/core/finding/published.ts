import { rateTable } from '../currency/currency'
import { judgePublished, OLDEST_PUBLICATION, type PublishedDay } from '../currency/published-rates'
import { getSettings } from '../store/store'
import { aboutRecord, type Finding, type Looking } from './finding'

/** What is known of the service whose rates are followed. */
export interface RateService {
  /** The last day that could be read; `null` for none yet. */
  readonly published: PublishedDay | null
  /** Currencies whose rate of that day somebody has said no to. */
  readonly declined: ReadonlySet<string>
}

/** Rates that wait for a person: they leap, are missing or late. Only of currencies that follow the service. */
export function findInPublished(
  { prepared: { store }, at }: Looking,
  { published, declined }: RateService,
): readonly Finding[] {
  if (!published) return []
  const home = getSettings(store).currency
  const table = rateTable(store['exchange-rate'].values(), at)
  const judged = judgePublished(published, { table, home, currencies: store.currency.values(), at })
  return judged.flatMap(({ currency, verdict, rate, inForce, change, follows }): readonly Finding[] => {
    if (!follows) return []
    const cause = { kind: 'currency', id: currency } as const
    const facts = { day: published.day, rate: rate ?? '', was: inForce?.rate ?? '', change: change ?? '' }
    switch (verdict) {
      case 'leaps':
        return declined.has(currency) ? [] : [aboutRecord('rate-leaps', 'wrong-for-buyers', cause, facts)]
      case 'missing':
        return [aboutRecord('rate-missing', 'soon', cause, facts)]
      case 'old':
        return [aboutRecord('rate-late', 'soon', cause, { ...facts, limit: String(OLDEST_PUBLICATION) })]
      default:
        return []
    }
  })
}
