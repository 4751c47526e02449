import type { Decimal } from '@/core/decimal/decimal'
import { compare, ZERO } from '@/core/decimal/decimal'
import { decimal } from '@/core/decimal/decimal'
import type { Answer } from '@/core/engine/trace'
import type { FoundLimits } from '@/core/engine/find-limits'
import { isForEverything, type LimitRule } from '@/core/limits/limit'
import { firstQuantity } from '@/core/limits/nearest-quantities'
import { limitPhrase, quantityPhrase } from '@/ui/format/terms-phrases'
import type { ShopLimits } from './shop-view'

/** What a quantity field needs to know, and says. */
export function shopLimits({ limits, together }: FoundLimits, unit: string): ShopLimits {
  const phrase = quantityPhrase({ ...limits, values: null })
  const { multiple } = limits
  const packed = multiple !== null && unit === 'each' ? `${multiple} per case. ` : ''
  const sentence = phrase === '' ? '' : `Sold ${phrase}.`
  return {
    own: limits,
    first: firstQuantity(limits, decimal(1)),
    step: multiple,
    values: limits.values,
    help: [`${packed}${sentence}`, ...together.map(togetherSentence)].filter(Boolean).join(' '),
  }
}

/** What is counted with other things, or with earlier orders: whole orders are told of in the cart. */
function togetherSentence(rule: LimitRule): string {
  if (isForEverything(rule)) return ''
  const counted = rule.counting === 'each' ? '' : ', counted with others like it'
  return `${rule.name}: ${limitPhrase({ ...rule, counting: 'each' })}${counted}.`
}

const COUNTRIES = new Intl.DisplayNames('en-IE', { type: 'region' })

export function countryName(code: string): string {
  return COUNTRIES.of(code) ?? code
}

export function stockSentence(stock: Decimal | null): string {
  if (stock === null) return ''
  return compare(stock, ZERO) > 0 ? `${stock} in stock` : 'Out of stock: we order it for you, about two weeks'
}

/** What is said where something cannot be bought; `null` where it can. */
export function notForSale({
  buy,
  quote,
  because,
}: Pick<Answer, 'buy' | 'quote' | 'because'>): string | null {
  if (buy) return null
  if (quote) return 'The price of this is agreed with each buyer: ask us for a quote.'
  switch (because?.code) {
    case 'gate':
      return 'Sign in to buy this.'
    case 'review':
      return 'You are looking around: nothing can be bought with this passcode.'
    case 'no-price':
      return 'There is no price for this yet. Ask us.'
    default:
      return 'This is not sold to you here.'
  }
}
