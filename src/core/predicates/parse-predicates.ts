import { compare } from '../decimal/decimal'
import type { InputReader } from '../issue/input-reader'
import type { What } from './what'
import { type DailyWindow, type Schedule, toInstant } from './when'

const TIME = /^([01]\d|2[0-3]):[0-5]\d$|^24:00$/

/** Reports what is wrong with a scope: an empty one, a price range that holds nothing. */
export function parseScope(reader: InputReader, field: string, scope: What): void {
  if (scope.include.length === 0) reader.report('empty-scope', field, '')
  for (const term of [...scope.include, ...scope.exclude]) {
    if (term.kind !== 'price-range' || term.from === null || term.to === null) continue
    if (compare(term.from, term.to) >= 0) reader.report('reversed-range', field, `${term.from}–${term.to}`)
  }
}

/** Reports what is wrong with a schedule: times that are none, windows that end before they start. */
export function parseSchedule(reader: InputReader, field: string, input: Schedule): Schedule {
  const at = (part: string) => (field === 'period' ? part : `${field}.${part}`)
  const from = localTime(reader, at('from'), input.from)
  const to = localTime(reader, at('to'), input.to)
  if (from !== null && to !== null && from >= to)
    reader.report('reversed-window', at('to'), `${from}–${to}`, from)
  for (const month of input.months)
    if (!(month >= 1 && month <= 12)) reader.report('malformed', at('months'), String(month), '1–12')
  for (const day of input.weekdays)
    if (!(day >= 1 && day <= 7)) reader.report('malformed', at('weekdays'), String(day), '1–7')
  for (const window of [input.hours, ...Object.values(input.overrides)])
    if (window) checkHours(reader, at('hours'), window)
  return { ...input, from, to }
}

function checkHours(reader: InputReader, field: string, { from, to }: DailyWindow): void {
  for (const time of [from, to]) if (!TIME.test(time)) reader.report('malformed', field, time, '17:00')
  if (from === to) reader.report('reversed-window', field, `${from}–${to}`, from)
}

/** `2027-03-01` means its midnight; one text for one time, so that texts compare like times. */
function localTime(reader: InputReader, field: string, text: string | null): string | null {
  if (text === null) return null
  const full = /^\d{4}-\d\d-\d\d$/.test(text) ? `${text}T00:00` : text
  if (!/^\d{4}-\d\d-\d\dT\d\d:\d\d$/.test(full) || !isLocalTime(full)) {
    reader.report('malformed', field, text, '2027-03-01T00:00')
    return null
  }
  return full
}

function isLocalTime(text: string): boolean {
  try {
    toInstant(text, 'UTC')
    return true
  } catch {
    return false
  }
}
