import { type BuyerFacts, matchWho } from '../predicates/who'
import { type Contract, isPartyTo } from './contract'
import type { PriceList } from './lines/price-list'

/** The contracts in force or still to come that hold a list, in no particular order. */
export function contractsHolding(contracts: Iterable<Contract>, list: string): readonly Contract[] {
  return [...contracts].filter(({ state, lists }) => state === 'active' && lists.includes(list))
}

/** Whether a list is asked for a buyer at any time: through its audience, or through a contract that holds it. */
export function isReachedBy(
  { audience }: PriceList,
  holding: readonly Contract[],
  buyer: BuyerFacts,
): boolean {
  return matchWho(audience, buyer).matches || holding.some((contract) => isPartyTo(contract, buyer))
}
