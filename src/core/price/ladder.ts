import type { WhoTerm } from '../predicates/who'

/** The rungs a price can come from, top to bottom; the base price stands below them all. */
const RUNGS = ['contract', 'account', 'group', 'signed-in', 'everyone'] as const
export type Rung = (typeof RUNGS)[number]

const RUNG_OF: Readonly<Record<WhoTerm['kind'], Rung>> = {
  account: 'account',
  email: 'account',
  passcode: 'group',
  tag: 'group',
  group: 'group',
  trade: 'group',
  'signed-in': 'signed-in',
  guests: 'signed-in',
  everyone: 'everyone',
}

/**
 * The rung a list stands on for a buyer: decided by the most specific term of its audience that holds
 * them, so one list can be an account list to one buyer and a group list to another. A list of a contract
 * that binds the buyer stands on the rung of contracts.
 */
export function rungOf(term: WhoTerm): Rung {
  return RUNG_OF[term.kind]
}

export function compareRungs(left: Rung, right: Rung): number {
  return RUNGS.indexOf(left) - RUNGS.indexOf(right)
}

/** Whether a rung is the buyer's own: lists on it are made for them or their kind, not for whoever comes. */
export function isOwnRung(rung: Rung): boolean {
  return rung === 'contract' || rung === 'account' || rung === 'group'
}
