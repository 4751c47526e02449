import 'server-only'

import { writeWho } from '@/core/notation/who-text'
import type { WhoTerm } from '@/core/predicates/who'
import type { Store } from '@/core/store/store'
import { whoPhrase } from '@/ui/format/rule-phrases'
import type { WhoChoice, WhoChoices } from '@/ui/picker/who/who-choices'

const COUNTRIES = new Intl.DisplayNames('en-IE', { type: 'region' })

/** Everybody a rule can be for; archived records are not offered. */
export function whoChoices(store: Store): WhoChoices {
  const choice = (term: WhoTerm, name = whoPhrase(term, store)): WhoChoice => ({
    term,
    name,
    text: writeWho(store, { include: [term], exclude: [] }),
  })
  const active = <Item extends { readonly status: string }>(records: ReadonlyMap<string, Item>) =>
    [...records.values()].filter(({ status }) => status === 'active')
  const accounts = active(store.account)
  return {
    kinds: [
      choice({ kind: 'everyone' }, 'Everyone'),
      choice({ kind: 'guests' }, 'Guests'),
      choice({ kind: 'signed-in' }, 'Everyone signed in'),
      choice({ kind: 'trade' }, 'All trade groups'),
    ],
    groups: active(store.group)
      .sort((left, right) => left.position - right.position)
      .map(({ id, trade }) => ({ ...choice({ kind: 'group', group: id }), id, isTrade: trade })),
    accounts: accounts
      .map(({ id, city, country, groups, tags, emails }) => ({
        ...choice({ kind: 'account', account: id }),
        id,
        place: [city, COUNTRIES.of(country)].filter(Boolean).join(', '),
        groups,
        tags,
        emails,
      }))
      .sort((left, right) => (left.name < right.name ? -1 : 1)),
    tags: [...new Set(accounts.flatMap(({ tags }) => tags))]
      .sort()
      .map((tag) => choice({ kind: 'tag', tag }, tag)),
    passcodes: active(store.passcode).map(({ id, name }) => choice({ kind: 'passcode', passcode: id }, name)),
  }
}
