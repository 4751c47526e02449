import type { Decimal } from '@/core/decimal/decimal'
import type { RoundingRule } from '@/core/decimal/rounding'
import type { WhatTerm } from '@/core/predicates/what'
import type { WhoTerm } from '@/core/predicates/who'
import type { PriceMethod } from '@/core/price/price-list'
import type { Store } from '@/core/store/store'

/** What of the store is needed to call things by their names. */
type Names = Pick<Store, 'category' | 'product' | 'variant' | 'group' | 'account'>

/** A buyer term as words: "Bee farms", "all trade groups". */
export function whoPhrase(term: WhoTerm, store: Names): string {
  switch (term.kind) {
    case 'everyone':
      return 'everyone'
    case 'guests':
      return 'guests'
    case 'signed-in':
      return 'everyone signed in'
    case 'trade':
      return 'all trade groups'
    case 'group':
      return store.group.get(term.group)?.name ?? term.group
    case 'tag':
      return `accounts tagged “${term.tag}”`
    case 'email':
      return term.email
    case 'account':
      return store.account.get(term.account)?.name ?? term.account
  }
}

/** An item term as words: "Frames", "Brood frames FR-BR-PF", "Fabric mesh". */
export function whatPhrase(term: WhatTerm, store: Names): string {
  switch (term.kind) {
    case 'everything':
      return 'everything'
    case 'category': {
      const name = store.category.get(term.category)?.name ?? term.category
      return term.descendants ? name : `${name}, not below`
    }
    case 'attribute':
      return `${term.name} ${term.value}`
    case 'product': {
      const product = store.product.get(term.product)
      return product ? product.name : term.product
    }
    case 'variant': {
      const variant = store.variant.get(term.variant)
      const product = variant && store.product.get(variant.product)
      return variant && product ? `${product.name} ${variant.sku}` : term.variant
    }
  }
}

/** A method as words: "12 % off base", "fixed at €17.60". */
export function methodPhrase(method: PriceMethod, money: (amount: Decimal) => string): string {
  switch (method.kind) {
    case 'fixed':
      return `fixed at ${money(method.amount)}`
    case 'percent':
      if (method.percent === '0') return 'the base price'
      return method.percent.startsWith('-')
        ? `${method.percent.slice(1)} % off base`
        : `${method.percent} % on base`
    case 'amount':
      return method.amount.startsWith('-')
        ? `${money(method.amount.slice(1) as Decimal)} off base`
        : `${money(method.amount)} on base`
  }
}

const MODE_WORDS: Readonly<Record<RoundingRule['mode'], string>> = {
  'half-up': 'to the nearest',
  'half-even': 'to the nearest (ties to even)',
  up: 'up to',
  down: 'down to',
  nearest: 'to the nearest',
}

/** A rounding rule as words: "to the nearest 0.05", "up to .90". */
export function roundingPhrase(rule: RoundingRule): string {
  if (rule.kind === 'step') return `${MODE_WORDS[rule.mode]} ${rule.step}`
  const endings = rule.endings.map((ending) => endingText(ending, rule.period)).join(' or ')
  return `${MODE_WORDS[rule.mode]} ${endings}`
}

/** `.90` within a unit, `9.90` within ten. */
function endingText(ending: Decimal, period: Decimal): string {
  const [whole = '0', fraction = ''] = ending.split('.')
  const cents = `.${fraction.padEnd(2, '0')}`
  return period === '1' ? cents : `${whole}${cents}`
}
