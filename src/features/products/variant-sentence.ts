import 'server-only'

import { type Variant, variantName } from '@/core/catalogue/product'
import type { Store } from '@/core/store/store'
import { fieldPhrase, type Fields } from '@/sheet/fields/field-rule'
import { RECORD_FIELDS } from '@/sheet/fields/record-fields'
import { say, word } from '@/sheet/record/sentence/sentence'
import type { Sentence } from '@/sheet/record/sheet-view'
import { moneyIn } from '@/sheet/record/sentence/common-words'

/** What a variant takes over from its product where it sets none: its field, its name, and no value in words. */
type Inherited = readonly [field: string, name: string, none: string]

const AMOUNTS: readonly Inherited[] = [
  ['basePrice', 'base price', 'not set'],
  ['cost', 'cost', 'not set'],
  ['recommendedPrice', 'recommended price', 'not set'],
  ['floor', 'never below', 'any price'],
  ['ownAmounts', 'in other currencies', 'converted'],
  ['weight', 'weight', 'not set'],
  ['content', 'content', 'not set'],
  ['family', 'price family', 'none'],
  ['taxClass', 'tax class', 'the usual one'],
]

const LIMITS: readonly Inherited[] = [
  ['limits.minimum', 'minimum', 'none'],
  ['limits.maximum', 'maximum', 'none'],
  ['limits.multiple', 'multiples of', 'one'],
  ['limits.first', 'first quantity', 'not set'],
  ['limits.values', 'fixed quantities', 'none'],
]

export function variantSentence(record: Fields, store: Store): Sentence {
  const variant = record as unknown as Variant
  const product = store.product.get(variant.product)
  const options = product ? variantName(product, variant) : Object.values(variant.options).join(', ')
  return say`${word('product', record['product'] ? '' : 'A variant of a product to choose')}, ${word('options', options || 'no options')}. ${parted(AMOUNTS, record, store)}`
}

export function variantDetails(record: Fields, store: Store): Sentence {
  return say`${parted(LIMITS, record, store)} GTIN ${word('gtin', record['gtin'] ? '' : 'none')} · position ${word('position')}.`
}

/** First what the variant sets itself, then what it takes over, with the value it has from there. */
function parted(values: readonly Inherited[], record: Fields, store: Store): Sentence {
  const product = store.product.get(String(record['product'])) as Fields | undefined
  const own = values.filter(([field]) => textOf('variant', field, record, store) !== '')
  const inherited = values.filter((value) => !own.includes(value))
  const ownWords = own.map(
    ([field, name]) => say`${name} ${word(field, textOf('variant', field, record, store))}`,
  )
  const inheritedWords = inherited.map(
    ([field, name, none]) =>
      say`${name} ${word(field, (product && textOf('product', field, product, store)) || none)}`,
  )
  return [
    ...(ownWords.length > 0 ? say`Its own: ${listed(ownWords)}. ` : []),
    ...(inheritedWords.length > 0 ? say`As its product: ${listed(inheritedWords)}.` : []),
  ]
}

function listed(parts: readonly Sentence[]): Sentence {
  return parts.flatMap((part, at) => (at === 0 ? part : [', ', ...part]))
}

function textOf(kind: 'variant' | 'product', field: string, record: Fields, store: Store): string {
  const { ownAmounts, weight } = record as unknown as Variant
  switch (field) {
    case 'basePrice':
    case 'cost':
    case 'recommendedPrice':
    case 'floor':
      return moneyIn(store)((record as unknown as Variant)[field], '')
    case 'ownAmounts':
      return Object.keys(ownAmounts).join(', ')
    case 'weight':
      return weight === null ? '' : `${weight} kg`
    default: {
      const rule = RECORD_FIELDS[kind].find((each) => each.field === field)
      return rule ? fieldPhrase(rule, record, store) : ''
    }
  }
}
