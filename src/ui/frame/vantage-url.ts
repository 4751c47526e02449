import { type BuyerCode, isBuyerCode } from '@/core/buyers/buyer-code'

/** Where the merchant looks from: in the address, so that a link shows a colleague the same figures. */
export interface Vantage {
  readonly as: BuyerCode
  readonly buying: number
  /** The instant looked at, ISO 8601 in UTC to the minute; `null` is now. */
  readonly on: string | null
}

export const DEFAULT_VANTAGE: Vantage = { as: 'guest', buying: 1, on: null }

const LARGEST_QUANTITY = 1_000_000

/**
 * Reads the vantage from an address. Every address shows something: a field that cannot be read takes its
 * default.
 *
 * Holds  `parseVantage(serializeVantage(vantage))` is `vantage`.
 */
export function parseVantage(fields: { get(name: string): string | null }): Vantage {
  const as = fields.get('as') ?? ''
  const buying = Number(fields.get('buying') ?? '1')
  const on = fields.get('on')
  return {
    as: isBuyerCode(as) ? as : DEFAULT_VANTAGE.as,
    buying: Number.isSafeInteger(buying) && buying >= 1 && buying <= LARGEST_QUANTITY ? buying : 1,
    on: on !== null && isInstant(on) ? on : null,
  }
}

/** The fields that differ from the default, in a fixed order. */
export function serializeVantage({ as, buying, on }: Vantage): URLSearchParams {
  const fields = new URLSearchParams()
  if (as !== DEFAULT_VANTAGE.as) fields.set('as', as)
  if (buying !== DEFAULT_VANTAGE.buying) fields.set('buying', String(buying))
  if (on !== null) fields.set('on', on)
  return fields
}

/** An address with the vantage in it, other fields kept. */
export function withVantage(path: string, vantage: Vantage): string {
  const [place = '', query = ''] = path.split('?')
  const fields = new URLSearchParams(query)
  for (const name of ['as', 'buying', 'on']) fields.delete(name)
  for (const [name, value] of serializeVantage(vantage)) fields.set(name, value)
  const text = fields.toString()
  return text === '' ? place : `${place}?${text}`
}

function isInstant(text: string): boolean {
  return /^\d{4}-\d{2}-\d{2}T\d{2}:\d{2}Z$/.test(text) && !Number.isNaN(Date.parse(text))
}
