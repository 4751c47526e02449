import 'server-only'

import type { Decimal } from '@/core/decimal/decimal'
import { getSettings, priceDigitsOf, type Store } from '@/core/store/store'
import { formatMoney } from '@/ui/format/amount'
import type { Fields } from '../../fields/field-rule'
import { word } from './sentence'

/** The code of a record; one that is not saved yet has none. */
export const codeWord = (record: Fields) => word('code', String(record['code'] || 'made from the name'))

/** Amounts in the store’s currency, and other words where there is none. */
export function moneyIn(store: Store) {
  const { currency } = getSettings(store)
  return (amount: Decimal | null, none: string) =>
    amount === null ? none : formatMoney(amount, currency, priceDigitsOf(store, currency))
}

/** "Fits National, Spacing self" */
export function pairs(record: object): string {
  return Object.entries(record)
    .map(([name, value]) => `${name} ${String(value)}`)
    .join(', ')
}
