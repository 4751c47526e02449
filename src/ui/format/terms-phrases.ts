import type { AccessEffect, Gate, Rights } from '@/core/access/access'
import type { LimitRule, QuantityLimits } from '@/core/limits/limit'
import type { TaxDisplay } from '@/core/places/place'

export const DISPLAY_WORDS: Readonly<Record<TaxDisplay, string>> = {
  net: 'without tax',
  gross: 'with tax',
  both: 'with and without tax',
}

export const EFFECT_WORDS: Readonly<Record<AccessEffect, string>> = {
  show: 'see and buy it',
  'buy-or-quote': 'can buy it or ask for a quote',
  'no-buying': 'cannot buy it',
  quote: 'can ask for a quote',
  'no-price': 'see no price',
  hide: 'do not see it',
}

export const GATE_WORDS: Readonly<Record<Gate, string>> = {
  open: 'open',
  'sign-in': 'sign in to see',
  'sign-in-prices': 'sign in for prices',
  'sign-in-buy': 'sign in to buy',
  passcode: 'passcode',
}

type RightsPhrase = 'hidden' | 'buy it' | 'quote only' | 'not for sale' | 'no price shown'

/** What a buyer may do, in a few words. */
export function rightsPhrase({ see, seePrice, buy, quote }: Rights): RightsPhrase {
  if (!see) return 'hidden'
  if (buy) return 'buy it'
  if (quote) return 'quote only'
  return seePrice ? 'not for sale' : 'no price shown'
}

/** The limits of one thing as words: "at least 6, in multiples of 6". */
export function quantityPhrase({ minimum, maximum, multiple, values }: QuantityLimits): string {
  return [
    minimum && `at least ${minimum}`,
    maximum && `at most ${maximum}`,
    multiple && `in multiples of ${multiple}`,
    values && `only ${values.map(({ quantity }) => quantity).join(', ')}`,
  ]
    .filter(Boolean)
    .join(', ')
}

/** What a rule limits, and what it counts. */
export function limitPhrase(rule: LimitRule): string {
  const totals = [
    rule.minimumValue && `for ${rule.minimumValue} or more`,
    rule.maximumValue && `for ${rule.maximumValue} or less`,
    rule.minimumWeight && `${rule.minimumWeight} kg or more`,
    rule.maximumWeight && `${rule.maximumWeight} kg or less`,
  ]
  const counts = { each: '', product: 'of a product', together: 'together' }[rule.counting]
  return [
    [quantityPhrase(rule), ...totals].filter(Boolean).join(', '),
    counts,
    rule.days === null ? '' : `in ${rule.days} days`,
  ]
    .filter(Boolean)
    .join(' ')
}
