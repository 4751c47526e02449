import type { Place } from '../places/place'
import { readLand } from '../places/iso-3166'
import type { ReadRule } from './read-rule'

/**
 * A place as one phrase: `IE`, `US-CA`, `US-CA, postcode 95200-95299, city Oakfell`; `everywhere` where nothing is named.
 *
 * Holds   `readPlaceText(writePlaceText(place))` is `place` for one whose country is a code.
 */
export function writePlaceText({ country, state, postcode, city }: Place): string {
  return (
    [state ? `${country}-${state}` : country, postcode && `postcode ${postcode}`, city && `city ${city}`]
      .filter(Boolean)
      .join(', ') || 'everywhere'
  )
}

/**
 * Reads what `writePlaceText` writes, countries by name too, and without the words where it is clear: digits are a postcode,
 * anything else behind the country a town.
 *
 * Errors  the country or state that is none, with the nearest.
 */
export function readPlaceText(text: string): ReadRule<Place> {
  const typed = text.trim()
  const nowhere = { country: '', state: '', postcode: '', city: '' }
  if (typed === '' || /^(everywhere|anywhere)$/i.test(typed)) return { ok: true, value: nowhere }
  let place: Place = nowhere
  for (const [at, part] of typed.split(',').map((each, index) => [index, each.trim()] as const)) {
    if (part === '') continue
    const postcode = /^postcode\s+(.+)$/i.exec(part)?.[1]
    const city = /^(?:city|town)\s+(.+)$/i.exec(part)?.[1]
    if (postcode !== undefined) place = { ...place, postcode: postcode.toUpperCase() }
    else if (city !== undefined) place = { ...place, city }
    else if (at === 0) {
      const read = readLand(part)
      if (!read.ok)
        return {
          ok: false,
          problem: `There is no country “${part}”.${read.nearest ? ` Did you mean ${read.nearest}?` : ''}`,
        }
      const [country = '', state = ''] = read.code.split('-')
      place = { ...place, country, state }
    } else if (/\d/.test(part)) place = { ...place, postcode: part.toUpperCase() }
    else place = { ...place, city: part }
  }
  return { ok: true, value: place }
}
