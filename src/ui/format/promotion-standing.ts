import type { WhyNot } from '@/core/cart/promote/outcome'
import type { Decimal } from '@/core/decimal/decimal'
import type { Store } from '@/core/store/store'
import { formatMoney } from './amount'
import { conditionPhrase } from './promotion-phrases'

/** Amounts are in the currency of the cart. */
interface Worded {
  readonly store: Store
  readonly currency: string
  readonly digits: number
}

const LIMIT_WORDS = {
  total: 'it has been used as often as it may',
  perBuyer: 'this buyer has used it as often as they may',
  perDay: 'it has been used as often today as it may',
  perOrder: 'it has been used as often in this order as it may',
} as const

/** Why a promotion changed nothing, in words: "2 more units make it hold". */
export function whyNotWords({ store, currency, digits }: Worded, because: WhyNot): string {
  const money = (amount: Decimal) => formatMoney(amount, currency, digits)
  const nameOf = (id: string) => store.promotion.get(id)?.name ?? id
  switch (because.code) {
    case 'archived':
      return 'archived'
    case 'off':
      return 'switched off'
    case 'not-for-buyer':
      return 'is not for this buyer'
    case 'not-here':
      return 'is for another place'
    case 'not-now':
      return because.because === 'over'
        ? 'is over'
        : because.because === 'not-yet'
          ? 'has not begun'
          : 'is for other times'
    case 'condition':
      return `holds only if ${conditionPhrase(store, because.condition)}${missingWords(because, money)}`
    case 'not-for-cart':
      return 'is for nothing in this cart'
    case 'protected':
      return `leaves the prices of contract ${store.contract.get(because.contract)?.code ?? because.contract} alone`
    case 'used':
      return `loses: “${nameOf(because.by)}” comes first and has these units`
    case 'too-few':
      return `close: ${because.missing} more ${because.missing === '1' ? 'unit makes' : 'units make'} it hold`
    case 'too-little':
      return `close: ${money(because.missing)} more makes it hold`
    case 'saves-nothing':
      return 'would save nothing'
    case 'floor':
      return 'would lead below the floor'
    case 'used-up':
      return LIMIT_WORDS[because.limit]
    case 'offered':
      return `is offered, and would save ${money(because.saving)}`
    case 'declined':
      return 'was left by the buyer'
    case 'no-gift':
      return `has no ${store.variant.get(because.variant)?.sku ?? 'gift'} to give`
    case 'no-rate':
      return `has no exchange rate into ${currency}`
  }
}

function missingWords(
  { condition, missing }: Extract<WhyNot, { readonly code: 'condition' }>,
  money: (amount: Decimal) => string,
): string {
  if (missing === null) return ''
  switch (condition.kind) {
    case 'value':
      return `; ${money(missing)} is missing`
    case 'weight':
      return `; ${missing} kg are missing`
    case 'quantity':
      return `; ${missing} ${missing === '1' ? 'unit is' : 'units are'} missing`
    case 'orders':
    case 'spend':
    case 'first-order':
    case 'payment':
    case 'code':
      return ''
  }
}
