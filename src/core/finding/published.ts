import { rateTable } from '../currency/currency'
import {
  type JudgedRate,
  judgePublished,
  OLDEST_PUBLICATION,
  type PublishedDay,
} from '../currency/published-rates'
import { getSettings, type Store } from '../store/store'
import { aboutRecord, type Finding, type Looking } from './finding'

/** What is known of the service whose rates are followed. */
export interface RateService {
  /** The last day that could be read; `null` for none yet. */
  readonly published: PublishedDay | null
  /** Currencies whose rate of that day somebody has said no to. */
  readonly declined: ReadonlySet<string>
}

/** How what was published last stands beside what is in force in a store at an instant (epoch milliseconds). */
export function judgedRates(store: Store, published: PublishedDay, at: number): readonly JudgedRate[] {
  const table = rateTable(store['exchange-rate'].values(), at)
  const { currency: home } = getSettings(store)
  return judgePublished(published, { table, home, currencies: store.currency.values(), at })
}

/** Rates that wait for a person: they leap, are missing or late. Only of currencies that follow the service. */
export function findInPublished(
  { prepared: { store }, at }: Looking,
  { published, declined }: RateService,
): readonly Finding[] {
  if (!published) return []
  const judged = judgedRates(store, published, at)
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
