import { iso31661, iso31662 } from 'iso-3166'
import { findNearest } from '../issue/issue'
import type { InputReader } from '../issue/input-reader'
import type { Place } from './place'

/**
 * The codes of countries and of their parts.
 *
 * Source  ISO 3166-1 (officially assigned codes only) and ISO 3166-2, as the package iso-3166 has them.
 */
const COUNTRIES: ReadonlyMap<string, string> = new Map(iso31661.map(({ alpha2, name }) => [alpha2, name]))

/** Codes people use that are another country's or none: reserved ones, and Greece's in tax numbers. */
const MEANT: Readonly<Record<string, string>> = { UK: 'GB', EL: 'GR', XI: 'GB' }

let partsByCountry: ReadonlyMap<string, ReadonlyMap<string, string>> | null = null

function partsOf(country: string): ReadonlyMap<string, string> {
  if (!partsByCountry) {
    const made = new Map<string, Map<string, string>>()
    for (const { code, name } of iso31662) {
      const [owner = '', part = ''] = code.split('-')
      const known = made.get(owner) ?? new Map<string, string>()
      made.set(owner, known.set(part, name))
    }
    partsByCountry = made
  }
  return partsByCountry.get(country) ?? new Map()
}

export type ReadCode =
  { readonly ok: true; readonly code: string } | { readonly ok: false; readonly nearest: string | null }

/** A country's code in any case, made upper case; anything else with the code that was probably meant. */
export function readCountry(text: string): ReadCode {
  return readCode(COUNTRIES, text, MEANT)
}

/** The code of a part of a country, without the country: `CA`; empty is no part. */
function readState(country: string, text: string): ReadCode {
  if (text.trim() === '') return { ok: true, code: '' }
  return readCode(partsOf(country), text, {})
}

function readCode(
  codes: ReadonlyMap<string, string>,
  text: string,
  meant: Readonly<Record<string, string>>,
): ReadCode {
  const code = text.trim().toUpperCase()
  if (codes.has(code)) return { ok: true, code }
  if (meant[code] !== undefined) return { ok: false, nearest: meant[code] }
  const names = [...codes.values()]
  const name = findNearest(text.trim().slice(0, 60), names)
  const byName = name === null ? undefined : [...codes].find(([, each]) => each === name)?.[0]
  return { ok: false, nearest: byName ?? findNearest(code.slice(0, 6), [...codes.keys()]) }
}

/** Every country's code. */
export function countryCodes(): readonly string[] {
  return [...COUNTRIES.keys()]
}

/** The codes of a country's parts, without the country. */
export function partCodes(country: string): readonly string[] {
  return [...partsOf(country).keys()]
}

/** What a part of a country is called; its code where that is none. */
export function partName(country: string, part: string): string {
  return partsOf(country).get(part) ?? part
}

/** `IE` or `US-CA`, by code or by the country's name; anything else with the code that was probably meant. */
export function readLand(text: string): ReadCode {
  const typed = text.trim()
  const named = [...COUNTRIES].find(([, name]) => name.toLowerCase() === typed.toLowerCase())?.[0]
  return named === undefined ? readLandCode(typed) : { ok: true, code: named }
}

function readLandCode(text: string): ReadCode {
  const [country = '', ...rest] = text.split('-')
  const read = readCountry(country)
  if (!read.ok || rest.length === 0) return read
  const state = readState(read.code, rest.join('-'))
  if (state.ok && state.code !== '') return { ok: true, code: `${read.code}-${state.code}` }
  const nearest = state.ok ? null : state.nearest
  return { ok: false, nearest: nearest === null ? read.code : `${read.code}-${nearest}` }
}

export type ReadPlace =
  | { readonly ok: true; readonly place: Place }
  | {
      readonly ok: false
      readonly field: 'country' | 'state'
      readonly value: string
      readonly nearest: string | null
    }

/** A place whose country and state are codes, in upper case. */
export function readPlace(given: Place): ReadPlace {
  const country = readCountry(given.country)
  if (!country.ok) return { ok: false, field: 'country', value: given.country, nearest: country.nearest }
  const state = readState(country.code, given.state)
  if (!state.ok) return { ok: false, field: 'state', value: given.state, nearest: state.nearest }
  return { ok: true, place: { ...given, country: country.code, state: state.code } }
}

/** The country of a record being read; what is no country is reported with the nearest. */
export function parseCountry(reader: InputReader, field: string, text: string): string {
  const read = readCountry(text)
  if (!read.ok) reader.report('unknown', field, text, read.nearest)
  return read.ok ? read.code : text
}

/** The country and state of a record being read. */
export function parsePlace<Given extends Pick<Place, 'country' | 'state'>>(
  reader: InputReader,
  given: Given,
  prefix = '',
): Given {
  const country = parseCountry(reader, `${prefix}country`, given.country)
  const state = readState(country, given.state)
  if (!state.ok && readCountry(country).ok)
    reader.report('unknown', `${prefix}state`, given.state, state.nearest)
  return { ...given, country, state: state.ok ? state.code : given.state }
}

/** `IE`, or `US-CA` for a part of a country. */
export function parseLand(reader: InputReader, field: string, text: string): string {
  const read = readLandCode(text)
  if (!read.ok) reader.report('unknown', field, text, read.nearest)
  return read.ok ? read.code : text
}
