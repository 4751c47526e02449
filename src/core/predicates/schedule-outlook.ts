import { Temporal } from 'temporal-polyfill'
import { type CompiledSchedule, matchWhen, type Schedule, validityAround } from './when'

/** When a schedule next changes between on and off. */
export interface Turn {
  readonly isOn: boolean
  /** Epoch milliseconds of the change away from that; infinite where it stays so. */
  readonly until: number
}

/** Enough for a schedule that holds on one weekday of one month. */
const MOST_STEPS = 2_000

/** Whether a schedule holds at an instant, and until when it stays so. */
export function turnAfter(compiled: CompiledSchedule, at: number): Turn {
  const isOn = matchWhen(compiled, at).matches
  let until = validityAround(compiled, at).until
  for (let step = 0; step < MOST_STEPS && Number.isFinite(until); step += 1) {
    if (matchWhen(compiled, until).matches !== isOn) return { isOn, until }
    until = validityAround(compiled, until).until
  }
  return { isOn, until: Number.POSITIVE_INFINITY }
}

/** One day of a schedule's request context: how long it holds on it by the wall clock. */
export interface DayOutlook {
  /** `2027-03-01` */
  readonly day: string
  readonly minutes: number
}

const DAY_MINUTES = 24 * 60

/**
 * How long a schedule holds on each day from one on, by the wall clock; a window past midnight counts for the day it starts on.
 *
 * Units   `from` is a local date of the schedule's time zone.
 */
export function outlookByDay(schedule: Schedule, from: string, days: number): readonly DayOutlook[] {
  const first = Temporal.PlainDate.from(from)
  return Array.from({ length: days }, (_, at) => {
    const day = first.add({ days: at })
    return { day: day.toString(), minutes: minutesOn(schedule, day) }
  })
}

function minutesOn(schedule: Schedule, day: Temporal.PlainDate): number {
  const { months, weekdays, overrides, hours, from, to } = schedule
  if (months.length > 0 && !months.includes(day.month)) return 0
  if (weekdays.length > 0 && !weekdays.includes(day.dayOfWeek)) return 0
  const own = overrides[day.dayOfWeek]
  if (own === null) return 0
  const window = own ?? hours
  const [start, end] = window ? spanOf(window.from, window.to) : [0, DAY_MINUTES]
  const earliest = from === null ? Number.NEGATIVE_INFINITY : minutesSince(day, from)
  const latest = to === null ? Number.POSITIVE_INFINITY : minutesSince(day, to)
  return Math.max(0, Math.min(end, latest) - Math.max(start, earliest))
}

function spanOf(from: string, to: string): readonly [number, number] {
  const [start, end] = [minutesOf(from), minutesOf(to)]
  return [start, end > start ? end : end + DAY_MINUTES]
}

function minutesOf(time: string): number {
  const [hours = '0', minutes = '0'] = time.split(':')
  return Number(hours) * 60 + Number(minutes)
}

function minutesSince(day: Temporal.PlainDate, local: string): number {
  return Temporal.PlainDateTime.from(local).since(day.toPlainDateTime(), { largestUnit: 'minutes' }).minutes
}

/** The local date of an instant. */
export function localDay(at: number, timeZone: string): string {
  return Temporal.Instant.fromEpochMilliseconds(at).toZonedDateTimeISO(timeZone).toPlainDate().toString()
}

/** The days on which clocks change between two instants, and whether they go forward. */
export function clockChanges(
  timeZone: string,
  from: number,
  until: number,
): readonly { readonly day: string; readonly isForward: boolean }[] {
  const changes: { day: string; isForward: boolean }[] = []
  let at = Temporal.Instant.fromEpochMilliseconds(from).toZonedDateTimeISO(timeZone)
  for (;;) {
    const next = at.getTimeZoneTransition('next')
    if (!next || next.epochMilliseconds >= until) return changes
    const before = next.subtract({ nanoseconds: 1 })
    changes.push({
      day: before.toPlainDate().toString(),
      isForward: next.offsetNanoseconds > before.offsetNanoseconds,
    })
    at = next
  }
}
