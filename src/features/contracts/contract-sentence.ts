import 'server-only'

import type { Contract } from '@/core/price/contract'
import { getSettings, priceDigitsOf, type Store } from '@/core/store/store'
import type { Fields } from '@/sheet/fields/field-rule'
import { say, word } from '@/sheet/record/sentence/sentence'
import type { Sentence } from '@/sheet/record/sheet-view'
import { formatMoney } from '@/ui/format/amount'

/** "For Fennmoor Honey Farm, buying everything but Livestock, from 1 April 2026 until 31 March 2027 …" */
export function contractSentence(record: Fields, store: Store): Sentence {
  const { accounts, groups, lists, minimumOrder, currency, paymentTerms, from, to } =
    record as unknown as Contract
  const code = currency ?? getSettings(store).currency
  const bound =
    groups.length === 0
      ? say`For ${word('accounts', accounts.length === 0 ? 'nobody yet' : '')}`
      : accounts.length === 0
        ? say`For ${word('groups')}`
        : say`For ${word('accounts')} and ${word('groups')}`
  return say`${bound}, buying ${word('assortment')}, from ${word('from', from ? '' : 'the start')} until ${word('to', to ? '' : 'no end')}, in ${word('currency', currency ? '' : 'whatever they pay in')}: the lists ${word('lists', lists.length === 0 ? 'none yet' : '')} come first. Orders from ${word('minimumOrder', minimumOrder ? formatMoney(minimumOrder, code, priceDigitsOf(store, code)) : 'any value')}, paid ${word('paymentTerms', paymentTerms || 'as usual')}; adjustments ${word('isProtected')}. It is ${word('state')}.`
}

export function contractDetails(record: Fields): Sentence {
  const { groups, accounts } = record as unknown as Contract
  return say`Code ${word('code', String(record['code'] || 'made from the name'))} · priority ${word('rank')} among several contracts of a buyer · several lists: ${word('policy')}${groups.length === 0 && say` · also binds the members of ${word('groups', 'no group')}`}${accounts.length === 0 && groups.length > 0 && say` · also binds ${word('accounts', 'no single account')}`}.`
}
