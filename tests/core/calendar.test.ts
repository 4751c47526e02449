import {
  ALWAYS,
  compileSchedule,
  isAlways,
  matchWhen,
  type Schedule,
  toInstant,
  validityAround,
} from '@/core/predicates/when'
import { inWhen } from '@tests/reference/reference-matching'
import fc from 'fast-check'

const at = (text: string) => Date.parse(text)
const holds = (schedule: Partial<Schedule>, timeZone: string, instant: string) =>
  matchWhen(compileSchedule({ ...ALWAYS, ...schedule }, timeZone), at(instant)).matches

// Source: ISO 8601-1:2019 intervals, half-open by common practice; own inputs (checks.md C1–C7).
test.each([
  ['2025-06-01T00:00', '2025-07-01T00:00', 'UTC', '2025-06-01T00:00:00Z', true],
  ['2025-06-01T00:00', '2025-07-01T00:00', 'UTC', '2025-06-30T23:59:59.999Z', true],
  ['2025-06-01T00:00', '2025-07-01T00:00', 'UTC', '2025-07-01T00:00:00Z', false],
  ['2025-06-01T00:00', '2025-07-01T00:00', 'Europe/Berlin', '2025-05-31T22:00:00Z', true],
  ['2025-06-01T00:00', '2025-07-01T00:00', 'Europe/Berlin', '2025-06-30T22:00:00Z', false],
  [null, '2025-07-01T00:00', 'UTC', '1970-01-01T00:00:00Z', true],
])('from %s to %s in %s, at %s: %p', (from, to, zone, instant, inside) =>
  expect(holds({ from, to }, zone, instant)).toBe(inside),
)

// Source: RFC 5545 §3.3.5 (2009), its own examples C20, C21 (from memory); the others own inputs with the zone
// rules of tzdata, cross-checked with Intl.DateTimeFormat (checks.md C20–C27).
test.each([
  ['America/New_York', '2007-03-11T02:30', '2007-03-11T07:30:00Z'],
  ['America/New_York', '2007-11-04T01:30', '2007-11-04T05:30:00Z'],
  ['Europe/Berlin', '2025-03-30T02:30', '2025-03-30T01:30:00Z'],
  ['Europe/Berlin', '2025-10-26T02:30', '2025-10-26T00:30:00Z'],
  ['Europe/Berlin', '2025-07-01T00:00', '2025-06-30T22:00:00Z'],
  ['America/Sao_Paulo', '2018-11-04T00:00', '2018-11-04T03:00:00Z'],
  ['Australia/Lord_Howe', '2025-10-05T02:15', '2025-10-04T15:45:00Z'],
  ['Asia/Kolkata', '2025-07-01T00:00', '2025-06-30T18:30:00Z'],
])('%s %s is %s', (zone, local, instant) => expect(toInstant(local, zone)).toBe(at(instant)))

// Source: membership by the local wall clock, a window over midnight belongs to the day it starts on: common
// practice, own inputs (checks.md C40–C49).
const WORKDAYS = [1, 2, 3, 4, 5]
test.each([
  ['Europe/Berlin', WORKDAYS, '17:00', '19:00', '2025-03-28T16:00:00Z', true],
  ['Europe/Berlin', WORKDAYS, '17:00', '19:00', '2025-03-31T15:00:00Z', true],
  ['Europe/Berlin', WORKDAYS, '17:00', '19:00', '2025-03-31T16:59:59Z', true],
  ['Europe/Berlin', WORKDAYS, '17:00', '19:00', '2025-03-31T17:00:00Z', false],
  ['Europe/Berlin', WORKDAYS, '17:00', '19:00', '2025-03-29T16:30:00Z', false],
  ['America/New_York', [5, 6], '22:00', '02:00', '2025-03-09T06:30:00Z', true],
  ['America/New_York', [5, 6], '22:00', '02:00', '2025-03-09T07:00:00Z', false],
  ['America/New_York', [5, 6], '22:00', '02:00', '2025-11-02T06:30:00Z', true],
  ['America/New_York', [5, 6], '22:00', '02:00', '2025-11-03T03:30:00Z', false],
  ['America/New_York', [], '00:00', '24:00', '2025-11-02T06:30:00Z', true],
])('%s %p %s–%s at %s: %p', (zone, weekdays, from, to, instant, inside) =>
  expect(holds({ weekdays, hours: { from, to } }, zone, instant)).toBe(inside),
)

