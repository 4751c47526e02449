import 'server-only'

import type { LimitRule } from '@/core/limits/limit'
import { getSettings, priceDigitsOf, type Store } from '@/core/store/store'
import type { Decimal } from '@/core/decimal/decimal'
import type { Fields } from '@/sheet/fields/field-rule'
import { placeWords, say, word } from '@/sheet/record/sentence/sentence'
import type { Sentence } from '@/sheet/record/sheet-view'
import { formatMoney } from '@/ui/format/amount'

/** "Everyone in any channel, always, buys Buckets and bulk at least 12, in steps of 12 …" */
export function limitSentence(record: Fields, store: Store): Sentence {
  const rule = record as unknown as LimitRule
  const { currency } = getSettings(store)
  const money = (amount: Decimal) => formatMoney(amount, currency, priceDigitsOf(store, currency))
  const parts: readonly Sentence[] = [
    ...(rule.minimum ? [say`at least ${word('minimum')}`] : []),
    ...(rule.maximum
      ? [
          say`at most ${word('maximum')} within ${word('days', rule.days ? `${rule.days} days` : 'one order')}`,
        ]
      : []),
    ...(rule.multiple ? [say`in steps of ${word('multiple')}`] : []),
    ...(rule.values ? [say`only in quantities of ${word('values')}`] : []),
    ...(rule.minimumValue ? [say`for ${word('minimumValue', money(rule.minimumValue))} or more`] : []),
    ...(rule.maximumValue ? [say`for ${word('maximumValue', money(rule.maximumValue))} or less`] : []),
    ...(rule.minimumWeight
      ? [say`weighing ${word('minimumWeight', `${rule.minimumWeight} kg`)} or more`]
      : []),
    ...(rule.maximumWeight
      ? [say`weighing ${word('maximumWeight', `${rule.maximumWeight} kg`)} or less`]
      : []),
  ]
  const amounts =
    parts.length === 0
      ? say`at least ${word('minimum', 'any quantity')}`
      : parts.flatMap((part, at) => (at === 0 ? part : [', ', ...part]))
  return say`${word('audience')} ${placeWords(record)}, ${word('schedule')}, can buy ${word('scope')} ${amounts}, counting ${word('counting')}. The shop says ${word('message', rule.message ? `“${rule.message}”` : 'so in its own words')}.`
}

/** What the sentence does not name, so that it can be set. */
export function limitDetails(record: Fields): Sentence {
  const rule = record as unknown as LimitRule
  const isAny =
    rule.minimum ??
    rule.maximum ??
    rule.multiple ??
    rule.values ??
    rule.minimumValue ??
    rule.maximumValue ??
    rule.minimumWeight ??
    rule.maximumWeight
  const more: readonly Sentence[] = [
    ...(!rule.minimum && isAny ? [say`${word('minimum', 'a least quantity')}`] : []),
    ...(rule.maximum
      ? []
      : [
          say`${word('maximum', 'a highest quantity')} ${word('days', rule.days ? `within ${rule.days} days` : 'over some days')}`,
        ]),
    ...(rule.multiple ? [] : [say`${word('multiple', 'steps')}`]),
    ...(rule.values ? [] : [say`${word('values', 'the only quantities')}`]),
    ...(rule.minimumValue ? [] : [say`${word('minimumValue', 'a least value')}`]),
    ...(rule.maximumValue ? [] : [say`${word('maximumValue', 'a highest value')}`]),
    ...(rule.minimumWeight ? [] : [say`${word('minimumWeight', 'a least weight')}`]),
    ...(rule.maximumWeight ? [] : [say`${word('maximumWeight', 'a highest weight')}`]),
  ]
  const listed = more.flatMap((part, at) => (at === 0 ? part : [', ', ...part]))
  return say`${more.length > 0 && say`It can also set ${listed}. `}The quantity offered first is ${word('first', rule.first ?? 'the least allowed')}. It is ${word('state')} · priority ${word('rank')} · code ${word('code', String(record['code'] || 'made from the name'))}.`
}
