import 'server-only'

import { writeWhere } from '@/core/notation/where-text'
import type { WhereTerm } from '@/core/predicates/where'
import type { Store } from '@/core/store/store'
import { landName } from '@/ui/format/place-names'
import type { WhereChoice, WhereChoices } from '@/ui/picker/where/where-choices'

const COUNTRIES_SHOWN = 4

/** Everywhere a rule can be for; archived channels and regions are not offered. */
export function whereChoices(store: Store): WhereChoices {
  const choice = (term: WhereTerm, name: string, about: string): WhereChoice => ({
    term,
    name,
    text: writeWhere(store, { include: [term], exclude: [] }),
    about,
  })
  const channels = [...store.channel.values()]
    .filter(({ status }) => status === 'active')
    .sort((left, right) => left.position - right.position)
  const groups = [...new Set(channels.flatMap(({ groups: own }) => own))].sort()
  return {
    channels: channels.map(({ id, name }) => choice({ kind: 'channel', channel: id }, name, '')),
    channelGroups: groups.map((group) =>
      choice(
        { kind: 'channel-group', group },
        group,
        channels
          .filter(({ groups: own }) => own.includes(group))
          .map(({ name }) => name)
          .join(', '),
      ),
    ),
    regions: [...store.region.values()]
      .filter(({ status }) => status === 'active')
      .sort((left, right) => left.position - right.position)
      .map(({ id, name, countries, isDefault }) =>
        choice({ kind: 'region', region: id }, name, isDefault ? 'all other countries' : landsOf(countries)),
      ),
  }
}

function landsOf(countries: readonly string[]): string {
  const names = countries.slice(0, COUNTRIES_SHOWN).map(landName).join(', ')
  return countries.length > COUNTRIES_SHOWN
    ? `${names} and ${countries.length - COUNTRIES_SHOWN} more`
    : names
}
