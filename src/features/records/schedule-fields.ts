import 'server-only'

import {
  readEnd,
  readHours,
  readLocal,
  readMonths,
  readOverrides,
  readWeekdays,
  writeEnd,
  writeHours,
  writeLocal,
  writeMonths,
  writeOverrides,
  writeWeekdays,
} from '@/core/predicates/schedule-text'
import { ALWAYS, type Schedule } from '@/core/predicates/when'
import { whenSentence } from '@/ui/format/rule-phrases'
import { type FieldRule, type Fields, optionalField } from './field-rule'

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
    `The last day on which it holds. ${DATE_HINT}`,
    ({ to }) => writeEnd(to),
    (text) => {
      const to = readEnd(text)
      return to === undefined ? null : { to }
    },
  ),
  scheduleField(
    'weekdays',
    'Weekdays',
    'Mon Tue Fri; empty is any.',
    ({ weekdays }) => writeWeekdays(weekdays),
    (text) => {
      const weekdays = readWeekdays(text)
      return weekdays && { weekdays }
    },
  ),
  scheduleField(
    'months',
    'Months',
    'Mar Apr; empty is any.',
    ({ months }) => writeMonths(months),
    (text) => {
      const months = readMonths(text)
      return months && { months }
    },
  ),
  scheduleField(
    'hours',
    'Hours',
    '17:00-19:00; may run past midnight; empty is all day.',
    ({ hours }) => writeHours(hours),
    (text) => {
      const hours = readHours(text)
      return hours === undefined ? null : { hours }
    },
  ),
  scheduleField(
    'overrides',
    'Other hours',
    'Sat 10:00-12:00, Sun closed; empty for the same every day.',
    ({ overrides }) => writeOverrides(overrides),
    (text) => {
      const overrides = readOverrides(text)
      return overrides && { overrides }
    },
  ),
]

function periodPhrase(record: Fields): string {
  const { from, to } = record as { from: string | null; to: string | null }
  return whenSentence({ ...ALWAYS, from, to })
}

/** A contract's period: two dates of its own. */
export function dateField(field: 'from' | 'to' | 'exemptUntil', label: string, hint: string): FieldRule {
  const [read, write] = field === 'from' ? [readLocal, writeLocal] : [readEnd, writeEnd]
  return {
    ...optionalField([field, label, hint]),
    write: (record) => write(record[field] as string | null),
    ...(field === 'from' && { phrase: periodPhrase }),
    read: (text) => {
      const local = read(text.trim())
      return local === undefined
        ? { ok: false, problem: `“${text.trim()}” is not a valid date. ${DATE_HINT}` }
        : { ok: true, value: { [field]: local } }
    },
  }
}
