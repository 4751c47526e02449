import 'server-only'

import type { Adjustment } from '@/core/price/adjustment'
import { getSettings, priceDigitsOf, type Store } from '@/core/store/store'
import type { Fields } from '@/sheet/fields/field-rule'
import { placeWords, say, word } from '@/sheet/record/sentence/sentence'
import type { Sentence } from '@/sheet/record/sheet-view'
import { formatMoney } from '@/ui/format/amount'
import type { Decimal } from '@/core/decimal/decimal'

/** "On: Guests and Retail pay 10 % less for Suits and gloves, …" */
export function adjustmentSentence(record: Fields, store: Store): Sentence {
  const { method, rounding } = record as unknown as Adjustment
  const { currency } = getSettings(store)
  const value = method.kind === 'percent' ? method.percent : method.amount
  const size = value.replace('-', '') as Decimal
  const amount =
    method.kind === 'percent' ? `${size} %` : formatMoney(size, currency, priceDigitsOf(store, currency))
  return say`It is ${word('state')}: ${word('audience')} pay ${word('method', `${amount} ${value.startsWith('-') ? 'less' : 'more'}`)} for ${word('scope')}, ${placeWords(record)}, ${word('schedule')}. It moves ${word('target')}, rounded ${word('rounding', rounding ? '' : 'to the cent')}.`
}

export function adjustmentDetails(record: Fields): Sentence {
  return say`Code ${word('code', String(record['code'] || 'made from the name'))} · priority ${word('rank')}; several adjustments apply one after the other, 1 first.`
}
