import 'server-only'

/**
 * `STEPPE_CLOCK` (an ISO 8601 instant) is when the process believes to have started, so that tests and screenshots
 * show the same day of the demo whenever they run.
 */
const set = Date.parse(process.env['STEPPE_CLOCK'] ?? '')
const offset = Number.isNaN(set) ? 0 : set - Date.now()

/** The present instant: the one place the server asks the time. */
export function currentInstant(): Date {
  return new Date(Date.now() + offset)
}
