import { partName } from '@/core/places/iso-3166'

const COUNTRIES = new Intl.DisplayNames('en-IE', { type: 'region' })
const CURRENCIES = new Intl.DisplayNames('en-IE', { type: 'currency' })

/** "Ireland" for `IE`; a code that means none as it is. */
export function countryName(code: string): string {
  return /^[A-Z]{2}$/.test(code) ? (COUNTRIES.of(code) ?? code) : code
}

/** "Ireland" for `IE`, "California, United States" for `US-CA`. */
export function landName(code: string): string {
  const [country = '', part] = code.split('-')
  return part ? `${partName(country, part)}, ${countryName(country)}` : countryName(country)
}

/** "pound sterling" for `GBP`. */
export function currencyName(code: string): string {
  return /^[A-Z]{3}$/.test(code) ? (CURRENCIES.of(code) ?? code) : code
}
