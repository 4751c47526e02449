import 'server-only'

import { currenciesTaken, getSettings, type Store } from '@/core/store/store'
import { latestChangeSets } from '@/server/changes/history'
import type { Steppe } from '@/server/engine/steppe'
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
    now: new Date().toISOString(),
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

function toMinute(instant: Date): string {
  return `${instant.toISOString().slice(0, 16)}Z`
}
