import { parseAbsolute, parseDateTime, toCalendarDateTime, toZoned } from '@internationalized/date'

/** An instant as a field for day and time shows it, in a time zone. */
export function localText(instant: string, timeZone: string): string {
  return toCalendarDateTime(parseAbsolute(instant, timeZone)).toString().slice(0, 16)
}

/** The instant such a field means, ISO 8601; empty for what is no day and time. */
export function instantOf(local: string, timeZone: string): string {
  try {
    return toZoned(parseDateTime(local), timeZone).toAbsoluteString()
  } catch {
    return ''
  }
}
