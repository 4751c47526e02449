import type { Assortment } from '../access/assortment'
import type { Decimal } from '../decimal/decimal'
import type { CompiledSchedule } from '../predicates/when'
import type { BuyerFacts } from '../predicates/who'

export const CONTRACT_STATES = ['draft', 'active', 'suspended', 'ended'] as const
export type ContractState = (typeof CONTRACT_STATES)[number]

/** How a price is chosen among the lists that apply. */
export type LadderPolicy = 'first' | 'lowest'

/** What was agreed with some buyers for a period: which lists come first for them, and on which terms. */
export interface Contract {
  readonly id: string
  readonly code: string
  readonly name: string
  readonly state: ContractState
  /** Ids of the accounts and groups it binds. */
  readonly accounts: readonly string[]
  readonly groups: readonly string[]
  /** Local date and time in the store's time zone, the end outside; `null` is open. */
  readonly from: string | null
  readonly to: string | null
  /** Ids of its price lists, the first asked first. */
  readonly lists: readonly string[]
  /** Among several contracts of a buyer, 1 comes before 2. */
  readonly rank: number
  /** ISO 4217; `null` leaves it to the account. */
  readonly currency: string | null
  /** Instead of the store's; `null` leaves it. */
  readonly policy: LadderPolicy | null
  /** In its currency, else the store's. */
  readonly minimumOrder: Decimal | null
  readonly paymentTerms: string
  /** What it covers; `null` is everything. */
  readonly assortment: Assortment | null
  /** Whether promotions and adjustments leave its prices alone. */
  readonly isProtected: boolean
}

/** A contract is one with these parties; a member of a party's group is bound too. */
export function isPartyTo(contract: Contract, buyer: BuyerFacts): boolean {
  return (
    (buyer.account !== null && contract.accounts.includes(buyer.account)) ||
    contract.groups.some((group) => buyer.groups.includes(group))
  )
}

export type ContractStanding = 'in-force' | Exclude<ContractState, 'active'> | 'not-yet' | 'over'

/** Whether a contract binds at an instant, or what keeps it from binding. */
export function contractStanding(
  { state }: Contract,
  period: CompiledSchedule,
  at: number,
): ContractStanding {
  if (state !== 'active') return state
  if (at < period.from) return 'not-yet'
  return at < period.to ? 'in-force' : 'over'
}

/** The order several contracts of a buyer come in. */
export function compareContracts(left: Contract, right: Contract): number {
  return left.rank - right.rank || (left.code < right.code ? -1 : 1)
}
