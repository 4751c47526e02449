import { ALWAYS, type DailyWindow, type Schedule } from './when'

const DAYS = ['Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat', 'Sun']
const MONTHS = ['Jan', 'Feb', 'Mar', 'Apr', 'May', 'Jun', 'Jul', 'Aug', 'Sep', 'Oct', 'Nov', 'Dec']

/** Days named by their first three letters, between blanks or commas; `null` when one is none. */
function readWeekdays(text: string): readonly number[] | null {
  return readNames(text, DAYS)
}

function writeWeekdays(weekdays: readonly number[]): string {
  return weekdays.map((day) => DAYS[day - 1]).join(' ')
}

function readMonths(text: string): readonly number[] | null {
  return readNames(text, MONTHS)
}

function writeMonths(months: readonly number[]): string {
  return months.map((month) => MONTHS[month - 1]).join(' ')
}

/**
 * A day, with a time where one is given, in the store’s time zone: `2027-03-01`, `1 March 2027`, `Mar 1, 2027`, `1.3.2027`,
 * `01/03/2027 09:30`. Of two numbers that both could be the month, the second is (common practice in Europe, no source).
 *
 * Errors  `null` when empty, `undefined` when it is no date.
 */
export function readLocal(text: string): string | null | undefined {
  const typed = text.trim()
  if (typed === '') return null
  const [, date = '', hour = '0', minute = '00'] = /^(.*\d)(?:(?:T|,?\s+(?:at\s+)?)(\d{1,2}):(\d{2}))$/.exec(
    typed,
  ) ?? ['', typed]
  const day = readDay(date)
  if (day === null) return undefined
  const local = `${day}T${hour.padStart(2, '0')}:${minute}`
  return new Date(`${local}Z`).toJSON()?.startsWith(local) ? local : undefined
}

function readDay(text: string): string | null {
  if (/^\d{4}-\d{2}-\d{2}$/.test(text)) return text
  const numbers = /^(\d{1,2})[./](\d{1,2})[./](\d{4})$/.exec(text)
  if (numbers) {
    const [, first = '', second = '', year = ''] = numbers
    return Number(second) > 12 ? isoDay(year, first, second) : isoDay(year, second, first)
  }
  const [, day, name, year] =
    /^(\d{1,2})(?:st|nd|rd|th|\.)?\s+(\p{Letter}{3,})\.?,?\s+(\d{4})$/u.exec(text) ?? []
  if (day && name && year) return namedDay(day, name, year)
  const [, first, number, second] = /^(\p{Letter}{3,})\.?\s+(\d{1,2}),?\s+(\d{4})$/u.exec(text) ?? []
  return first && number && second ? namedDay(number, first, second) : null
}

function namedDay(day: string, name: string, year: string): string | null {
  const [month] = readMonths(name) ?? []
  return month === undefined ? null : isoDay(year, String(month), day)
}

function isoDay(year: string, month: string, day: string): string {
  return `${year}-${month.padStart(2, '0')}-${day.padStart(2, '0')}`
}

export function writeLocal(local: string | null): string {
  return local === null ? '' : local.replace('T00:00', '').replace('T', ' ')
}

const DAY = 86_400_000

function movedBy(days: number, day: string): string {
  return new Date(Date.parse(`${day}T00:00Z`) + days * DAY).toISOString().slice(0, 10)
}

/**
 * The end of a period as people say it: a day alone is the last on which it holds, so that what is stored is the midnight
 * behind it; with a time it is that instant. `null` when empty, `undefined` when it is no date.
 */
export function readEnd(text: string): string | null | undefined {
  const local = readLocal(text)
  return local && !/\d:\d\d$/.test(text.trim()) ? `${movedBy(1, local.slice(0, 10))}T00:00` : local
}

/** Holds  `readEnd(writeEnd(local))` is `local`. */
export function writeEnd(local: string | null): string {
  return local?.endsWith('T00:00') ? movedBy(-1, local.slice(0, 10)) : writeLocal(local)
}

