import { NO_AMOUNTS, type ReferenceField } from '../catalogue/product'
import type { Decimal } from '../decimal/decimal'
import { getSettings, priceDigitsOf, type RecordOfKind, type Store } from '../store/store'

/** Which amounts a rule changes. */
export type RepriceTarget =
  /** An amount in the store's currency. */
  | { readonly kind: 'amount'; readonly field: ReferenceField }
  /** An amount set in a currency of its own, where one is. */
  | { readonly kind: 'own-amount'; readonly field: ReferenceField; readonly currency: string }
  /** The fixed prices of a price list, by its id. */
  | { readonly kind: 'list'; readonly list: string }

/** Where an amount stands: in a product, for all its variants without their own, in a variant, or in a line of a list. */
export interface AmountPlace {
  readonly record: 'product' | 'variant' | 'price-line'
  readonly id: string
  /** Position of its quantity break, in a line; else 0. */
  readonly at: number
}

/** An amount before a rule. */
export interface Amount extends AmountPlace {
  readonly now: Decimal | null
  /** Numbers of the items it is for, of those that are meant. */
  readonly numbers: readonly number[]
  /** Whether it is for others than are meant, too. */
  readonly reachesFurther: boolean
}

/** The same for the same amount, whatever it is. */
export function placeKey({ record, id, at }: AmountPlace): string {
  return record === 'price-line' ? `${record}/${id}/${at}` : `${record}/${id}`
}

/** ISO 4217, of the amounts a rule changes. */
export function currencyOfTarget(store: Store, target: RepriceTarget): string {
  const home = getSettings(store).currency
  if (target.kind === 'own-amount') return target.currency
  return target.kind === 'list' ? (store['price-list'].get(target.list)?.currency ?? home) : home
}

/** How many digits the amounts a rule changes may have. */
export function digitsOfTarget(store: Store, target: RepriceTarget): number {
  return priceDigitsOf(store, currencyOfTarget(store, target))
}

type Changed = RecordOfKind['product'] | RecordOfKind['variant'] | RecordOfKind['price-line']

/** A record with another amount at one place. */
export function withAmount(record: Changed, target: RepriceTarget, at: number, amount: Decimal): Changed {
  switch (target.kind) {
    case 'amount':
      return { ...record, [target.field]: amount }
    case 'own-amount': {
      const { ownAmounts } = record as RecordOfKind['product']
      const own = { ...NO_AMOUNTS, ...ownAmounts[target.currency], [target.field]: amount }
      return { ...record, ownAmounts: { ...ownAmounts, [target.currency]: own } } as Changed
    }
    case 'list': {
      const line = record as RecordOfKind['price-line']
      return {
        ...line,
        breaks: line.breaks.map((each, place) =>
          place === at ? { ...each, method: { kind: 'fixed', amount } } : each,
        ),
      }
    }
  }
}
