import { GUEST_FACTS } from '@/core/buyers/buyer'
import { type BuyerFacts, matchWho, type Who, type WhoTerm, whoTermKey } from '@/core/predicates/who'
import type { Mark } from '../mark'
import { termMoves } from '../term-sets'
import type { AccountChoice, WhoChoice, WhoChoices } from './who-choices'

const { has, takeIn, leaveOut } = termMoves(whoTermKey)
export { leaveOut, takeIn }

function factsOf({ id, groups, tags, emails }: AccountChoice, choices: WhoChoices): BuyerFacts {
  const trade = choices.groups.some((group) => group.isTrade && groups.includes(group.id))
  return { ...GUEST_FACTS, account: id, signedIn: true, groups, trade, tags, emails }
}

export interface Reach {
  readonly accounts: readonly AccountChoice[]
  readonly guests: boolean
}

/** Whom an audience reaches. */
export function reachOf(who: Who, choices: WhoChoices): Reach {
  return {
    accounts: choices.accounts.filter((account) => matchWho(who, factsOf(account, choices)).matches),
    guests: matchWho(who, GUEST_FACTS).matches,
  }
}

/** How a term stands in an audience. */
export function markOf(term: WhoTerm, who: Who, choices: WhoChoices): Mark {
  if (has(who.exclude, term)) return 'out'
  const isChosen = has(who.include, term)
  if (term.kind === 'passcode') {
    const match = matchWho(who, { ...GUEST_FACTS, passcode: term.passcode })
    if (isChosen) return 'chosen'
    return match.matches ? 'through' : 'none'
  }
  const only: Who = { include: [term], exclude: [] }
  const members = [
    ...choices.accounts.map((account) => factsOf(account, choices)),
    ...(term.kind === 'email' ? [] : [GUEST_FACTS]),
  ].filter((facts) => matchWho(only, facts).matches)
  const matches = members.map((facts) => matchWho(who, facts))
  const inside = matches.filter(({ matches: isIn }) => isIn).length
  // What is chosen and left out through something else is out: leaving out comes first.
  if (isChosen) return inside === 0 && members.length > 0 ? 'out-through' : 'chosen'
  if (inside === members.length && inside > 0) return 'through'
  if (inside > 0) return 'part'
  const isLeftOut = matches.some((match) => !match.matches && match.because === 'excluded')
  return isLeftOut ? 'out-through' : 'none'
}

/** Why an account is in or out, as the end of a sentence; `name` calls a term by its name. */
export function whyOf(
  account: AccountChoice,
  who: Who,
  choices: WhoChoices,
  name: (term: WhoTerm) => string,
): string {
  const match = matchWho(who, factsOf(account, choices))
  if (match.matches) return match.by.kind === 'account' ? 'in by name' : `in through ${name(match.by)}`
  if (match.because === 'not-included') return 'not in'
  return match.by.kind === 'account' ? 'left out by name' : `left out through ${name(match.by)}`
}

/** Every choice, whatever it is of. */
export function allChoices(choices: WhoChoices): readonly WhoChoice[] {
  return [...choices.kinds, ...choices.groups, ...choices.accounts, ...choices.tags, ...choices.passcodes]
}

/** An audience as it is typed. */
export function whoText({ include, exclude }: Who, choices: WhoChoices): string {
  const known = new Map(allChoices(choices).map(({ term, text }) => [whoTermKey(term), text]))
  const text = (term: WhoTerm) => known.get(whoTermKey(term)) ?? (term.kind === 'email' ? term.email : '')
  return [...include.map(text), ...exclude.map((term) => `not ${text(term)}`)].join(', ')
}
