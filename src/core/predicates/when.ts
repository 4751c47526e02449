import { Temporal } from 'temporal-polyfill'

/** Hours of a day on the wall clock, `HH:MM`, the end outside; `24:00` ends a day. Runs past midnight when it ends before it starts. */
export interface DailyWindow {
  readonly from: string
  readonly to: string
}

/**
 * When a rule holds: inside a half-open window, and within it in some months, on some weekdays, at some hours.
 *
 * Units   `from` and `to` are local date and time (`2027-03-01T00:00`) in the store's time zone; months are 1–12,
 *         weekdays 1 (Monday) to 7 (ISO 8601); empty means any.
 * Source  a window past midnight belongs to the day it starts on (common practice, no source).
 */
export interface Schedule {
  readonly from: string | null
  readonly to: string | null
  readonly months: readonly number[]
  readonly weekdays: readonly number[]
  readonly hours: DailyWindow | null
  /** Other hours on one weekday, by its number; `null` closes it. */
  readonly overrides: Readonly<Record<string, DailyWindow | null>>
}

export const ALWAYS: Schedule = {
  from: null,
  to: null,
  months: [],
  weekdays: [],
  hours: null,
  overrides: {},
}

/** A schedule in one time zone, its window as instants. */
export interface CompiledSchedule {
  readonly schedule: Schedule
  readonly timeZone: string
  /** Epoch milliseconds; infinite where open. */
  readonly from: number
  readonly to: number
  /** Whether months, weekdays or hours matter. */
  readonly recurring: boolean
}

export type WhenMatch =
  | { readonly matches: true }
  | {
      readonly matches: false
      readonly because: 'not-yet' | 'over' | 'other-month' | 'other-weekday' | 'other-hours'
    }

/** How long a match stays as it is: `since` ≤ instant < `until`, epoch milliseconds. */
export interface Validity {
  readonly since: number
  readonly until: number
}

export const FOREVER: Validity = { since: Number.NEGATIVE_INFINITY, until: Number.POSITIVE_INFINITY }

/**
 * The instant of a local date and time.
 *
 * Source  RFC 5545 §3.3.5: a time in a gap uses the offset before the gap, a doubled one means the first.
 * Errors  throws `RangeError` for a text or zone that is none: parse first.
 */
export function toInstant(local: string, timeZone: string): number {
  return Temporal.PlainDateTime.from(local).toZonedDateTime(timeZone, { disambiguation: 'compatible' })
    .epochMilliseconds
}

export function compileSchedule(schedule: Schedule, timeZone: string): CompiledSchedule {
  return {
    schedule,
    timeZone,
    from: schedule.from === null ? Number.NEGATIVE_INFINITY : toInstant(schedule.from, timeZone),
    to: schedule.to === null ? Number.POSITIVE_INFINITY : toInstant(schedule.to, timeZone),
    recurring:
      schedule.months.length > 0 ||
      schedule.weekdays.length > 0 ||
      schedule.hours !== null ||
      Object.keys(schedule.overrides).length > 0,
  }
}

export function isAlways({ from, to, recurring }: CompiledSchedule): boolean {
  return !recurring && from === Number.NEGATIVE_INFINITY && to === Number.POSITIVE_INFINITY
}

/** Whether an instant is inside a schedule, or what keeps it out. */
export function matchWhen(compiled: CompiledSchedule, at: number): WhenMatch {
  if (at < compiled.from) return { matches: false, because: 'not-yet' }
  if (at >= compiled.to) return { matches: false, because: 'over' }
  return compiled.recurring ? matchCalendar(compiled, at) : { matches: true }
}

/** How long around an instant the match surely stays the same; it may stay so longer. */
export function validityAround(compiled: CompiledSchedule, at: number): Validity {
  if (at < compiled.from) return { since: Number.NEGATIVE_INFINITY, until: compiled.from }
  if (at >= compiled.to) return { since: compiled.to, until: Number.POSITIVE_INFINITY }
  const window = { since: compiled.from, until: compiled.to }
  return compiled.recurring ? intersect(window, calendarValidity(compiled, at)) : window
}

export function intersect(left: Validity, right: Validity): Validity {
  return { since: Math.max(left.since, right.since), until: Math.min(left.until, right.until) }
}

function matchCalendar({ schedule, timeZone }: CompiledSchedule, at: number): WhenMatch {
  const local = localTime(at, timeZone)
  const minutes = local.hour * 60 + local.minute + (local.second + local.millisecond / 1000) / 60
  const today = local.toPlainDate()
  if (isInHours(schedule, today, minutes)) return { matches: true }
  // A window of yesterday may reach past midnight.
  if (isInHours(schedule, today.subtract({ days: 1 }), minutes + 24 * 60)) return { matches: true }
  if (schedule.months.length > 0 && !schedule.months.includes(today.month))
    return { matches: false, because: 'other-month' }
  if (!isOpenDay(schedule, today)) return { matches: false, because: 'other-weekday' }
  return { matches: false, because: 'other-hours' }
}

function isOpenDay(schedule: Schedule, day: Temporal.PlainDate): boolean {
  return (
    (schedule.months.length === 0 || schedule.months.includes(day.month)) &&
    (schedule.weekdays.length === 0 || schedule.weekdays.includes(day.dayOfWeek)) &&
    schedule.overrides[day.dayOfWeek] !== null
  )
}

/** `minutes` since the midnight that began `day`, by the wall clock. */
function isInHours(schedule: Schedule, day: Temporal.PlainDate, minutes: number): boolean {
  if (!isOpenDay(schedule, day)) return false
  const window = schedule.overrides[day.dayOfWeek] ?? schedule.hours
  if (!window) return minutes < 24 * 60
  const from = toMinutes(window.from)
  const to = toMinutes(window.to)
  return minutes >= from && minutes < (to > from ? to : to + 24 * 60)
}

/** Between two neighbouring edges of the wall clock nothing changes. */
function calendarValidity({ schedule, timeZone }: CompiledSchedule, at: number): Validity {
  const windows = [schedule.hours, ...Object.values(schedule.overrides)].filter((window) => window !== null)
  const edges = new Set([0, ...windows.flatMap(({ from, to }) => [toMinutes(from), toMinutes(to)])])
  const local = localTime(at, timeZone)
  let since = Number.NEGATIVE_INFINITY
  let until = Number.POSITIVE_INFINITY
  const consider = (instant: number) => {
    if (instant <= at) since = Math.max(since, instant)
    else until = Math.min(until, instant)
  }
  for (const days of [-1, 0, 1, 2]) {
    const day = local.toPlainDate().add({ days })
    for (const edge of edges) {
      const time = day.toPlainDateTime().add({ minutes: edge })
      for (const disambiguation of ['earlier', 'later'] as const)
        consider(time.toZonedDateTime(timeZone, { disambiguation }).epochMilliseconds)
    }
  }
  for (const direction of ['previous', 'next'] as const) {
    const change = local.getTimeZoneTransition(direction)
    if (change) consider(change.epochMilliseconds)
  }
  return { since, until }
}

function localTime(at: number, timeZone: string): Temporal.ZonedDateTime {
  return Temporal.Instant.fromEpochMilliseconds(at).toZonedDateTimeISO(timeZone)
}

function toMinutes(time: string): number {
  const [hours = '0', minutes = '0'] = time.split(':')
  return Number(hours) * 60 + Number(minutes)
}
