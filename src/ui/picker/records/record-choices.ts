/** Records that fields and pickers name by name or code. */
export type NamedKind =
  | 'account'
  | 'group'
  | 'category'
  | 'price-family'
  | 'price-list'
  | 'channel'
  | 'region'
  | 'product'
  | 'tax-class'
  | 'tax'

/** What one or several of can be chosen by name. */
export type ChoiceSource =
  | NamedKind
  /** Words of the merchant's own. */
  | 'tag'
  | 'channel-group'
  /** Published lists: countries, countries and their states, the store's currencies, all of ISO 4217, IANA time zones. */
  | 'country'
  | 'land'
  | 'currency'
  | 'iso-currency'
  | 'time-zone'

/** One of them: how it is typed, what it is called, and what tells it from others of the name. */
export interface RecordChoice {
  readonly value: string
  readonly name: string
  readonly about: string
  /** Whether the store uses it already: those come first. */
  readonly isOwn: boolean
}

export interface RecordChoices {
  readonly choices: readonly RecordChoice[]
  /** What a new one is called, where one can be made on the way: "price list". */
  readonly makes: string | null
}
