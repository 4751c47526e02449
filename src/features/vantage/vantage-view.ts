import type { BuyerCode } from '@/core/buyers/buyer-code'

/** Somebody to look as. */
export interface BuyerChoice {
  readonly as: BuyerCode
  readonly name: string
  /** What sort of buyer: shown behind the name. */
  readonly about: string
  readonly section: 'Everyone' | 'Groups' | 'Accounts'
}

/** A moment of the store's past worth looking at: just before something changed. */
interface PastMoment {
  readonly on: string
  readonly label: string
}

export interface VantageView {
  readonly buyers: readonly BuyerChoice[]
  readonly moments: readonly PastMoment[]
  readonly currency: string
  readonly timeZone: string
  /** Now on the server, ISO 8601. */
  readonly now: string
}
