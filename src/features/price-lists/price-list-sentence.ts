import 'server-only'

import { roundingPhrase } from '@/ui/format/rule-phrases'
import type { PriceList } from '@/core/price/price-list'
import type { Fields } from '@/sheet/fields/field-rule'
import { placeWords, say, word } from '@/sheet/record/sentence'
import type { Sentence } from '@/sheet/record/sheet-view'

/** "For Bee farms in any channel, always, in EUR, as the store says: …" */
export function priceListSentence(record: Fields): Sentence {
  const { rounding, audience } = record as unknown as PriceList
  return say`A ${word('purpose')} list for ${word('audience', audience.include.length === 0 ? 'nobody but those a contract leads here' : '')}, buying ${word('scope')} ${placeWords(record)}, ${word('schedule')}. Its amounts are in ${word('currency')}, ${word('taxBasis')}; computed prices go ${word('rounding', rounding ? roundingPhrase(rounding) : '')}. Its buyers are offered ${word('onlyListed')}.`
}

export function priceListDetails(record: Fields): Sentence {
  return say`It is ${word('state')} · priority ${word('rank')} among lists on the same rung · code ${word('code', String(record['code'] || 'made from the name'))}.`
}
