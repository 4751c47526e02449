import 'server-only'

import type { Fields } from '@/sheet/fields/field-rule'
import { say, word } from '@/sheet/record/sentence/sentence'
import type { Sentence } from '@/sheet/record/sheet-view'

export function taxClassSentence(): Sentence {
  return say`Products and variants of this class are taxed alike: its rates stand in a column of their own under Rates. Position ${word('position')}.`
}

export function taxSentence(record: Fields): Sentence {
  const upon = record['upon'] as readonly string[]
  return say`Calculated on the price without tax${upon.length > 0 ? ' and on top of ' : ', on top of '}${word('upon', upon.length > 0 ? '' : 'no other tax')}. Delivery ${word('onDelivery')}. Position ${word('position')}.`
}

export function taxDetails(record: Fields): Sentence {
  return say`Code ${word('code', String(record['code'] || 'made from the name'))}.`
}
