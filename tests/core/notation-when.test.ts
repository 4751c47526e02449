import { readWhen, writeWhen } from '@/core/notation/when-text'
import { readEnd, readLocal } from '@/core/predicates/schedule-text'
import { ALWAYS, type Schedule } from '@/core/predicates/when'
import fc from 'fast-check'

const minute = fc.integer({ min: 0, max: 24 * 60 - 1 })
const clock = (at: number) =>
  `${String(Math.floor(at / 60)).padStart(2, '0')}:${String(at % 60).padStart(2, '0')}`
const window = fc.tuple(minute, minute).map(([from, to]) => ({ from: clock(from), to: clock(to) }))
const local = fc
  .tuple(fc.integer({ min: 0, max: 20_000 }), fc.option(minute, { nil: 0 }))
  .map(([day, at]) => `${new Date(day * 86_400_000).toISOString().slice(0, 10)}T${clock(at)}`)
const some = (most: number) =>
  fc.uniqueArray(fc.integer({ min: 1, max: most })).map((all) => [...all].sort((a, b) => a - b))

const schedules: fc.Arbitrary<Schedule> = fc
  .record({
    from: fc.option(local),
    to: fc.option(local),
    months: some(12),
    weekdays: some(7),
    hours: fc.option(window),
    overrides: fc.dictionary(fc.integer({ min: 1, max: 7 }).map(String), fc.option(window)),
  })
  .filter(({ from, to }) => from === null || to === null || from < to)

test('every schedule is read back from its sentence', () => {
  fc.assert(
    fc.property(schedules, (schedule) => {
      const read = readWhen(writeWhen(schedule))
      expect(read).toEqual({ ok: true, value: schedule })
    }),
  )
})

test.each<readonly [string, Partial<Schedule>]>([
  ['always', {}],
  ['', {}],
  [
    'from 1 March 2027, Mondays to Fridays, 16:00 to 18:00',
    { from: '2027-03-01T00:00', weekdays: [1, 2, 3, 4, 5], hours: { from: '16:00', to: '18:00' } },
  ],
  ['until 31 May 2027', { to: '2027-06-01T00:00' }],
  ['from 1.3.2027 to 31/05/2027', { from: '2027-03-01T00:00', to: '2027-06-01T00:00' }],
  ['only in 2027', { from: '2027-01-01T00:00', to: '2028-01-01T00:00' }],
  ['weekends, 9:00-17:30', { weekdays: [6, 7], hours: { from: '09:00', to: '17:30' } }],
  ['Fridays to Mondays', { weekdays: [1, 5, 6, 7] }],
  ['in March, April and May', { months: [3, 4, 5] }],
  ['Tue and Thursdays; 22:00 to 02:00', { weekdays: [2, 4], hours: { from: '22:00', to: '02:00' } }],
  ['Mon Wed; Sat 10:00-12:00', { weekdays: [1, 3], overrides: { 6: { from: '10:00', to: '12:00' } } }],
  ['but Sundays closed', { overrides: { 7: null } }],
])('“%s” is understood', (text, expected) => {
  expect(readWhen(text)).toEqual({ ok: true, value: { ...ALWAYS, ...expected } })
})

test.each(['from 30 February 2027', 'Noonday', '25:00 to 26:00', 'from 1 May 2027 until 1 March 2027'])(
  '“%s” is refused',
  (text) => {
    expect(readWhen(text).ok).toBe(false)
  },
)

test.each<readonly [string, string | null | undefined]>([
  ['', null],
  ['2027-03-01', '2027-03-01T00:00'],
  ['1 March 2027', '2027-03-01T00:00'],
  ['Mar 1, 2027', '2027-03-01T00:00'],
  ['1.3.2027 9:30', '2027-03-01T09:30'],
  ['12/31/2027', '2027-12-31T00:00'],
  ['31/12/2027', '2027-12-31T00:00'],
  ['30 February 2027', undefined],
  ['soon', undefined],
])('the day “%s”', (text, expected) => {
  expect(readLocal(text)).toBe(expected)
})

test('the last day is inclusive in any order it is written', () => {
  expect(readEnd('31 March 2027')).toBe('2027-04-01T00:00')
  expect(readEnd('31 March 2027 12:00')).toBe('2027-03-31T12:00')
})
