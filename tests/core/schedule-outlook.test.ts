import { clockChanges, localDay, outlookByDay, turnAfter } from '@/core/predicates/schedule-outlook'
import { ALWAYS, compileSchedule, matchWhen, type Schedule, toInstant } from '@/core/predicates/when'
import fc from 'fast-check'

const ZONE = 'Europe/Dublin'
const at = (local: string) => toInstant(local, ZONE)
const EVENINGS: Schedule = {
  ...ALWAYS,
  from: '2027-03-01T00:00',
  weekdays: [1, 2, 3, 4, 5],
  hours: { from: '16:00', to: '18:00' },
}

test.each<readonly [reason: string, schedule: Schedule, now: string, isOn: boolean, until: string | null]>([
  ['always stays on', ALWAYS, '2026-11-27T10:32', true, null],
  ['starts on the first day that fits', EVENINGS, '2026-11-27T10:32', false, '2027-03-01T16:00'],
  ['ends with the hours', EVENINGS, '2027-03-01T17:00', true, '2027-03-01T18:00'],
  ['a weekend is passed over', EVENINGS, '2027-03-05T19:00', false, '2027-03-08T16:00'],
  ['over is over', { ...ALWAYS, to: '2026-01-01T00:00' }, '2026-11-27T10:32', false, null],
  ['a month next year', { ...ALWAYS, months: [3] }, '2026-04-01T00:00', false, '2027-03-01T00:00'],
])('%s', (_reason, schedule, now, isOn, until) => {
  expect(turnAfter(compileSchedule(schedule, ZONE), at(now))).toEqual({
    isOn,
    until: until === null ? Number.POSITIVE_INFINITY : at(until),
  })
})

test('two hours on every working day from its first on', () => {
  const days = outlookByDay(EVENINGS, '2026-11-27', 365)
  const on = days.filter(({ minutes }) => minutes > 0)
  expect(on[0]).toEqual({ day: '2027-03-01', minutes: 120 })
  // From Monday 1 March to Friday 26 November 2027 there are 195 working days.
  expect(on).toHaveLength(195)
})

test('a window past midnight counts for the day it starts on, and the end of the period cuts it', () => {
  const night = { ...ALWAYS, hours: { from: '22:00', to: '02:00' }, to: '2027-03-02T01:00' }
  expect(outlookByDay(night, '2027-03-01', 2)).toEqual([
    { day: '2027-03-01', minutes: 180 },
    { day: '2027-03-02', minutes: 0 },
  ])
})

test('a day has minutes exactly when the schedule holds at some minute of its windows', () => {
  const schedules = fc.record({
    from: fc.constant(null),
    to: fc.constant(null),
    months: fc.uniqueArray(fc.integer({ min: 1, max: 12 })),
    weekdays: fc.uniqueArray(fc.integer({ min: 1, max: 7 })),
    hours: fc.constantFrom(null, { from: '08:00', to: '12:00' }),
    overrides: fc.constantFrom<Schedule['overrides']>({}, { 6: null }, { 7: { from: '09:00', to: '10:00' } }),
  })
  fc.assert(
    fc.property(schedules, fc.integer({ min: 0, max: 700 }), (schedule, days) => {
      const day = localDay(at('2026-01-01T12:00') + days * 86_400_000, ZONE)
      const compiled = compileSchedule(schedule, ZONE)
      const holds = [9, 11].some(
        (hour) => matchWhen(compiled, at(`${day}T${String(hour).padStart(2, '0')}:30`)).matches,
      )
      expect((outlookByDay(schedule, day, 1)[0]?.minutes ?? 0) > 0).toBe(holds)
    }),
  )
})

// Source: Directive 2000/84/EC: summer time begins on the last Sunday of March and ends on the last Sunday of October.
test('clocks change on the last Sundays of March and October', () => {
  expect(clockChanges(ZONE, at('2026-11-27T00:00'), at('2027-11-27T00:00'))).toEqual([
    { day: '2027-03-28', isForward: true },
    { day: '2027-10-31', isForward: false },
  ])
})
