import { placeText, PLACE_TEXT } from '@/core/engine/context/vantage'
import { findTextFault } from '@/core/issue/text-fault'
import type { OrderAddress } from '@/core/order/order'
import { readPlace } from '@/core/places/iso-3166'
import { type Place, regionsOf } from '@/core/places/place'
import type { Store } from '@/core/store/store'
import { countryName } from '@/ui/format/place-names'

/** Longer is nobody's name or street; what is cut off is refused. */
export const LONGEST_FIELD = 201
const LONGEST: Readonly<Record<string, number>> = { postcode: 20, city: 60, state: 6, reference: 60 }

const ADDRESS = ['name', 'street', 'postcode', 'city', 'state', 'country'] as const

/** Where an order or an offer goes, as far as it can be read. */
export interface ReadAddress {
  readonly address: OrderAddress
  /** As a vantage writes it. */
  readonly place: string
  readonly deliverTo: Place
  /** What is wrong, by field; more may be found. */
  readonly problems: Record<string, string>
}

/** The fields of a form as trimmed text, each cut where it is too long for anything. */
export function readFields(form: FormData): Readonly<Record<string, string>> {
  return Object.fromEntries(
    [...form.keys()]
      .filter((name) => !name.startsWith('$'))
      .map((name) => [
        name,
        String(form.get(name) ?? '')
          .trim()
          .slice(0, LONGEST_FIELD),
      ]),
  )
}

export const MALFORMED_EMAIL = 'Write it like name@example.com.'

/** Reads an address that was typed, and looks whether anything is delivered there. */
export function readAddress(store: Store, typed: Readonly<Record<string, string>>): ReadAddress {
  const problems: Record<string, string> = {}
  const address = Object.fromEntries(
    ADDRESS.map((field) => [field, typed[field] ?? '']),
  ) as unknown as OrderAddress
  for (const field of ['name', 'street', 'city'] as const)
    if (address[field] === '') problems[field] = 'This must not be empty.'
  for (const [field, value] of Object.entries(typed)) {
    const longest = LONGEST[field] ?? LONGEST_FIELD - 1
    if (value.length > longest) problems[field] = `This is too long: at most ${longest} characters.`
    if (findTextFault(value, 1)) problems[field] = 'This holds characters that are not text.'
  }
  const read = readPlace(address)
  const country = read.ok || read.field === 'state' ? address.country.toUpperCase() : ''
  const state = read.ok ? read.place.state : address.state
  if (country === '') problems['country'] = 'Choose a country.'
  else if (regionsOf(store.region, { ...address, country, state }).length === 0)
    problems['country'] =
      `We do not deliver to ${countryName(country)} yet. Choose another country, or ask us.`
  const deliverTo = { country, state, postcode: address.postcode, city: address.city }
  const place = placeText(deliverTo)
  if (!read.ok && read.field === 'state')
    problems['state'] =
      `“${address.state}” is not the code of a state of ${countryName(country)}.${read.nearest ? ` Did you mean ${read.nearest}?` : ' Leave it empty.'}`
  else if (!problems['country'] && !PLACE_TEXT.test(place))
    problems['city'] = 'This is too long, or contains a slash.'
  return { address: { ...address, country, state }, place, deliverTo, problems }
}
