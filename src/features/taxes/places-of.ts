import 'server-only'

import { landName } from '@/ui/format/place-names'
import { placeKey, type RateRow } from './rates-text'

/** What the place of each row is called, by the key of the row: "Oakfell, California, United States". */
export function placesOf(rows: readonly RateRow[]): Readonly<Record<string, string>> {
  return Object.fromEntries(rows.map((row) => [placeKey(row), placePhrase(row)]))
}

function placePhrase({ city, postcode, state, country }: RateRow): string {
  const land = country === '' ? 'Everywhere' : landName(state ? `${country}-${state}` : country)
  return [city, postcode && `postcode ${postcode.replace('-', ' to ')}`, land].filter(Boolean).join(', ')
}
