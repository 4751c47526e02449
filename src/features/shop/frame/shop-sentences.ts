import type { Product } from '@/core/catalogue/product'
import type { Decimal } from '@/core/decimal/decimal'
import { compare, ZERO } from '@/core/decimal/decimal'
import { decimal } from '@/core/decimal/decimal'
import type { FoundLimits } from '@/core/engine/rules/find-limits'
import { isForEverything, type LimitRule } from '@/core/limits/limit'
import { firstQuantity } from '@/core/limits/nearest-quantities'
import { getSettings, type Store } from '@/core/store/store'
import { capital } from '@/ui/format/capital'
import { DISPLAY_WORDS, limitPhrase, quantityPhrase } from '@/ui/format/terms-phrases'
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

/** What is counted with other things, or with earlier orders: whole orders are counted in the cart. */
function togetherSentence(rule: LimitRule): string {
  if (isForEverything(rule)) return ''
  const counted = rule.counting === 'each' ? '' : ', counted with others like it'
  if (rule.message) return rule.message
  const phrase = limitPhrase({ ...rule, counting: 'each' })
  return `${capital(phrase)}${counted}.`
}

/** What stands behind prices without tax and with it, in the merchant's own words where they have any. */
export function taxWordsOf(store: Store): { readonly net: string; readonly gross: string } {
  const { netWords, grossWords } = getSettings(store)
  return { net: netWords || DISPLAY_WORDS.net, gross: grossWords || DISPLAY_WORDS.gross }
}

/** How many can still be ordered; nothing where nobody counts. */
export function stockSentence(stock: Decimal | null, { backOrder }: Pick<Product, 'backOrder'>): string {
  if (stock === null) return ''
  if (compare(stock, ZERO) > 0) return `${stock} in stock`
  return backOrder ? 'Out of stock. We order it for you; about two weeks.' : SOLD_OUT
}

export const SOLD_OUT = 'Sold out.'
