import { type BuyerCode, buyerName, findBuyer } from '../buyers/buyer-code'
import { findByCode } from '../catalogue/find-by-code'
import type { Place } from '../places/place'
import type { Store } from '../store/store'
import { QUANTITY_UNITS } from './compiled-line'
import type { Standpoint } from './standpoint'

/** Where one looks from, in codes people can read: what an address holds and a column of the board is. */
export interface Vantage {
  readonly as: BuyerCode
  readonly buying: number
  /** Code of a channel; `null` is the first. */
  readonly channel: string | null
  /** `IE`, or with a state `US-CA`; `null` is the buyer's own country. */
  readonly deliverTo: string | null
  /** ISO 4217; `null` is the one that follows. */
  readonly currency: string | null
  /** The instant looked at, ISO 8601 in UTC to the minute; `null` is now. */
  readonly on: string | null
}

/** A vantage resolved in a store. Whatever it names that does not exist takes its default. */
export interface ResolvedVantage {
  readonly standpoint: Standpoint
  /** Whoever it looks as; a guest where the buyer does not exist. */
  readonly as: BuyerCode
  readonly buyerName: string
  /** In thousandths. */
  readonly quantity: number
}

export function resolveVantage(store: Store, vantage: Vantage, now: number): ResolvedVantage {
  const found = findBuyer(store.group, store.account, vantage.as)
  const buyer = found ?? { kind: 'guest' as const }
  const { currency } = vantage
  const isCurrency =
    currency !== null &&
    (store.settings.get('settings')?.currency === currency ||
      store.currency.get(currency)?.status === 'active')
  return {
    as: found ? vantage.as : 'guest',
    buyerName: buyerName(store.group, store.account, buyer),
    quantity: Math.round(vantage.buying * QUANTITY_UNITS),
    standpoint: {
      buyer,
      channel: vantage.channel === null ? null : (findByCode(store.channel, vantage.channel)?.id ?? null),
      deliverTo: vantage.deliverTo === null ? null : toPlace(vantage.deliverTo),
      currency: isCurrency ? currency : null,
      passcode: null,
      at: vantage.on === null ? now : Date.parse(vantage.on),
    },
  }
}

/** `US-CA` is California in the United States. */
function toPlace(text: string): Place {
  const [country = '', state = ''] = text.split('-')
  return { country, state, postcode: '', city: '' }
}
