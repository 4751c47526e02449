import { Temporal } from 'temporal-polyfill'

const INSTANT = /^\d{4}-\d{2}-\d{2}T\d{2}:\d{2}(:\d{2}(\.\d{1,9})?)?(Z|[+-]\d{2}:?\d{2})$/i

/** Years in which a store may look around. */
const FIRST_YEAR = 1970
const LAST_YEAR = 2200

/**
 * Epoch milliseconds of an instant such as `2027-03-01T00:00:00Z` or `2027-03-01T01:00+01:00`.
 *
 * Errors  `null` without an offset (a local time would be another instant on every machine), for a day no calendar
 *         has, and outside the years 1970 to 2200.
 * Source  RFC 3339.
 */
export function readInstant(text: string): number | null {
  if (!INSTANT.test(text)) return null
  try {
    const { epochMilliseconds } = Temporal.Instant.from(text)
    const year = new Date(epochMilliseconds).getUTCFullYear()
    return year >= FIRST_YEAR && year <= LAST_YEAR ? epochMilliseconds : null
  } catch {
    return null
  }
}

/** The midnight a day began with where the store is. */
export function startOfDay(at: Date, timeZone: string): Date {
  const instant = Temporal.Instant.fromEpochMilliseconds(at.getTime())
  return new Date(instant.toZonedDateTimeISO(timeZone).startOfDay().epochMilliseconds)
}
