import { readCountry } from '../places/iso-3166'
import type { Account } from './buyer'

/**
 * The country that gave an account its tax number: the two letters it begins with, else where the account is.
 *
 * Errors  `null` without a number.
 * Source  Directive 2006/112/EC Art. 215 (from memory): numbers begin with the ISO 3166 code of the country; Greece may
 *         use EL.
 */
export function taxNumberCountry({
  taxNumber,
  country,
}: Pick<Account, 'taxNumber' | 'country'>): string | null {
  const number = taxNumber.trim().toUpperCase()
  if (number === '') return null
  const prefix = /^[A-Z]{2}(?=.*\d)/.exec(number)?.[0]
  if (prefix === undefined) return country
  if (prefix === 'EL') return 'GR'
  return readCountry(prefix).ok ? prefix : country
}
