import type { Who, WhoTerm } from '../predicates/who'
import type { Store } from '../store/store'
import { findNamed, labelsOf, namesOf } from './named-text'
import type { ReadRule } from './read-rule'
import { readTerms, writeTerms } from './terms-text'

const PLAIN_WHO: Readonly<Record<string, WhoTerm>> = {
  everyone: { kind: 'everyone' },
  guests: { kind: 'guests' },
  'signed in': { kind: 'signed-in' },
  trade: { kind: 'trade' },
}

export function readWho(store: Store, text: string): ReadRule<Who> {
  return readTerms<WhoTerm>(
    text,
    (word) => readBuyer(store, word),
    () => [
      ...Object.keys(PLAIN_WHO),
      ...namesOf(store.group),
      ...namesOf(store.account),
      ...[...store.passcode.values()].map(({ name }) => `passcode ${name}`),
    ],
  )
}

function readBuyer(store: Store, word: string): WhoTerm | null {
  const plain = PLAIN_WHO[word.toLowerCase()]
  if (plain) return plain
  if (word.startsWith('#')) return { kind: 'tag', tag: word.slice(1) }
  const given = /^passcode\s+(.+)$/i.exec(word)?.[1]
  if (given) {
    const passcode = findNamed(store.passcode, given)
    return passcode && { kind: 'passcode', passcode: passcode.id }
  }
  if (word.includes('@')) return { kind: 'email', email: word.toLowerCase() }
  const group = findNamed(store.group, word)
  if (group) return { kind: 'group', group: group.id }
  const account = findNamed(store.account, word)
  return account ? { kind: 'account', account: account.id } : null
}

export function writeWho(store: Store, who: Who): string {
  return writeTerms(
    who,
    (term) => buyerLabels(store, term),
    (word) => readBuyer(store, word),
  )
}

function buyerLabels(store: Store, term: WhoTerm): readonly string[] {
  switch (term.kind) {
    case 'group':
      return labelsOf(store.group, term.group)
    case 'account':
      return labelsOf(store.account, term.account)
    case 'tag':
      return [`#${term.tag}`]
    case 'email':
      return [term.email]
    case 'passcode':
      return labelsOf(store.passcode, term.passcode).map((label) => `passcode ${label}`)
    case 'signed-in':
      return ['signed in']
    default:
      return [term.kind]
  }
}
