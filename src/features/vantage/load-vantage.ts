import 'server-only'

import { currenciesTaken, getSettings, type Store } from '@/core/store/store'
import { latestChangeSets } from '@/server/changes/history'
import type { Steppe } from '@/server/engine/steppe'
import { currentInstant } from '@/server/clock'
import { formatDay } from '@/ui/format/instant'
import type { BuyerChoice, VantageView } from './vantage-view'

const MOMENTS = 40
const MINUTE = 60_000

/** Everybody one can look as, and the moments one can look at. */
export async function loadVantage(steppe: Steppe, store: Store): Promise<VantageView> {
  const { timeZone, country } = getSettings(store)
  const sets = await latestChangeSets(steppe, MOMENTS)
  return {
    buyers: [
      { as: 'guest', name: 'Guest', about: 'not signed in', section: 'Everyone' },
      ...groups(store),
      ...accounts(store),
      ...tagsAndOthers(store),
    ],
    moments: sets
      .filter(({ id }) => id > 1)
      .map(({ at, note }) => ({
        on: toMinute(new Date(Math.floor(at.getTime() / MINUTE) * MINUTE - MINUTE)),
        label: `${formatDay(at, timeZone)}, before “${note}”`,
      })),
    channels: [...store.channel.values()]
      .filter(({ status }) => status === 'active')
      .sort((left, right) => left.position - right.position),
    places: placesOf(store, country),
    currencies: currenciesTaken(store),
    following: Object.fromEntries(
      [...store.account.values()].map((account) => [`account:${account.code}`, account.country]),
    ),
    timeZone,
    now: currentInstant().toISOString(),
  }
}

/** The countries of all regions, the store's own first. */
function placesOf(store: Store, home: string): VantageView['places'] {
  const names = new Intl.DisplayNames('en-IE', { type: 'region' })
  const codes = [home, ...[...store.region.values()].flatMap(({ countries }) => countries)]
  return [...new Set(codes)].map((code) => {
    const [country = '', state] = code.split('-')
    return { code, name: state ? `${names.of(country)}, ${state}` : (names.of(country) ?? code) }
  })
}

function groups(store: Store): readonly BuyerChoice[] {
  return [...store.group.values()]
    .sort((left, right) => left.position - right.position)
    .map(({ code, name, trade }) => ({
      as: `group:${code}`,
      name,
      about: trade ? 'trade group' : 'group',
      section: 'Groups',
    }))
}

function accounts(store: Store): readonly BuyerChoice[] {
  return [...store.account.values()].map(({ code, name, city, country, groups: ids }) => {
    const memberOf = ids.map((id) => store.group.get(id)?.name ?? id).join(', ')
    return { as: `account:${code}`, name, about: `${memberOf} · ${city}, ${country}`, section: 'Accounts' }
  })
}

/** Whoever has a tag, a passcode, or an e-mail address that a rule names. */
function tagsAndOthers(store: Store): readonly BuyerChoice[] {
  const section = 'Tags, passcodes and e-mails' as const
  const tags = [...new Set([...store.account.values()].flatMap((account) => account.tags))].sort()
  const emails = new Set(
    (['price-list', 'adjustment', 'limit', 'access-rule', 'promotion'] as const)
      .flatMap((kind) => [...store[kind].values()])
      .flatMap(({ audience }) => [...audience.include, ...audience.exclude])
      .flatMap((term) => (term.kind === 'email' ? [term.email] : [])),
  )
  return [
    ...tags.map((tag): BuyerChoice => ({
      as: `tag:${tag}`,
      name: `Tagged ${tag}`,
      about: 'tag alone',
      section,
    })),
    ...[...store.passcode.values()]
      .filter(({ status }) => status === 'active')
      .map(({ code, name }): BuyerChoice => ({
        as: `passcode:${code}`,
        name: `Guest with ${name}`,
        about: 'passcode',
        section,
      })),
    ...[...emails].map((email): BuyerChoice => ({
      as: `email:${email}`,
      name: email,
      about: 'e-mail',
      section,
    })),
  ]
}

function toMinute(instant: Date): string {
  return `${instant.toISOString().slice(0, 16)}Z`
}
