import 'server-only'

import type { Account, CustomerGroup } from '@/core/buyers/buyer'
import type { Fields } from '@/sheet/fields/field-rule'
import { say, word } from '@/sheet/record/sentence/sentence'
import type { Sentence } from '@/sheet/record/sheet-view'

/** "In Bee farms, in Mullingar, Ireland, tagged organic. Orders come from …" */
export function accountSentence(record: Fields): Sentence {
  const { groups, tags, city, currency, paymentTerms, taxNumber, exemption, emails } =
    record as unknown as Account
  const people =
    emails.length === 0
      ? 'nobody yet'
      : emails.length === 1
        ? ''
        : `${emails.length} people: ${emails.join(', ')}`
  const tax = say`, registered for tax as ${word('taxNumber', taxNumber || 'nobody: a consumer')}`
  const exempt = exemption
    ? say`, exempt by ${word('exemption')} until ${word('exemptUntil', record['exemptUntil'] ? '' : 'further notice')}`
    : say`, ${word('exemption', 'not exempt')}`
  return say`A member of ${word('groups', groups.length === 0 ? 'no group' : '')} in ${word('city', city || 'no town')}, ${word('country')}, tagged ${word('tags', tags.length === 0 ? 'nothing' : '')}. They pay in ${word('currency', currency ? '' : 'the currency of their place')}, ${word('paymentTerms', paymentTerms || 'in advance')}${tax}${exempt}. Signs in as ${word('emails', people)}.`
}

export function accountDetails(record: Fields): Sentence {
  const { state, postcode, exemption } = record as unknown as Account
  return say`Code ${word('code', String(record['code'] || 'made from the name'))} · postcode ${word('postcode', postcode || 'none')} · state ${word('state', state || 'none')}${!exemption && say` · exemption ends ${word('exemptUntil', 'never')}`}.`
}

/** "A trade group. The shop shows prices without tax, the cart with tax." */
export function groupSentence(record: Fields): Sentence {
  const { trade } = record as unknown as CustomerGroup
  return say`A ${word('trade', trade ? 'trade' : 'consumer')} group. The shop shows its members prices ${word('taxDisplay')}; the cart shows them ${word('cartTaxDisplay')}.`
}

export function groupDetails(record: Fields): Sentence {
  return say`Code ${word('code', String(record['code'] || 'made from the name'))} · position ${word('position')} in lists.`
}
