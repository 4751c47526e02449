import 'server-only'

import { accountFacts } from '@/core/buyers/buyer'
import { type BuyerCode, findBuyer } from '@/core/buyers/buyer-code'
import type { PriceList } from '@/core/price/lines/price-list'
import { contractsHolding, isReachedBy } from '@/core/price/reached-by'
import type { Store } from '@/core/store/store'

/** Who else a list is for beside the account a column is of; nobody for columns of guests and groups, which are meant whole. */
export function othersReached(store: Store, list: PriceList, as: BuyerCode): readonly string[] {
  const buyer = findBuyer(store.group, store.account, as)
  if (buyer?.kind !== 'account') return []
  const holding = contractsHolding(store.contract.values(), list.id)
  return [...store.account.values()]
    .filter(
      (account) =>
        account.id !== buyer.account && isReachedBy(list, holding, accountFacts(store.group, account)),
    )
    .map(({ name }) => name)
}
