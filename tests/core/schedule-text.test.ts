import { parseScheduleText, scheduleText } from '@/core/predicates/schedule-text'
import { ALWAYS, type Schedule } from '@/core/predicates/when'
import fc from 'fast-check'

const hours = fc.constantFrom(
  { from: '09:00', to: '12:30' },
  { from: '22:00', to: '04:00' },
  { from: '00:00', to: '24:00' },
)
const schedules: fc.Arbitrary<Schedule> = fc.record({
  from: fc.constantFrom(null, '2027-03-01T00:00', '2027-03-01T09:30'),
  to: fc.constantFrom(null, '2027-06-01T00:00', '2028-02-29T18:15'),
  months: fc.subarray([1, 2, 3, 7, 12]),
  weekdays: fc.subarray([1, 2, 5, 6, 7]),
  hours: fc.option(hours),
  overrides: fc
    .array(fc.tuple(fc.constantFrom('1', '6', '7'), fc.option(hours)), { maxLength: 3 })
    .map((entries) => Object.fromEntries(entries)),
})

test('a schedule written as one line is read as itself', () => {
  fc.assert(
    fc.property(schedules, (schedule) => {
      expect(parseScheduleText(scheduleText(schedule))).toEqual({ ok: true, value: schedule })
    }),
  )
})

test.each<[string, string, Partial<Schedule>]>([
  ['nothing is always', '', {}],
  ['always is always', 'always', {}],
  ['a day begins at midnight', 'from 2027-03-01', { from: '2027-03-01T00:00' }],
  ['a day alone is the last on which it holds', 'to 2027-05-31', { to: '2027-06-01T00:00' }],
  ['the last day of a leap February', 'to 2028-02-29', { to: '2028-03-01T00:00' }],
  ['until is to', 'until 2027-03-01 09:30', { to: '2027-03-01T09:30' }],
  ['names may be whole', 'Monday, friday', { weekdays: [1, 5] }],
  ['months too', 'march April', { months: [3, 4] }],
  ['parts in any order', '17:00-19:00; Mon', { hours: { from: '17:00', to: '19:00' }, weekdays: [1] }],
  [
    'other hours on a day',
    'Sat 10:00-12:00, Sun closed',
    { overrides: { 6: { from: '10:00', to: '12:00' }, 7: null } },
  ],
])('%s', (_reason, text, expected) => {
  expect(parseScheduleText(text)).toEqual({ ok: true, value: { ...ALWAYS, ...expected } })
})

test.each([
  ['a day that does not exist', 'from 2027-02-30', 'from 2027-02-30'],
  ['an hour that does not exist', 'Mon; 25:00-26:00', '25:00-26:00'],
  ['a word that is none', 'Mon; whenever', 'whenever'],
  ['a date the other way round', 'from 01-03-2027', 'from 01-03-2027'],
])('%s is refused, and the part is named', (_reason, text, part) => {
  expect(parseScheduleText(text)).toEqual({ ok: false, part })
})
