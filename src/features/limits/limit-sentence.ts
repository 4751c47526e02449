import 'server-only'

import type { LimitRule } from '@/core/limits/limit'
import { getSettings, priceDigitsOf, type Store } from '@/core/store/store'
import type { Decimal } from '@/core/decimal/decimal'
import type { Fields } from '@/sheet/fields/field-rule'
import { placeWords, say, word } from '@/sheet/record/sentence'
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
  return say`Also limit ${!rule.minimum && isAny && say`${word('minimum', 'the least quantity')}, `}${!rule.maximum && say`${word('maximum', 'the most')} (${word('days', rule.days ? `within ${rule.days} days` : 'within days')}), `}${!rule.multiple && say`${word('multiple', 'steps')}, `}${!rule.values && say`${word('values', 'single quantities')}, `}${!rule.minimumValue && say`${word('minimumValue', 'the least value')}, `}${!rule.maximumValue && say`${word('maximumValue', 'the highest value')}, `}${!rule.minimumWeight && say`${word('minimumWeight', 'the least weight')}, `}${!rule.maximumWeight && say`${word('maximumWeight', 'the highest weight')}, `}or what the ${word('first', rule.first ? `first quantity is (${rule.first})` : 'first quantity is')}. It is ${word('state')} · priority ${word('rank')} · code ${word('code', String(record['code'] || 'made from the name'))}.`
}
