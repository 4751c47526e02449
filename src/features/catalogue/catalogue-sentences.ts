import 'server-only'

import type { Category } from '@/core/catalogue/category'
import type { Product } from '@/core/catalogue/product'
import type { QuantityLimits } from '@/core/limits/limit'
import type { Decimal } from '@/core/decimal/decimal'
import { getSettings, priceDigitsOf, type Store } from '@/core/store/store'
import type { Fields } from '@/sheet/fields/field-rule'
import { say, word } from '@/sheet/record/sentence'
import type { Sentence } from '@/sheet/record/sheet-view'
import { formatMoney } from '@/ui/format/amount'

const codeWord = (record: Fields) => word('code', String(record['code'] || 'made from the name'))

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

export function moneyIn(store: Store) {
  const { currency } = getSettings(store)
  return (amount: Decimal | null, none: string) =>
    amount === null ? none : formatMoney(amount, currency, priceDigitsOf(store, currency))
}

function pairs(record: object): string {
  return Object.entries(record)
    .map(([name, value]) => `${name} ${String(value)}`)
    .join(', ')
}

/** Prices, weight and tax of a product, which its variants take over where they set none. */
function amounts(record: Fields, store: Store): Sentence {
  const own = record as unknown as Product
  const money = moneyIn(store)
  const none = 'not set'
  return say`Base price ${word('basePrice', money(own.basePrice, none))}, cost ${word('cost', money(own.cost, none))}, recommended ${word('recommendedPrice', money(own.recommendedPrice, none))}, never below ${word('floor', money(own.floor, 'any price'))}. In other currencies: ${word('ownAmounts', Object.keys(own.ownAmounts).length > 0 ? Object.keys(own.ownAmounts).join(', ') : 'converted')}. Weighs ${word('weight', own.weight ? `${own.weight} kg` : none)}, holds ${word('content', own.content ? '' : none)}, priced with ${word('family', own.family ? '' : 'no family')}, taxed as ${word('taxClass', own.taxClass ? '' : 'usual')}.`
}

function limits(record: Fields): Sentence {
  const none = 'none'
  const own = record['limits'] as QuantityLimits
  return say`Minimum ${word('limits.minimum', own.minimum ? '' : none)}, maximum ${word('limits.maximum', own.maximum ? '' : none)}, multiples of ${word('limits.multiple', own.multiple ? '' : none)}, first quantity ${word('limits.first', own.first ? '' : none)}, fixed quantities ${word('limits.values', own.values ? '' : none)}.`
}

export function productSentence(record: Fields, store: Store): Sentence {
  const { categories, axes, attributes, unit } = record as unknown as Product
  return say`Sold by the ${word('unit', unit || 'piece')} in ${word('categories', categories.length === 0 ? 'no category yet' : '')}; its variants differ in ${word('axes', axes.length === 0 ? 'nothing' : '')}. ${amounts(record, store)} It has ${word('attributes', Object.keys(attributes).length > 0 ? pairs(attributes) : 'no attributes')}.`
}

export function productDetails(record: Fields): Sentence {
  const { description, picture } = record as unknown as Product
  return say`${limits(record)} Described as ${word('description', description || 'nothing yet')} Picture: ${word('picture', picture.startsWith('own-') ? 'your own' : `the drawing “${picture}”`)} · code ${codeWord(record)}.`
}
