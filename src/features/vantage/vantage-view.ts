import type { BuyerCode } from '@/core/buyers/buyer-code'

/** Somebody to look as. */
export interface BuyerChoice {
  readonly as: BuyerCode
  readonly name: string
  /** What sort of buyer: shown behind the name. */
  readonly about: string
  readonly section: 'Everyone' | 'Groups' | 'Accounts' | 'Tags, passcodes and e-mails'
}

/** A moment of the store's past worth looking at: just before something changed. */
interface PastMoment {
  readonly on: string
  readonly label: string
}

export interface VantageView {
  readonly buyers: readonly BuyerChoice[]
  readonly moments: readonly PastMoment[]
  /** Channels, countries and currencies to choose from; the first of each is the store's own. */
  readonly channels: readonly Choice[]
  readonly places: readonly Choice[]
  readonly currencies: readonly string[]
  /** The country that follows from a buyer, by buyer code, where it is not the store's. */
  readonly following: Readonly<Record<string, string>>
  readonly timeZone: string
  /** Now on the server, ISO 8601. */
  readonly now: string
}

/** Something the sentence can name. */
export interface Choice {
  readonly code: string
  readonly name: string
}
