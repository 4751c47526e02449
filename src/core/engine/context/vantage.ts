import { type BuyerCode, buyerName, findBuyer } from '../../buyers/buyer-code'
import { findByCode } from '../../catalogue/find-by-code'
import type { Place } from '../../places/place'
import type { Store } from '../../store/store'
import { QUANTITY_UNITS } from '../lists/compiled-line'
import type { BuyerContext } from './buyer-context'

/** Where one looks from, in codes people can read: what an address holds and a column of the board is. */
export interface Vantage {
  readonly as: BuyerCode
  readonly buying: number
  /** Code of a channel; `null` is the first. */
  readonly channel: string | null
  /** `IE`, with a state `US-CA`, with more of the address `US-CA/95210/Oakfell`; `null` is the buyer's own place. */
  readonly deliverTo: string | null
  /** ISO 4217; `null` is the one that follows. */
  readonly currency: string | null
  /** The instant looked at, ISO 8601 in UTC to the minute; `null` is now. */
  readonly on: string | null
  /** Code of the draft looked through; `null` is what is live. */
  readonly draft: string | null
}

/** A vantage resolved in a store. Whatever it names that does not exist takes its default. */
export interface ResolvedVantage {
  readonly buyerContext: BuyerContext
  /** Whoever it looks as; a guest where the buyer does not exist. */
  readonly as: BuyerCode
  readonly buyerName: string
  /** In thousandths. */
  readonly quantity: number
}

export function resolveVantage(store: Store, vantage: Vantage, now: number): ResolvedVantage {
  const found = findBuyer(store.group, store.account, vantage.as)
  const passcode = vantage.as.startsWith('passcode:')
    ? findByCode(store.passcode, vantage.as.slice('passcode:'.length))
    : null
  const isNobody = found === null || (vantage.as.startsWith('passcode:') && passcode === null)
  const buyer = found ?? { kind: 'guest' as const }
  const { currency } = vantage
  const isCurrency =
    currency !== null &&
    (store.settings.get('settings')?.currency === currency ||
      store.currency.get(currency)?.status === 'active')
  return {
    as: isNobody ? 'guest' : vantage.as,
    buyerName: passcode ? `Guest with ${passcode.name}` : buyerName(store.group, store.account, buyer),
    quantity: Math.round(vantage.buying * QUANTITY_UNITS),
    buyerContext: {
      buyer,
      channel: vantage.channel === null ? null : (findByCode(store.channel, vantage.channel)?.id ?? null),
      deliverTo: vantage.deliverTo === null ? null : toPlace(vantage.deliverTo),
      currency: isCurrency ? currency : null,
      passcode: passcode?.id ?? null,
      at: vantage.on === null ? now : Date.parse(vantage.on),
    },
  }
}

/** What a place may look like in an address. */
export const PLACE_TEXT = /^[A-Z]{2}(-[A-Z0-9]{1,3})?(\/[^/]{0,20}(\/[^/]{0,60})?)?$/

/** `US-CA` is California in the United States; a postcode and a city may follow. */
export function toPlace(text: string): Place {
  const [land = '', postcode = '', city = ''] = text.split('/')
  const [country = '', state = ''] = land.split('-')
  return { country, state, postcode, city }
}

export function placeText({ country, state, postcode, city }: Place): string {
  const land = state === '' ? country : `${country}-${state.toUpperCase()}`
  return [land, postcode, city].join('/').replace(/\/+$/, '')
}
