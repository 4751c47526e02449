import 'server-only'

import type { Currency } from '@/core/currency/currency'
import { getSettings, type Store } from '@/core/store/store'
import type { Fields } from '@/sheet/fields/field-rule'
import { say, word } from '@/sheet/record/sentence/sentence'
import type { Sentence } from '@/sheet/record/sheet-view'

/** "Prices in GBP come from EUR at the rate, with 1.5 % added, …" */
export function currencySentence(record: Fields, store: Store): Sentence {
  const { ageLimit, fee, priceDigits } = record as unknown as Currency
  const digits = (priceDigits as number | null) === null ? 'its usual' : String(priceDigits)
  return say`Prices in ${word('code', String(record['code'] || 'a currency to choose'))} come from ${getSettings(store).currency} at the rate, with ${word('fee', `${fee} %`)} added, rounded ${word('rounding')}, shown with ${word('priceDigits', `${digits} decimal places`)}. A rate is good for ${word('ageLimit', ageLimit === null ? 'any time' : `${ageLimit} days`)}.`
}
