import type { AccessRule, Passcode } from '../access/access'
import type { Account, CustomerGroup } from '../buyers/buyer'
import type { Category } from '../catalogue/category'
import type { Product, Variant } from '../catalogue/product'
import type { Extra } from '../catalogue/extra'
import type { PriceFamily } from '../catalogue/price-family'
import type { Currency, ExchangeRate } from '../currency/currency'
import { findMinorDigits } from '../currency/iso-4217'
import { RECORD_KINDS, type RecordKind } from '../issue/issue'
import type { Decimal } from '../decimal/decimal'
import type { LimitRule } from '../limits/limit'
import type { Channel, Region } from '../places/place'
import type { TaxBasis } from '../price/based-amount'
import type { Adjustment } from '../price/adjustment'
import type { Contract, LadderPolicy } from '../price/contract'
import type { PriceLine, PriceList } from '../price/lines/price-list'
import type { Promotion } from '../promotions/promotion'
import type { Proof } from '../proofs/proof'
import type { Tax, TaxClass, TaxRate, TaxSettings } from '../tax/tax'
import { withChangesInSteps } from '../maps/layered-map'
import { atOnce, type Steps } from '../steps/steps'

/** What holds for the whole store. There is exactly one, under the id `settings`. */
export interface Settings extends TaxSettings {
  readonly id: 'settings'
  readonly name: string
  /** ISO 4217. */
  readonly currency: string
  /** How many digits a unit price may have: the currency's own, or up to 6. */
  readonly priceDigits: number
  /** IANA name. */
  readonly timeZone: string
  /** ISO 3166-1 alpha-2 of where the merchant sells from. */
  readonly country: string
  /** Whether prices are entered with or without tax. */
  readonly taxBasis: TaxBasis
  /** How a price is chosen among the lists that apply. */
  readonly policy: LadderPolicy
  /** Whether nobody ever pays more than a guest. */
  readonly neverAbovePublic: boolean
  /** What the shop compares a lower price with, struck through. */
  readonly comparedWith: 'nothing' | 'public' | 'prior' | 'base' | 'recommended'
  /** Whether what a person changes counts at once, goes into a draft that has to be published, or into one a second person publishes. */
  readonly publishing: 'as-you-go' | 'by-draft' | 'by-two'
  /** What delivery of an order costs, without tax, in the store's currency; `null` is nothing. */
  readonly deliveryPrice: Decimal | null
  /** From which value of goods on it costs nothing; `null` is never. */
  readonly deliveryFreeFrom: Decimal | null
  /** Below which margin, in percent, an offer needs somebody's approval; `null` is never. */
  readonly quoteMargin: Decimal | null
  /** For how many days an offer stands, unless it says otherwise. */
  readonly quoteDays: number
  /** What the front page of the shop says first; empty for the store's name alone. */
  readonly shopHeadline: string
  /** `#rrggbb`; empty for the usual one. */
  readonly shopColour: string
  /** The address mails of the shop come from, and answers go to; empty where there is none. */
  readonly shopEmail: string
  /** How buyers reach the merchant, in the merchant's words; empty where nothing is said. */
  readonly shopContact: string
  /** What stands behind prices without tax, and with; empty for the usual words. */
  readonly netWords: string
  readonly grossWords: string
}

/** The noun behind each kind of record. */
export interface RecordOfKind {
  readonly settings: Settings
  readonly currency: Currency
  readonly 'exchange-rate': ExchangeRate
  readonly channel: Channel
  readonly region: Region
  readonly 'tax-class': TaxClass
  readonly tax: Tax
  readonly 'tax-rate': TaxRate
  readonly category: Category
  readonly 'price-family': PriceFamily
  readonly product: Product
  readonly variant: Variant
  readonly extra: Extra
  readonly group: CustomerGroup
  readonly account: Account
  readonly 'price-list': PriceList
  readonly 'price-line': PriceLine
  readonly contract: Contract
  readonly adjustment: Adjustment
  readonly limit: LimitRule
  readonly 'access-rule': AccessRule
  readonly passcode: Passcode
  readonly promotion: Promotion
  readonly proof: Proof
}

/** Everything the engine reads, as plain data: records by kind and id, and what is true of them beside. Never changed in place. */
export type Store = { readonly [Kind in RecordKind]: ReadonlyMap<string, RecordOfKind[Kind]> } & {
  /** Ids of variants that are counted and of which none is left. Selling is no change of the configuration. */
  readonly outOfStock: ReadonlySet<string>
}

/** What can be paid in: the store's own currency first, then the others it takes. */
export function currenciesTaken(store: Store): readonly string[] {
  const others = [...store.currency.values()].filter(({ status }) => status === 'active')
  return [getSettings(store).currency, ...others.map(({ code }) => code)]
}

/** One record before and after; `null` means it did not, or does no longer, exist. */
export type Change = {
  [Kind in RecordKind]: {
    readonly kind: Kind
    readonly id: string
    readonly before: RecordOfKind[Kind] | null
    readonly after: RecordOfKind[Kind] | null
  }
}[RecordKind]

export function emptyStore(): Store {
  const records = Object.fromEntries(RECORD_KINDS.map((kind) => [kind, new Map()]))
  return { ...records, outOfStock: new Set() } as unknown as Store
}

/** Errors  throws `RangeError` for a store nobody has set up. */
export function getSettings(store: Store): Settings {
  const settings = store.settings.get('settings')
  if (!settings) throw new RangeError('the store has no settings')
  return settings
}

/** The store after the changes; what does not change is shared with the store before. */
export function applyChanges(store: Store, changes: readonly Change[]): Store {
  return atOnce(applyInSteps(store, changes))
}

/** `applyChanges` in steps. */
export function* applyInSteps(store: Store, changes: readonly Change[]): Steps<Store> {
  const byKind = new Map<RecordKind, Change[]>()
  for (const change of changes) {
    const known = byKind.get(change.kind)
    if (known) known.push(change)
    else byKind.set(change.kind, [change])
  }
  const next: Record<string, unknown> = { ...store }
  for (const [kind, some] of byKind) {
    const entries = some.map(({ id, after }): [string, unknown] => [id, after])
    next[kind] = yield* withChangesInSteps<unknown>(store[kind], entries)
  }
  return next as Store
}

/** The changes that take everything back, last one first. */
export function reverseChanges(changes: readonly Change[]): readonly Change[] {
  return changes
    .map((change) => ({ ...change, before: change.after, after: change.before }) as Change)
    .reverse()
}

/** How many digits a price in a currency may have: as the store says, else as the currency has. */
export function priceDigitsOf(store: Store, currency: string): number {
  const settings = store.settings.get('settings')
  if (settings?.currency === currency) return settings.priceDigits
  return store.currency.get(currency)?.priceDigits ?? findMinorDigits(currency) ?? 2
}
