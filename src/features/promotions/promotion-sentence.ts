import 'server-only'

import type { Promotion } from '@/core/promotions/promotion'
import type { Fields } from '@/sheet/fields/field-rule'
import { codeWord } from '@/sheet/record/sentence/common-words'
import { placeWords, say, word } from '@/sheet/record/sentence/sentence'
import type { Sentence } from '@/sheet/record/sheet-view'

/** "Everyone but Distributors everywhere, always, buying Frames: any 3 for €60.00 together, as often as it fits, …" */
export function promotionSentence(record: Fields): Sentence {
  const { uses, combines, value } = record as unknown as Promotion
  const often = uses.perOrder === null ? 'as often as it fits' : times(uses.perOrder, 'an order')
  const isOnCharge = value.kind === 'delivery' || value.kind === 'payment'
  return say`${word('audience')} ${placeWords(record)}, ${word('schedule')}, ${isOnCharge ? 'with an order of' : 'buying'} ${word('scope')}: ${word('value')}, ${word('uses.perOrder', often)}, ${word('conditions')}. Priority ${word('rank')}; it combines with ${word('combines', combines ? `those of “${combines}”` : 'no other')}.`
}

function times(count: number, of: string): string {
  return count === 1 ? `once ${of}` : `${count} times ${of}`
}

export function promotionDetails(record: Fields): Sentence {
  const { uses, rounding } = record as unknown as Promotion
  const any = (count: number | null) => (count === null ? 'any number of' : String(count))
  return say`It is ${word('state')} and applied ${word('isOffer')}; the shop ${word('isAnnounced')}. At most ${word('uses.total', any(uses.total))} uses in all, ${word('uses.perBuyer', any(uses.perBuyer))} by each buyer, ${word('uses.perDay', any(uses.perDay))} a day. What it saves is rounded ${word('rounding', rounding ? '' : 'to the cent')} · code ${codeWord(record)}.`
}
