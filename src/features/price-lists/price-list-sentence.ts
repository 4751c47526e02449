import 'server-only'

import type { PriceList } from '@/core/price/lines/price-list'
import { placeWords, say, word } from '@/sheet/record/sentence/sentence'
import type { Sentence } from '@/sheet/record/sheet-view'
import type { Fields } from '@/sheet/fields/field-rule'

/** "For Bee farms everywhere, always, in EUR, as the store says: the lines below, and 12 % off base for all other items …" */
export function priceListSentence(record: Fields): Sentence {
  const { audience, rounding } = record as unknown as PriceList
  const nobody = 'nobody but those whose contract leads to it'
  return say`For ${word('audience', audience.include.length === 0 ? nobody : '')} ${placeWords(record)}, ${word('schedule')}, in ${word('currency')}, ${word('taxBasis')}: the lines below, and ${word('defaultLine')} for all other items; computed prices go ${word('rounding', rounding ? '' : 'to the cent')}.`
}

export function priceListDetails(record: Fields): Sentence {
  return say`A ${word('purpose')} list that is ${word('state')}, priority ${word('rank')} among lists on the same rung, for ${word('scope')}; its buyers are offered ${word('onlyListed')} · code ${word('code', String(record['code'] || 'made from the name'))}.`
}
