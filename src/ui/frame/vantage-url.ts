import { isBuyerCode } from '@/core/buyers/buyer-code'
import { PLACE_TEXT, type Vantage } from '@/core/engine/context/vantage'
import { readInstant } from '@/core/predicates/instant'

export const DEFAULT_VANTAGE: Vantage = {
  as: 'guest',
  buying: 1,
  channel: null,
  deliverTo: null,
  currency: null,
  on: null,
  draft: null,
}

const LARGEST_QUANTITY = 1_000_000

/** What each part of the vantage is called in an address. */
const FIELDS = {
  as: 'as',
  buying: 'buying',
  channel: 'via',
  deliverTo: 'to',
  currency: 'paying',
  on: 'on',
  draft: 'draft',
} as const

/**
 * Reads the vantage from an address. Every address shows something: a field that cannot be read takes its
 * default.
 *
 * Holds  `parseVantage(serializeVantage(vantage))` is `vantage`.
 */
export function parseVantage(fields: { get(name: string): string | null }): Vantage {
  const as = fields.get(FIELDS.as) ?? ''
  const buying = fields.get(FIELDS.buying) ?? ''
  const on = fields.get(FIELDS.on)
  const matching = (name: string, pattern: RegExp) => {
    const text = fields.get(name)
    return text !== null && pattern.test(text) ? text : null
  }
  return {
    as: isBuyerCode(as) ? as : DEFAULT_VANTAGE.as,
    buying: isQuantity(buying) ? Number(buying) : 1,
    channel: matching(FIELDS.channel, /^\S{1,100}$/),
    deliverTo: matching(FIELDS.deliverTo, PLACE_TEXT),
    currency: matching(FIELDS.currency, /^[A-Z]{3}$/),
    on: readOn(on),
    draft: matching(FIELDS.draft, /^\S{1,100}$/),
  }
}

/** The fields that differ from the default, in a fixed order. */
export function serializeVantage(vantage: Vantage): URLSearchParams {
  const fields = new URLSearchParams()
  for (const part of Object.keys(FIELDS) as (keyof Vantage)[]) {
    const value = vantage[part]
    if (value !== null && value !== DEFAULT_VANTAGE[part]) fields.set(FIELDS[part], String(value))
  }
  return fields
}

/** An address with the vantage in it, other fields kept. */
export function withVantage(path: string, vantage: Vantage): string {
  const [place = '', query = ''] = path.split('?')
  const fields = new URLSearchParams(query)
  for (const name of Object.values(FIELDS)) fields.delete(name)
  for (const [name, value] of serializeVantage(vantage)) fields.set(name, value)
  const text = fields.toString()
  return text === '' ? place : `${place}?${text}`
}

/** Whole or with up to three digits behind the point, above zero. */
export function isQuantity(text: string): boolean {
  return /^\d+(\.\d{1,3})?$/.test(text) && Number(text) > 0 && Number(text) <= LARGEST_QUANTITY
}

/** An instant, or a day alone, which is looked at in its middle: it is the same day in every time zone of the trade. */
function readOn(text: string | null): string | null {
  const on = text !== null && /^\d{4}-\d{2}-\d{2}$/.test(text) ? `${text}T12:00Z` : text
  return on !== null && isInstant(on) ? on : null
}

function isInstant(text: string): boolean {
  return /^\d{4}-\d{2}-\d{2}T\d{2}:\d{2}Z$/.test(text) && readInstant(text) !== null
}
