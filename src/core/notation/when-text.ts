import {
  parseScheduleText,
  readEnd,
  readHours,
  readLocal,
  writeEnd,
  writeLocal,
} from '../predicates/schedule-text'
import { ALWAYS, type DailyWindow, type Schedule } from '../predicates/when'
import type { ReadRule } from './read-rule'

export const WEEKDAYS = [
  'Monday',
  'Tuesday',
  'Wednesday',
  'Thursday',
  'Friday',
  'Saturday',
  'Sunday',
] as const
export const MONTHS = [
  'January',
  'February',
  'March',
  'April',
  'May',
  'June',
  'July',
  'August',
  'September',
  'October',
  'November',
  'December',
] as const

/** `1 March 2027`, with its time where it is not midnight: `1 March 2027 09:30`. */
export function writeDate(local: string | null): string {
  return spoken(writeLocal(local))
}

/** The end of a period by its last day, as `writeEnd` has it. */
export function writeLastDay(local: string | null): string {
  return spoken(writeEnd(local))
}

function spoken(text: string): string {
  const [, year, month, day, time] = /^(\d{4})-(\d{2})-(\d{2})(?: (\d{2}:\d{2}))?$/.exec(text) ?? []
  if (!year) return text
  return `${Number(day)} ${MONTHS[Number(month) - 1]} ${year}${time ? ` ${time}` : ''}`
}

/**
 * When something holds, as a sentence has it: `from 1 March 2027 until 31 May 2027, in March and April, Mondays to Fridays,
 * 16:00 to 18:00, but Saturdays 10:00 to 12:00, but Sundays closed`; `always` where nothing limits it.
 *
 * Holds   `readWhen(writeWhen(schedule))` is `schedule`.
 */
export function writeWhen({ from, to, months, weekdays, hours, overrides }: Schedule): string {
  const window = [...(from ? [`from ${writeDate(from)}`] : []), ...(to ? [`until ${writeLastDay(to)}`] : [])]
  return (
    [
      window.join(' '),
      months.length > 0 ? `in ${writeRanges(months, MONTHS, '')}` : '',
      weekdays.length > 0 ? writeRanges(weekdays, WEEKDAYS, 's') : '',
      hours ? writeWindow(hours) : '',
      ...Object.entries(overrides).map(
        ([day, own]) => `but ${WEEKDAYS[Number(day) - 1]}s ${own ? writeWindow(own) : 'closed'}`,
      ),
    ]
      .filter((part) => part !== '')
      .join(', ') || 'always'
  )
}

function writeWindow({ from, to }: DailyWindow): string {
  return `${from} to ${to}`
}

/** Numbers that follow each other, three or more, as `March to May`. */
function writeRanges(numbers: readonly number[], names: readonly string[], plural: string): string {
  const runs: (readonly [first: number, last: number])[] = []
  for (const number of numbers) {
    const [first, last] = runs.at(-1) ?? [0, -1]
    if (last === number - 1) runs[runs.length - 1] = [first, number]
    else runs.push([number, number])
  }
  const name = (number: number) => `${names[number - 1]}${plural}`
  return runs
    .flatMap(([first, last]) =>
      last - first > 1
        ? [`${name(first)} to ${name(last)}`]
        : last > first
          ? [name(first), name(last)]
          : [name(first)],
    )
    .join(' and ')
}

/**
 * Reads what `writeWhen` writes and what people type for it: parts between commas or semicolons, days and months by three
 * letters or more, `weekends`, `only in 2027`; the short form of `scheduleText` too.
 *
 * Errors  the part that was not understood.
 */
export function readWhen(text: string): ReadRule<Schedule> {
  let schedule: Schedule = ALWAYS
  for (const part of text.split(/[,;]/)) {
    const typed = part.trim()
    if (typed === '') continue
    const read = readPart(typed, schedule)
    if (!read)
      return {
        ok: false,
        problem: `“${typed}” was not understood. Write it like “from 1 March 2027, Mondays to Fridays, 16:00 to 18:00”.`,
      }
    schedule = { ...schedule, ...read }
  }
  if (schedule.from !== null && schedule.to !== null && schedule.from >= schedule.to)
    return {
      ok: false,
      problem: `It ends on ${writeLastDay(schedule.to)}, before it starts on ${writeDate(schedule.from)}.`,
    }
  return { ok: true, value: schedule }
}

