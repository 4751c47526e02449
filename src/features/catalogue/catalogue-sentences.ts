import 'server-only'

import type { Category } from '@/core/catalogue/category'
import type { Decimal } from '@/core/decimal/decimal'
import type { Store } from '@/core/store/store'
import type { Fields } from '@/sheet/fields/field-rule'
import { say, word } from '@/sheet/record/sentence/sentence'
import type { Sentence } from '@/sheet/record/sheet-view'
import { codeWord, moneyIn, pairs } from '@/sheet/record/sentence/common-words'

export function categorySentence(record: Fields): Sentence {
  const { parent } = record as unknown as Category
  return say`A category ${parent ? 'in' : 'at'} ${word('parent', parent ? '' : 'the top of the catalogue')}.`
}

export function categoryDetails(record: Fields): Sentence {
  return say`Code ${codeWord(record)}.`
}

export function familySentence(): Sentence {
  return say`Variants of this family are priced together, wherever in the catalogue they are. A product or variant joins it on its own sheet.`
}

export function extraSentence(record: Fields, store: Store): Sentence {
  const { basePrice, cost, ownPrices } = record as {
    basePrice: Decimal | null
    cost: Decimal | null
    ownPrices: object
  }
  const money = moneyIn(store)
  return say`Goes with ${word('scope')} and costs ${word('basePrice', money(basePrice, 'nothing yet'))} for each piece, ${word('cost', money(cost, 'at no cost on file'))}${cost && ' of it cost'}. In other currencies: ${word('ownPrices', Object.keys(ownPrices).length > 0 ? pairs(ownPrices) : 'converted')}.`
}

export function extraDetails(record: Fields): Sentence {
  return say`Code ${codeWord(record)} · position ${word('position')}.`
}
