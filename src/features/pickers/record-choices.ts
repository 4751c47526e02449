import 'server-only'

import { MINOR_DIGITS } from '@/core/currency/iso-4217'
import { writeNamed } from '@/core/notation/named-text'
import { countryCodes, partCodes } from '@/core/places/iso-3166'
import { getSettings, type Store } from '@/core/store/store'
import { countryName, currencyName, landName } from '@/ui/format/place-names'
import type { ChoiceSource, NamedKind, RecordChoice, RecordChoices } from '@/ui/picker/records/record-choices'

/** What a new one made on the way is called; others need more than a name. */
const MAKES: Readonly<Partial<Record<ChoiceSource, string>>> = {
  account: 'account',
  group: 'group',
  category: 'category',
  'price-family': 'price family',
  'price-list': 'contract price list',
  channel: 'channel',
  'tax-class': 'tax class',
  tax: 'tax',
}

/** Everything that can be chosen of a kind, in the order people look for it; archived records are not offered. */
export function recordChoices(store: Store, from: ChoiceSource): RecordChoices {
  return { choices: choicesOf(store, from), makes: MAKES[from] ?? null }
}

function choicesOf(store: Store, from: ChoiceSource): readonly RecordChoice[] {
  switch (from) {
    case 'tag':
      return words([...store.account.values()].flatMap(({ tags }) => tags))
    case 'channel-group':
      return words([...store.channel.values()].flatMap(({ groups }) => groups))
    case 'country':
      return countries(store, countryCodes())
    case 'land':
      return countries(store, [...countryCodes(), ...ownStates(store)])
    case 'currency': {
      const own = [getSettings(store).currency, ...store.currency.keys()]
      return own.map((code) => ({ value: code, name: currencyName(code), about: code, isOwn: true }))
    }
    case 'iso-currency': {
      const own = new Set([getSettings(store).currency, ...store.currency.keys()])
      return byName(
        [...MINOR_DIGITS.keys()].map((code) => ({
          value: code,
          name: currencyName(code),
          about: code,
          isOwn: own.has(code),
        })),
      )
    }
    case 'time-zone':
      return Intl.supportedValuesOf('timeZone').map((zone) => ({
        value: zone,
        name: zone.replaceAll('_', ' '),
        about: '',
        isOwn: zone === getSettings(store).timeZone,
      }))
    default:
      return byName(named(store, from))
  }
}

function named(store: Store, from: NamedKind): readonly RecordChoice[] {
  const records = store[from] as ReadonlyMap<
    string,
    { readonly id: string; readonly code: string; readonly name: string; readonly status?: string }
  >
  return [...records.values()]
    .filter(({ status }) => status !== 'archived')
    .map(({ id, code, name }) => ({
      value: writeNamed(records, id),
      name,
      about: aboutOf(store, from, id, code),
      isOwn: true,
    }))
}

function aboutOf(store: Store, from: NamedKind, id: string, code: string): string {
  switch (from) {
    case 'account': {
      const account = store.account.get(id)
      return [account?.city, account && countryName(account.country)].filter(Boolean).join(', ')
    }
    case 'price-list':
      return store['price-list'].get(id)?.purpose ?? ''
    case 'category': {
      const parent = store.category.get(id)?.parent
      return parent ? (store.category.get(parent)?.name ?? '') : ''
    }
    case 'product':
      return code
    default:
      return ''
  }
}

function words(all: readonly string[]): readonly RecordChoice[] {
  return [...new Set(all)].sort().map((word) => ({ value: word, name: word, about: '', isOwn: true }))
}

/** Where the store's own places are. */
function ownLands(store: Store): ReadonlySet<string> {
  return new Set([
    getSettings(store).country,
    ...[...store.region.values()].flatMap(({ countries: lands }) => lands),
    ...[...store.account.values()].map(({ country }) => country),
    ...[...store['tax-rate'].values()].map(({ country }) => country),
  ])
}

/** States of the countries that the store's taxes or regions already tell apart by state. */
function ownStates(store: Store): readonly string[] {
  const divided = new Set([
    ...[...store['tax-rate'].values()].flatMap(({ country, state }) => (state ? [country] : [])),
    ...[...store.region.values()].flatMap(({ countries: lands }) =>
      lands.filter((land) => land.includes('-')).map((land) => land.slice(0, 2)),
    ),
  ])
  return [...divided].flatMap((country) => partCodes(country).map((part) => `${country}-${part}`))
}

function countries(store: Store, codes: readonly string[]): readonly RecordChoice[] {
  const own = ownLands(store)
  return byName(
    codes.map((code) => ({ value: code, name: landName(code), about: code, isOwn: own.has(code) })),
  )
}

function byName(choices: readonly RecordChoice[]): readonly RecordChoice[] {
  return [...choices].sort((left, right) => left.name.localeCompare(right.name, 'en'))
}
