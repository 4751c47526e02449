import 'server-only'

import type { RateVerdict } from '@/core/currency/published-rates'
import { isPositive } from '@/core/decimal/decimal'
import { judgedRates } from '@/core/finding/published'
import { getSettings } from '@/core/store/store'
import { isSimulated, ratesAddress } from '@/server/rates/fetch-rates'
import { type KnownService, knownService } from '@/server/rates/rate-service'
import type { LoadedSheet } from '@/sheet/record/load-sheet'
import { formatPercent } from '@/ui/format/amount'
import { formatLocalDay, formatMoment } from '@/ui/format/instant'

/** What a service publishes of one currency, for its sheet. */
export interface PublishedView {
  readonly currency: string
  readonly home: string
  /** `null` where nothing has been published yet. */
  readonly published: {
    readonly day: string
    readonly rate: string | null
    /** "+8.2 %", from the rate in force; empty where nothing can be compared. */
    readonly change: string
    readonly verdict: RateVerdict
  } | null
  readonly follows: boolean
  readonly isDeclined: boolean
  readonly isSimulated: boolean
  /** When it was asked last, and what went wrong then; empty when all was well. */
  readonly asked: string
  readonly problem: string
}

/** `null` where no service is named, for the store's own currency, and while the database does not answer. */
export async function loadPublished({ id, before }: LoadedSheet): Promise<PublishedView | null> {
  const { store } = before.prepared
  const { currency: home, timeZone } = getSettings(store)
  if (ratesAddress() === null || id === home || !store.currency.has(id)) return null
  const { steppe } = before
  const known = await steppe.presence.orKnown<KnownService | null>(
    () => knownService(steppe),
    () => null,
  )
  if (!known) return null
  const { published, declined, triedAt, problem } = known
  const found = published
    ? judgedRates(store, published, before.now).find(({ currency }) => currency === id)
    : undefined
  const sign = found?.change && isPositive(found.change) ? '+' : ''
  return {
    ...{ currency: id, home, problem, isSimulated: isSimulated() },
    published:
      published && found
        ? {
            day: formatLocalDay(published.day),
            rate: found.rate,
            change: found.change === null ? '' : `${sign}${formatPercent(found.change).replace(/^\+/, '')}`,
            verdict: found.verdict,
          }
        : null,
    follows: found?.follows ?? false,
    isDeclined: declined.has(id),
    asked: triedAt ? formatMoment(triedAt.getTime(), timeZone) : '',
  }
}
