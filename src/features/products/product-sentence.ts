import 'server-only'

import type { Product } from '@/core/catalogue/product'
import type { QuantityLimits } from '@/core/limits/limit'
import { codeWord, pairs } from '@/sheet/record/sentence/common-words'
import type { Fields } from '@/sheet/fields/field-rule'
import { say, word } from '@/sheet/record/sentence/sentence'
import type { Sentence } from '@/sheet/record/sheet-view'

/** What a product is; its prices, costs and weight stand in the table of its variants. */
export function productSentence(record: Fields): Sentence {
  const { categories, axes, attributes, unit, taxClass, ownAmounts } = record as unknown as Product
  return say`In ${word('categories', categories.length === 0 ? 'no category yet' : '')}, sold by the ${word('unit', unit || 'piece')}, taxed as ${word('taxClass', taxClass ? '' : 'usual')}; when stock runs out it is ${word('backOrder')}. Its variants differ in ${word('axes', axes.length === 0 ? 'nothing' : '')}; it has ${word('attributes', Object.keys(attributes).length > 0 ? pairs(attributes) : 'no attributes')}. In other currencies its amounts are ${word('ownAmounts', Object.keys(ownAmounts).length > 0 ? `its own in ${Object.keys(ownAmounts).join(', ')}` : 'converted')}.`
}

export function productDetails(record: Fields): Sentence {
  const { description, picture, content, family } = record as unknown as Product
  return say`Content ${word('content', content ? '' : 'not set')} · priced with ${word('family', family ? '' : 'no family')} · ${limits(record)} Described as ${word('description', description || 'nothing yet')} Picture: ${word('picture', picture.startsWith('own-') ? 'your own' : `the drawing “${picture}”`)} · code ${codeWord(record)}.`
}

function limits(record: Fields): Sentence {
  const none = 'none'
  const own = record['limits'] as QuantityLimits
  return say`minimum ${word('limits.minimum', own.minimum ? '' : none)}, maximum ${word('limits.maximum', own.maximum ? '' : none)}, multiples of ${word('limits.multiple', own.multiple ? '' : none)}, first quantity ${word('limits.first', own.first ? '' : none)}, fixed quantities ${word('limits.values', own.values ? '' : none)}.`
}