const EVERY_DAY: readonly number[] = []

function readPart(part: string, { months, weekdays, overrides }: Schedule): Partial<Schedule> | null {
  const lower = part.toLowerCase()
  if (/^(always|any time|every day|every month|all day|all year)$/.test(lower)) return {}
  if (/^(weekends|at weekends)$/.test(lower)) return { weekdays: [6, 7] }
  if (/^(weekdays|every weekday|on weekdays|working days)$/.test(lower)) return { weekdays: [1, 2, 3, 4, 5] }
  const year = /^(?:only )?in (\d{4})$/.exec(lower)?.[1]
  if (year) return { from: `${year}-01-01T00:00`, to: `${Number(year) + 1}-01-01T00:00` }
  const window = /^(?:(?:from|starting)\s+(.+?))?\s*(?:(?:to|until|till)\s+(.+))?$/i.exec(part)
  if (window && (window[1] || window[2])) {
    const [from, to] = [readLocal(window[1] ?? ''), readEnd(window[2] ?? '')]
    if (from !== undefined && to !== undefined)
      return { ...(from !== null && { from }), ...(to !== null && { to }) }
  }
  const hours = readWindow(lower.replace(/^from /, ''))
  if (hours) return { hours }
  const own = readOverride(lower)
  if (own) return { overrides: { ...overrides, ...own } }
  const days = readRanges(lower.replace(/^(on|every) /, ''), WEEKDAYS)
  if (days) return { weekdays: union(weekdays, days) }
  const named = readRanges(lower.replace(/^in /, ''), MONTHS)
  if (named) return { months: union(months, named) }
  const short = parseScheduleText(part)
  return short.ok ? changedOf(short.value) : null
}

function changedOf(schedule: Schedule): Partial<Schedule> {
  return Object.fromEntries(
    Object.entries(schedule).filter(([field, value]) => value !== ALWAYS[field as keyof Schedule]),
  )
}

function union(numbers: readonly number[], more: readonly number[]): readonly number[] {
  return [...new Set([...numbers, ...more])].sort((left, right) => left - right)
}

function readWindow(text: string): DailyWindow | null {
  return readHours(text.replace(/\s*(?:to|until|–|-)\s*/, '-').replace(/\b(\d):/g, '0$1:')) ?? null
}

/** `saturdays 10:00 to 12:00` or `sundays closed`. */
function readOverride(text: string): Schedule['overrides'] | null {
  const [, names = '', rest = ''] = /^(?:but\s+)?(?:on\s+)?(\p{Letter}+)\s+(closed|\d.*)$/u.exec(text) ?? []
  const days = readRanges(names, WEEKDAYS)
  const hours = rest === 'closed' ? null : readWindow(rest)
  if (!days || (hours === null && rest !== 'closed')) return null
  return Object.fromEntries(days.map((day) => [day, hours]))
}

/** `mondays to fridays and sundays` as numbers from 1; `null` when a word is none of the names. */
function readRanges(text: string, names: readonly string[]): readonly number[] | null {
  const found: number[] = []
  for (const part of text.split(/\s+and\s+/)) {
    const range = /^(\p{Letter}+)(?:\s+to\s+|\s*[–-]\s*)(\p{Letter}+)$/u.exec(part)
    const [first, last] = range ? [numberOf(range[1], names), numberOf(range[2], names)] : [0, 0]
    if (range) {
      if (first === 0 || last === 0) return null
      for (let number = first; ; number = (number % names.length) + 1) {
        found.push(number)
        if (number === last) break
      }
      continue
    }
    const numbers = part.split(/\s+/).map((word) => numberOf(word, names))
    if (numbers.includes(0)) return null
    found.push(...numbers)
  }
  return union(EVERY_DAY, found)
}

function numberOf(word: string | undefined, names: readonly string[]): number {
  const typed = (word ?? '').replace(/s$/, '')
  if (typed.length < 3) return 0
  return names.findIndex((name) => name.toLowerCase().startsWith(typed)) + 1
}
