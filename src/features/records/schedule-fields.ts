import 'server-only'

import { ALWAYS, type DailyWindow, type Schedule } from '@/core/predicates/when'
import { whenSentence } from '@/ui/format/rule-phrases'
import { type FieldRule, type Fields, optionalField } from './field-rule'

const DAYS = ['Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat', 'Sun']
const MONTHS = ['Jan', 'Feb', 'Mar', 'Apr', 'May', 'Jun', 'Jul', 'Aug', 'Sep', 'Oct', 'Nov', 'Dec']

/** One part of a schedule, edited by itself. */
function scheduleField(
  part: string,
  label: string,
  hint: string,
  write: (schedule: Schedule) => string,
  read: (text: string) => Partial<Schedule> | null,
): FieldRule {
  return {
    field: `schedule.${part}`,
    name: label,
    hint,
    control: 'line',
    write: (record) => write(record['schedule'] as Schedule),
    ...(part === 'from' && { phrase: (record: Fields) => whenSentence(record['schedule'] as Schedule) }),
    read: (text, record) => {
      const found = read(text.trim())
      if (!found) return { ok: false, problem: `“${text.trim()}” cannot be read. ${hint}` }
      return { ok: true, value: { schedule: { ...(record['schedule'] as Schedule), ...found } } }
    },
  }
}

/** Names out of a few, between blanks or commas, by their first three letters. */
function readNames(text: string, names: readonly string[]): readonly number[] | null {
  const words = text.split(/[\s,]+/).filter(Boolean)
  const numbers = words.map(
    (word) => names.findIndex((each) => word.toLowerCase().startsWith(each.toLowerCase())) + 1,
  )
  return numbers.includes(0) ? null : [...new Set(numbers)].sort((left, right) => left - right)
}

/** `2027-03-01` or `2027-03-01 09:30`, in the store's time zone. */
function readLocal(text: string): string | null | undefined {
  if (text === '') return null
  const match = /^(\d{4}-\d{2}-\d{2})(?:[T ](\d{2}:\d{2}))?$/.exec(text)
  return match ? `${match[1]}T${match[2] ?? '00:00'}` : undefined
}

function writeLocal(local: string | null): string {
  return local === null ? '' : local.replace('T00:00', '').replace('T', ' ')
}

export const DATE_HINT = '2027-03-01 or 2027-03-01 09:30, in the store’s time zone.'

/** When something holds: its schedule, a part a field. */
export const scheduleFields: readonly FieldRule[] = [
  scheduleField(
    'from',
    'From',
    DATE_HINT,
    ({ from }) => writeLocal(from),
    (text) => {
      const from = readLocal(text)
      return from === undefined ? null : { from }
    },
  ),
  scheduleField(
    'to',
    'To',
    `The end itself is outside. ${DATE_HINT}`,
    ({ to }) => writeLocal(to),
    (text) => {
      const to = readLocal(text)
      return to === undefined ? null : { to }
    },
  ),
  scheduleField(
    'weekdays',
    'Weekdays',
    'Mon Tue Fri; empty is any.',
    ({ weekdays }) => weekdays.map((day) => DAYS[day - 1]).join(' '),
    (text) => {
      const weekdays = readNames(text, DAYS)
      return weekdays && { weekdays }
    },
  ),
  scheduleField(
    'months',
    'Months',
    'Mar Apr; empty is any.',
    ({ months }) => months.map((month) => MONTHS[month - 1]).join(' '),
    (text) => {
      const months = readNames(text, MONTHS)
      return months && { months }
    },
  ),
  scheduleField(
    'hours',
    'Hours',
    '17:00-19:00; may run past midnight; empty is all day.',
    ({ hours }) => (hours ? `${hours.from}-${hours.to}` : ''),
    (text) => {
      if (text === '') return { hours: null }
      const match = /^(\d{2}:\d{2})\s*[-–]\s*(\d{2}:\d{2})$/.exec(text)
      return match ? { hours: { from: match[1], to: match[2] } as DailyWindow } : null
    },
  ),
]

function periodPhrase(record: Fields): string {
  const { from, to } = record as { from: string | null; to: string | null }
  return whenSentence({ ...ALWAYS, from, to })
}

/** A contract's period: two dates of its own. */
export function dateField(field: 'from' | 'to', label: string, hint: string): FieldRule {
  return {
    ...optionalField([field, label, hint]),
    write: (record) => writeLocal(record[field] as string | null),
    ...(field === 'from' && { phrase: periodPhrase }),
    read: (text) => {
      const local = readLocal(text.trim())
      return local === undefined
        ? { ok: false, problem: `“${text.trim()}” is no date. ${DATE_HINT}` }
        : { ok: true, value: { [field]: local } }
    },
  }
}