/** `17:00-19:00`; `null` when empty, `undefined` when it is none. */
export function readHours(text: string): DailyWindow | null | undefined {
  if (text === '') return null
  const match = /^([01]\d:[0-5]\d|2[0-3]:[0-5]\d)\s*[-–]\s*([01]\d:[0-5]\d|2[0-3]:[0-5]\d|24:00)$/.exec(text)
  return match ? { from: match[1] as string, to: match[2] as string } : undefined
}

function writeHours(hours: DailyWindow | null): string {
  return hours ? `${hours.from}-${hours.to}` : ''
}

/** `Sat 10:00-12:00, Sun closed`: other hours on single weekdays; `null` when it cannot be read. */
function readOverrides(text: string): Schedule['overrides'] | null {
  const overrides: Record<string, DailyWindow | null> = {}
  for (const part of text
    .split(',')
    .map((each) => each.trim())
    .filter(Boolean)) {
    const [, name = '', rest = ''] = /^(\p{Letter}+)\s+(.+)$/u.exec(part) ?? []
    const [day] = readWeekdays(name) ?? []
    const hours = rest.toLowerCase() === 'closed' ? null : readHours(rest)
    if (day === undefined || hours === undefined || (hours === null && rest.toLowerCase() !== 'closed'))
      return null
    overrides[day] = hours
  }
  return overrides
}

function writeOverrides(overrides: Schedule['overrides']): string {
  return Object.entries(overrides)
    .map(([day, hours]) => `${DAYS[Number(day) - 1]} ${hours ? writeHours(hours) : 'closed'}`)
    .join(', ')
}

/**
 * A whole schedule as one line, its parts between semicolons: `from 2027-03-01 to 2027-05-31; Mar Apr; Mon Tue;
 * 17:00-19:00; Sat 10:00-12:00, Sun closed`. Empty is always.
 *
 * Errors  the part that cannot be read.
 * Holds   `parseScheduleText(scheduleText(schedule))` is `schedule`.
 */
export function parseScheduleText(
  text: string,
): { readonly ok: true; readonly value: Schedule } | { readonly ok: false; readonly part: string } {
  let schedule: Schedule = ALWAYS
  for (const part of text
    .split(';')
    .map((each) => each.trim())
    .filter(Boolean)) {
    const read = readPart(part)
    if (!read) return { ok: false, part }
    schedule = { ...schedule, ...read }
  }
  return { ok: true, value: schedule }
}

function readPart(part: string): Partial<Schedule> | null {
  if (part.toLowerCase() === 'always') return {}
  const window = /^(?:from\s+(\S+(?:\s+\d\S*)?))?\s*(?:(?:to|until)\s+(\S+(?:\s+\d\S*)?))?$/i.exec(part)
  if (window && (window[1] || window[2])) {
    const [from, to] = [readLocal(window[1] ?? ''), readEnd(window[2] ?? '')]
    if (from === undefined || to === undefined) return null
    return { ...(from !== null && { from }), ...(to !== null && { to }) }
  }
  const hours = readHours(part)
  if (hours) return { hours }
  const weekdays = readWeekdays(part)
  if (weekdays) return { weekdays }
  const months = readMonths(part)
  if (months) return { months }
  const overrides = readOverrides(part)
  return overrides && { overrides }
}

export function scheduleText({ from, to, months, weekdays, hours, overrides }: Schedule): string {
  const window = [...(from ? [`from ${writeLocal(from)}`] : []), ...(to ? [`to ${writeEnd(to)}`] : [])]
  return [
    window.join(' '),
    writeMonths(months),
    writeWeekdays(weekdays),
    writeHours(hours),
    writeOverrides(overrides),
  ]
    .filter((part) => part !== '')
    .join('; ')
}

/** Names out of a few, between blanks or commas, by their first three letters. */
function readNames(text: string, names: readonly string[]): readonly number[] | null {
  const words = text.split(/[\s,]+/).filter(Boolean)
  const numbers = words.map(
    (word) => names.findIndex((each) => word.toLowerCase().startsWith(each.toLowerCase())) + 1,
  )
  return numbers.includes(0) ? null : [...new Set(numbers)].sort((left, right) => left - right)
}
