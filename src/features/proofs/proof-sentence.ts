import 'server-only'

import { CLAIM_VALUES, type Proof } from '@/core/proofs/proof'
import type { Store } from '@/core/store/store'
import type { Fields } from '@/sheet/fields/field-rule'
import { placeWords, say, word } from '@/sheet/record/sentence/sentence'
import type { Sentence } from '@/sheet/record/sheet-view'
import { CLAIMS_OF_ITEMS, proofValue } from '@/ui/format/proof-phrases'

/** "Fennmoor Honey Farm buying 1 pay at most €21.65 for FR-BR-PF, until 1 April." */
export function proofSentence(record: Fields, store: Store): Sentence {
  const proof = record as unknown as Proof
  const kind = CLAIM_VALUES[proof.claim]
  const value = proofValue(proof, store) || 'how much?'
  const currency =
    kind === 'money' ? say`, in ${word('currency', proof.currency ?? 'the store’s currency')}` : say``
  const about = CLAIMS_OF_ITEMS.has(proof.claim) ? say`${word('scope')}` : say`for ${word('scope')}`
  const end = say`${currency}, ${placeWords(record)}, ${word('schedule')}. A publication that breaks it ${word('isBlocking')}. It is ${word('state')}.`
  return kind
    ? say`${word('audience')} buying ${word('quantity')} ${word('claim')} ${word('value', value)} ${about}${end}`
    : say`${word('audience')} buying ${word('quantity')} ${word('claim')} ${about}${end}`
}

export function proofDetails(record: Fields): Sentence {
  const { reason, claim } = record as unknown as Proof
  const kind = CLAIM_VALUES[claim]
  // What the claim at hand has no use for stays where it can be found when another is chosen.
  const idle = say`${kind ? null : say` · how much: ${word('value', 'nothing')}`}${kind === 'money' ? null : say` · paying in ${word('currency', 'any currency')}`}`
  return say`Code ${word('code', String(record['code'] || 'made from the name'))} · why: ${word('reason', reason || 'nobody said')}${idle}`
}
