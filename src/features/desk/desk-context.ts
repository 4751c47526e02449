import 'server-only'

import type { Account } from '@/core/buyers/buyer'
import { findByCode } from '@/core/catalogue/find-by-code'
import type { BuyerContext } from '@/core/engine/context/buyer-context'
import type { PreparedStore } from '@/core/engine/context/prepared-store'
import type { PricingContext } from '@/core/engine/context/pricing-context'
import { openPricingContextExactly } from '@/core/engine/price/open-pricing-context'
import { displayOf } from '@/core/engine/rules/find-tax'
import type { OrderAddress } from '@/core/order/order'
import { getSettings } from '@/core/store/store'
import type { DeskContent } from '@/server/desk/desk-shape'
import { addressesOf } from '@/server/orders/addresses-of'

/** From whose eyes, where and in what a desk order is priced. */
export interface DeskContext {
  readonly buyerContext: BuyerContext
  readonly pricingContext: PricingContext
  readonly account: Account | null
  readonly address: OrderAddress
  readonly basis: 'net' | 'gross'
}

const WALK_IN = 'Walk-in buyer'

/** Errors  `null` where the buyer's currency or the channel is gone. */
export function deskContext(prepared: PreparedStore, content: DeskContent, at: number): DeskContext | null {
  const { store } = prepared
  const account = content.account === '' ? null : findByCode(store.account, content.account)
  const channel = content.channel === '' ? null : (findByCode(store.channel, content.channel)?.id ?? null)
  const { country, name } = getSettings(store)
  const here: OrderAddress = {
    ...{ name: account?.name ?? WALK_IN, street: '', postcode: '', city: '', state: '', country },
  }
  const all = account ? addressesOf(account) : []
  const address =
    content.delivery === 'collect'
      ? { ...here, street: `Taken with them at ${name}` }
      : (all[content.address] ?? all[0] ?? here)
  const buyerContext: BuyerContext = {
    buyer: account ? { kind: 'account', account: account.id } : { kind: 'guest' },
    ...{ channel, currency: null, passcode: null, at },
    deliverTo: {
      ...{ country: address.country, state: address.state, postcode: address.postcode, city: address.city },
    },
  }
  const opened = openPricingContextExactly(prepared, buyerContext)
  if (!opened.ok) return null
  return {
    ...{ buyerContext, pricingContext: opened.value, account: account ?? null, address },
    basis: displayOf(prepared, opened.value, 'cart') === 'gross' ? 'gross' : 'net',
  }
}
