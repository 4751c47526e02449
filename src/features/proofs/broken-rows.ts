import 'server-only'

import type { BuyerReference } from '@/core/buyers/buyer'
import { type BuyerCode, buyerName } from '@/core/buyers/buyer-code'
import { itemName } from '@/core/catalogue/product'
import type { PreparedStore } from '@/core/engine/context/prepared-store'
import type { Verdict } from '@/core/proving/prove'
import { priceDigitsOf, type Store } from '@/core/store/store'
import { foundText } from '@/ui/format/proof-phrases'

/** Where a proof does not hold, as a screen shows it. */
export interface BrokenRow {
  readonly who: string
  readonly as: BuyerCode
  readonly title: string
  /** Empty where it is about all items together. */
  readonly sku: string
  readonly found: string
}

export function brokenRows({ store }: PreparedStore, { broken }: Verdict): readonly BrokenRow[] {
  return broken.map(({ buyer, variant, found }) => {
    const record = store.variant.get(variant ?? '')
    const product = store.product.get(record?.product ?? '')
    return {
      who: buyer.kind === 'guest' ? 'Guests' : buyerName(store.group, store.account, buyer),
      as: codeOf(store, buyer),
      title: record && product ? itemName(product, record) : 'all of it together',
      sku: record?.sku ?? '',
      found: foundText(found, (currency) => priceDigitsOf(store, currency)),
    }
  })
}

function codeOf(store: Store, buyer: BuyerReference): BuyerCode {
  if (buyer.kind === 'group') return `group:${store.group.get(buyer.group)?.code ?? ''}`
  if (buyer.kind === 'account') return `account:${store.account.get(buyer.account)?.code ?? ''}`
  return 'guest'
}

/** What a verdict comes to, as a sentence. */
export function stateText({ state, checked, held, proof }: Verdict): string {
  switch (state) {
    case 'holds':
      return checked === 1 ? 'It holds.' : `It holds for all ${checked}.`
    case 'broken':
      return checked === 1 ? 'It is broken.' : `It is broken: it holds for ${held} of ${checked}.`
    case 'idle':
      return proof.state === 'off' ? 'It is switched off.' : 'It is not asked now: its time is another.'
    case 'empty':
      return 'It is about nobody, or nothing that is sold any more, so it proves nothing. Name somebody or something else, or archive it.'
  }
}
