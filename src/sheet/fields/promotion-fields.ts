import 'server-only'

import { typedAmount } from '@/core/decimal/written-amount'
import { readConditions, writeConditions } from '@/core/notation/condition-text'
import { PROMOTION_EXAMPLES } from '@/core/notation/offer-text'
import { readPromotionValue, writePromotionValue } from '@/core/notation/promotion-text'
import type { Promotion, UseLimits } from '@/core/promotions/promotion'
import { getSettings, type Store } from '@/core/store/store'
import { conditionsPhrase, promotionPhrase } from '@/ui/format/promotion-phrases'
import { choiceField, type FieldRule, ruleField, textField } from './field-rule'
import { audience, code, name, onOff, place, rank, rounding, schedule, scope } from './shared-fields'

const value: FieldRule = {
  ...ruleField<Promotion['value']>(
    ['value', 'Offer', Object.values(PROMOTION_EXAMPLES).join(' · ')],
    writePromotionValue,
    readPromotionValue,
    (each, store) => promotionPhrase(store, each),
  ),
  control: 'offer',
  options: (store) => otherCurrencies(store).map((each) => ({ value: each, name: each })),
}

/** Those in which amounts may be set instead of converted. */
function otherCurrencies(store: Store): readonly string[] {
  return [...store.currency.keys()].filter((each) => each !== getSettings(store).currency)
}

const conditions = ruleField<Promotion['conditions']>(
  [
    'conditions',
    'Only if',
    'order from 40; goods of 12; order of 5 kg; 3 orders in 90 days; spent 500; first order; paid by card; code SWARM10',
  ],
  (_, each) => writeConditions(each),
  (_, text) => readConditions(text),
  (each, store) => conditionsPhrase(store, { conditions: each }),
)

function limitOfUses(limit: keyof UseLimits, label: string): FieldRule {
  const usesOf = (record: Readonly<Record<string, unknown>>) => record['uses'] as UseLimits
  return {
    field: `uses.${limit}`,
    name: label,
    hint: 'Empty is as often as it fits.',
    control: 'text',
    write: (record) => String(usesOf(record)[limit] ?? ''),
    read: (text, record) => {
      const typed = typedAmount(text)
      if (typed !== '' && !/^\d+$/.test(typed))
        return { ok: false, problem: `“${text}” is not a whole number.` }
      const uses = { ...usesOf(record), [limit]: typed === '' ? null : Number(typed) }
      return { ok: true, value: { uses } }
    },
  }
}

export const PROMOTION_FIELDS: readonly FieldRule[] = [
  name,
  code,
  onOff,
  audience,
  scope,
  value,
  conditions,
  place,
  schedule,
  rank,
  textField(['combines', 'Combines with', 'A word: promotions that say the same may use the same units.']),
  limitOfUses('total', 'Uses in all'),
  limitOfUses('perBuyer', 'Uses by each buyer'),
  limitOfUses('perOrder', 'Uses in one order'),
  limitOfUses('perDay', 'Uses in a day'),
  choiceField(
    ['isOffer', 'How it comes'],
    [
      [false, 'by itself'],
      [true, 'when the buyer takes it'],
    ],
  ),
  choiceField(
    ['isAnnounced', 'The shop'],
    [
      [true, 'announces it'],
      [false, 'says nothing of it before'],
    ],
  ),
  rounding,
]
