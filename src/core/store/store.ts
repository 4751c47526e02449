import type { Account, CustomerGroup } from '../buyers/buyer'
import type { Category } from '../catalogue/category'
import type { Product, Variant } from '../catalogue/product'
import type { RecordKind } from '../issue/issue'
import type { PriceLine, PriceList } from '../price/price-list'

/** What holds for the whole store. There is exactly one, under the id `settings`. */
export interface Settings {
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
}

/** The noun behind each kind of record. */
export interface RecordOfKind {
  readonly settings: Settings
  readonly category: Category
  readonly product: Product
  readonly variant: Variant
  readonly group: CustomerGroup
  readonly account: Account
  readonly 'price-list': PriceList
  readonly 'price-line': PriceLine
}

/** Everything the engine reads, as plain data: records by kind and id. Never changed in place. */
export type Store = { readonly [Kind in RecordKind]: ReadonlyMap<string, RecordOfKind[Kind]> }

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
  return {
    settings: new Map(),
    category: new Map(),
    product: new Map(),
    variant: new Map(),
    group: new Map(),
    account: new Map(),
    'price-list': new Map(),
    'price-line': new Map(),
  }
}

/** Errors  throws `RangeError` for a store nobody has set up. */
export function getSettings(store: Store): Settings {
  const settings = store.settings.get('settings')
  if (!settings) throw new RangeError('the store has no settings')
  return settings
}

/** The store after the changes; kinds that do not change are shared with the store before. */
export function applyChanges(store: Store, changes: readonly Change[]): Store {
  const copies = new Map<RecordKind, Map<string, unknown>>()
  for (const change of changes) {
    let records = copies.get(change.kind)
    if (!records) copies.set(change.kind, (records = new Map<string, unknown>(store[change.kind])))
    if (change.after === null) records.delete(change.id)
    else records.set(change.id, change.after)
  }
  return { ...store, ...Object.fromEntries(copies) } as Store
}

/** The changes that take everything back, last one first. */
export function reverseChanges(changes: readonly Change[]): readonly Change[] {
  return changes
    .map((change) => ({ ...change, before: change.after, after: change.before }) as Change)
    .reverse()
}