// Source: own inputs, counted minute by minute (checks.md C50–C54).
test.each([
  ['America/New_York', '2025-03-09', '02:00', '03:00', 0],
  ['America/New_York', '2025-03-09', '01:00', '04:00', 120],
  ['America/New_York', '2025-11-02', '01:00', '02:00', 120],
  ['Europe/Berlin', '2025-10-25', '22:00', '06:00', 540],
  ['Australia/Lord_Howe', '2025-10-05', '02:00', '03:00', 30],
])('%s on %s from %s to %s there are %d real minutes', (zone, date, from, to, minutes) => {
  const weekday = new Date(`${date}T12:00Z`).getUTCDay() || 7
  const compiled = compileSchedule({ ...ALWAYS, weekdays: [weekday], hours: { from, to } }, zone)
  const noon = at(`${date}T12:00Z`)
  let count = 0
  for (let minute = -36 * 60; minute < 36 * 60; minute += 1)
    if (matchWhen(compiled, noon + minute * 60_000).matches) count += 1
  expect(count).toBe(minutes)
})

test('why a schedule does not hold', () => {
  const why = (schedule: Partial<Schedule>, instant: string) => {
    const match = matchWhen(compileSchedule({ ...ALWAYS, ...schedule }, 'UTC'), at(instant))
    return match.matches ? null : match.because
  }
  expect(why({ from: '2027-03-01T00:00' }, '2027-02-28T23:59Z')).toBe('not-yet')
  expect(why({ to: '2027-03-01T00:00' }, '2027-03-01T00:00Z')).toBe('over')
  expect(why({ months: [3] }, '2027-02-10T10:00Z')).toBe('other-month')
  expect(why({ weekdays: [1] }, '2027-02-10T10:00Z')).toBe('other-weekday')
  expect(why({ overrides: { '3': null } }, '2027-02-10T10:00Z')).toBe('other-weekday')
  expect(why({ hours: { from: '11:00', to: '12:00' } }, '2027-02-10T10:00Z')).toBe('other-hours')
  expect(why({ overrides: { '3': { from: '09:00', to: '10:30' } } }, '2027-02-10T10:00Z')).toBeNull()
  expect(isAlways(compileSchedule(ALWAYS, 'UTC'))).toBe(true)
})

const times = fc.constantFrom('00:00', '01:30', '02:00', '06:00', '12:00', '22:00', '24:00')
const hours = fc.tuple(times, times).filter(([from, to]) => from !== to && from !== '24:00')
const schedules: fc.Arbitrary<Schedule> = fc.record({
  from: fc.constantFrom(null, '2027-03-20T00:00', '2027-10-25T12:00'),
  to: fc.constantFrom(null, '2027-11-05T00:00'),
  months: fc.constantFrom([], [3, 10]),
  weekdays: fc.constantFrom([], [6, 7], [1, 2, 3, 4, 5]),
  hours: fc.option(hours.map(([from, to]) => ({ from, to }))),
  overrides: fc.constantFrom<Schedule['overrides']>(
    {},
    { '7': null },
    { '7': { from: '01:00', to: '02:30' } },
  ),
})

test('agrees with the wall clock of Intl, and stays as it is for as long as it says, over both clock changes', () => {
  fc.assert(
    fc.property(
      schedules,
      fc.constantFrom('Europe/Dublin', 'America/New_York', 'Australia/Lord_Howe', 'UTC'),
      fc.constantFrom('2027-03-14T00:00Z', '2027-03-28T00:00Z', '2027-10-31T00:00Z', '2027-11-07T00:00Z'),
      fc.integer({ min: -4000, max: 4000 }),
      fc.double({ min: 0, max: 1, noNaN: true }),
      (schedule, zone, around, minutes, share) => {
        // What a fold or gap does to a window's own edges is tabled above.
        const compiled = compileSchedule({ ...schedule, from: null, to: null }, zone)
        const instant = at(around) + minutes * 60_000
        const { matches } = matchWhen(compiled, instant)
        expect(matches).toBe(inWhen({ ...schedule, from: null, to: null }, zone, instant))
        const { since, until } = validityAround(compiled, instant)
        expect(since).toBeLessThanOrEqual(instant)
        expect(until).toBeGreaterThan(instant)
        if (Number.isFinite(since) && Number.isFinite(until)) {
          const other = Math.floor(since + (until - since - 1) * share)
          expect(matchWhen(compiled, other).matches).toBe(matches)
        }
      },
    ),
    { numRuns: 500 },
  )
})
