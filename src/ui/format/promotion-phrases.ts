import type { Decimal } from '@/core/decimal/decimal'
import type {
  Condition,
  Money,
  Promotion,
  PromotionValue,
  Saving,
  SetSaving,
} from '@/core/promotions/promotion'
import { getSettings, priceDigitsOf, type Store } from '@/core/store/store'
import { formatMoney } from './amount'
import { whatSentence } from './rule-phrases'

export const PROMOTION_KIND_NAMES: Readonly<Record<PromotionValue['kind'], string>> = {
  'item-price': 'Item price',
  'by-quantity': 'By quantity',
  set: 'Set',
  'free-goods': 'Free goods',
  order: 'Whole order',
  delivery: 'Delivery',
  payment: 'Payment',
}

function moneyWords(store: Store, { amount }: Money): string {
  const { currency } = getSettings(store)
  return formatMoney(amount, currency, priceDigitsOf(store, currency))
}

/** As it is set: 5 % and not 5.0 %. */
const percentWords = (percent: Decimal) => `${percent} %`

function savingWords(store: Store, saving: Saving, each: string): string {
  switch (saving.kind) {
    case 'percent':
      return `${percentWords(saving.percent)} less`
    case 'amount':
      return `${moneyWords(store, saving.amount)} less${each}`
    case 'price':
      return `${moneyWords(store, saving.price)}${each}`
  }
}

/** What a promotion does, as a sentence goes on after what is bought: "any 3 for €60.00 together". */
export function promotionPhrase(store: Store, value: PromotionValue): string {
  switch (value.kind) {
    case 'item-price':
      return `${savingWords(store, value.saving, ' each')}${value.closes ? ', and no other promotion' : ''}`
    case 'by-quantity':
      return value.applies === 'all'
        ? `${savingWords(store, value.saving, ' each')} from ${value.from} together`
        : `${savingWords(store, value.saving, ' each')} on what is above ${value.from} together`
    case 'set': {
      const parts = value.parts.map(({ count, scope }) =>
        scope ? `${count} of ${whatSentence(scope, store)}` : `any ${count}`,
      )
      return `${parts.join(' and ')} ${setSavingWords(store, value.saving)}`
    }
    case 'free-goods': {
      const { brackets, gift, repeats } = value
      const what =
        gift === 'same'
          ? 'more'
          : gift === 'bought'
            ? 'of them'
            : (store.variant.get(gift.variant)?.sku ?? '')
      const each = brackets.map(({ from, free }) => `with ${from} bought ${free} ${what} free`)
      return `${each.join(', ')}${repeats ? '' : ', once an order'}`
    }
    case 'order':
      return value.brackets
        .map(
          ({ from, saving }) =>
            `${savingWords(store, saving, '')}${from ? ` from ${moneyWords(store, from)}` : ''}`,
        )
        .join(', ')
    case 'delivery':
      return value.saving.kind === 'free'
        ? 'delivery free'
        : `delivery ${savingWords(store, value.saving, '')}`
    case 'payment': {
      const words = savingWords(store, value.saving, '')
      return `${value.isSurcharge ? words.replace(/ less$/, ' more') : words} when paying ${PAYING[value.payment]}`
    }
  }
}

const PAYING = { card: 'by card', terms: 'on the terms agreed' } as const

function setSavingWords(store: Store, saving: SetSaving): string {
  switch (saving.kind) {
    case 'price':
      return `for ${moneyWords(store, saving.price)} together`
    case 'cheapest-free':
      return saving.count === 1 ? 'with the cheapest free' : `with the ${saving.count} cheapest free`
    case 'percent':
    case 'amount':
      return `for ${savingWords(store, saving, '')}`
  }
}

/** What must be so, as it goes on after "if": "the order comes to €40.00". */
export function conditionPhrase(store: Store, condition: Condition): string {
  const whose = 'of' in condition && condition.of === 'scope' ? 'these goods' : 'the order'
  switch (condition.kind) {
    case 'value':
      return `${whose} ${whose === 'the order' ? 'comes' : 'come'} to ${moneyWords(store, condition.from)}`
    case 'quantity':
      return `${whose} ${whose === 'the order' ? 'holds' : 'are'} ${condition.from} units`
    case 'weight':
      return `${whose} ${whose === 'the order' ? 'weighs' : 'weigh'} ${condition.from} kg`
    case 'orders':
      return `they have ordered ${condition.from === 1 ? 'before' : `${condition.from} times`}${within(condition.days)}`
    case 'spend':
      return `they have spent ${moneyWords(store, condition.from)}${within(condition.days)}`
    case 'first-order':
      return 'it is their first order'
    case 'payment':
      return `they pay ${PAYING[condition.payment]}`
    case 'code':
      return `they type “${condition.code}”`
  }
}

function within(days: number | null): string {
  return days === null ? '' : ` within ${days} days`
}

export function conditionsPhrase(store: Store, { conditions }: Pick<Promotion, 'conditions'>): string {
  return conditions.length === 0
    ? 'whatever else is ordered'
    : `if ${conditions.map((condition) => conditionPhrase(store, condition)).join(' and ')}`
}
