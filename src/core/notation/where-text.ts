import type { Where, WhereTerm } from '../predicates/where'
import type { Store } from '../store/store'
import { findNamed, labelsOf, namesOf } from './named-text'
import type { ReadRule } from './read-rule'
import { readTerms, writeTerms } from './terms-text'

export function readWhere(store: Store, text: string): ReadRule<Where> {
  return readTerms<WhereTerm>(
    text.trim().toLowerCase() === 'everywhere' ? '' : text,
    (word) => readPlace(store, word),
    () => [...namesOf(store.channel), ...namesOf(store.region), ...channelGroups(store)],
  )
}

function channelGroups(store: Store): readonly string[] {
  return [...new Set([...store.channel.values()].flatMap(({ groups }) => groups))]
}

function readPlace(store: Store, word: string): WhereTerm | null {
  const channel = findNamed(store.channel, word)
  if (channel) return { kind: 'channel', channel: channel.id }
  const region = findNamed(store.region, word)
  if (region) return { kind: 'region', region: region.id }
  const group = channelGroups(store).find((name) => name.toLowerCase() === word.toLowerCase())
  return group === undefined ? null : { kind: 'channel-group', group }
}

export function writeWhere(store: Store, where: Where): string {
  return writeTerms(
    where,
    (term) => placeLabels(store, term),
    (word) => readPlace(store, word),
  )
}

function placeLabels(store: Store, term: WhereTerm): readonly string[] {
  if (term.kind === 'channel') return labelsOf(store.channel, term.channel)
  return term.kind === 'region' ? labelsOf(store.region, term.region) : [term.group]
}
