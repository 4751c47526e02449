import 'server-only'

import type { Category } from '@/core/catalogue/category'
import type { Product, Variant } from '@/core/catalogue/product'
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
  return say`A branch of the catalogue under ${word('parent', parent ? '' : 'the top')}, in position ${word('position')} among its neighbours.`
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

function moneyIn(store: Store) {
  const { currency } = getSettings(store)
  return (amount: Decimal | null, none: string) =>
    amount === null ? none : formatMoney(amount, currency, priceDigitsOf(store, currency))
}

function pairs(record: object): string {
  return Object.entries(record)
    .map(([name, value]) => `${name} ${String(value)}`)
    .join(', ')
}

const OWN = 'inherited'

/** Prices, weight, tax and limits, which a variant takes over from its product where it sets none. */
function ownAmounts(record: Fields, store: Store, none: string): Sentence {
  const own = record as unknown as Product
  const money = moneyIn(store)
  return say`Base price ${word('basePrice', money(own.basePrice, none))}, cost ${word('cost', money(own.cost, none))}, recommended ${word('recommendedPrice', money(own.recommendedPrice, none))}, never below ${word('floor', money(own.floor, none === OWN ? OWN : 'any price'))}. In other currencies: ${word('ownAmounts', Object.keys(own.ownAmounts).length > 0 ? Object.keys(own.ownAmounts).join(', ') : 'converted')}. Weighs ${word('weight', own.weight ? `${own.weight} kg` : none)}, holds ${word('content', own.content ? '' : none)}, priced with ${word('family', own.family ? '' : none === OWN ? OWN : 'no family')}, taxed as ${word('taxClass', own.taxClass ? '' : none === OWN ? OWN : 'usual')}.`
}

function ownLimits(record: Fields, none: string): Sentence {
  const limits = record['limits'] as QuantityLimits
  return say`Bought at least ${word('limits.minimum', limits.minimum ? '' : none)}, at most ${word('limits.maximum', limits.maximum ? '' : none)}, in steps of ${word('limits.multiple', limits.multiple ? '' : none)}, first ${word('limits.first', limits.first ? '' : none)}, only in ${word('limits.values', limits.values ? '' : none)}.`
}

export function productSentence(record: Fields, store: Store): Sentence {
  const { categories, axes, attributes, unit } = record as unknown as Product
  return say`Sold by the ${word('unit', unit || 'piece')} in ${word('categories', categories.length === 0 ? 'no category yet' : '')}; its variants differ in ${word('axes', axes.length === 0 ? 'nothing' : '')}. ${ownAmounts(record, store, 'not set')} It has ${word('attributes', Object.keys(attributes).length > 0 ? pairs(attributes) : 'no attributes')}.`
}

export function productDetails(record: Fields): Sentence {
  const { description, picture } = record as unknown as Product
  return say`${ownLimits(record, 'not limited')} Described as ${word('description', description || 'nothing yet')} Picture: ${word('picture', picture.startsWith('own-') ? 'your own' : `the drawing “${picture}”`)} · code ${codeWord(record)}.`
}

export function variantSentence(record: Fields, store: Store): Sentence {
  const { options, stock } = record as unknown as Variant
  return say`${word('product', record['product'] ? '' : 'A variant of a product to choose')}, ${word('options', Object.keys(options).length > 0 ? Object.values(options).join(', ') : 'no options')}; ${word('stock', stock === null ? 'not counted' : `${stock} in stock`)}. ${ownAmounts(record, store, OWN)}`
}

export function variantDetails(record: Fields): Sentence {
  return say`${ownLimits(record, OWN)} Position ${word('position')}.`
}
