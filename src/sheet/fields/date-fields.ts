import 'server-only'

import { writeDate, writeLastDay } from '@/core/notation/when-text'
import { readEnd, readLocal } from '@/core/predicates/schedule-text'
import { type FieldRule, optionalField } from './field-rule'

export const DATE_HINT =
  'A day, such as 1 March 2027 or 1.3.2027, with a time where it matters: 1 March 2027 09:30.'

/** A day on which something begins, or the last on which it holds, in the store’s time zone. */
export function dateField(field: 'from' | 'to' | 'exemptUntil', label: string, hint: string): FieldRule {
  const [read, write] = field === 'from' ? [readLocal, writeDate] : [readEnd, writeLastDay]
  return {
    ...optionalField([field, label, hint]),
    write: (record) => write(record[field] as string | null),
    read: (text) => {
      const local = read(text.trim())
      return local === undefined
        ? { ok: false, problem: `“${text.trim()}” is not a valid date. ${DATE_HINT}` }
        : { ok: true, value: { [field]: local } }
    },
  }
}
