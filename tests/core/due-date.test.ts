import { lastDays, readTerms } from '@/core/order/due-date'

// Source: checks.md D80–D84, dating terms as textbooks give them.
test.each([
  ['D80', '2025-07-12', '2/10 EOM', null, '2025-08-10'],
  ['D81', '2025-07-27', '2/10 EOM', null, '2025-09-10'],
  ['D82', '2025-07-12', '2/10, n/30', null, '2025-07-22'],
  ['D83', '2025-07-12', '2/10 ROG', '2025-08-03', '2025-08-13'],
  ['D84', '2024-02-25', '2/10, n/30', null, '2024-03-06'],
  ['over the end of a year', '2026-12-28', '2/10 EOM', null, '2027-02-10'],
  ['goods not there yet', '2025-07-12', '2/10 ROG', null, null],
])('the last day for the discount: %s', (_id, invoiced, terms, received, day) => {
  const read = readTerms(terms)
  expect(read && lastDays(read, invoiced, received).discounted).toBe(day)
})

test.each([
  ['45 days net', 45, null, '2026-12-01', '2027-01-15'],
  ['30 days', 30, null, '2028-02-01', '2028-03-02'],
  ['net 14', 14, null, '2026-11-25', '2026-12-09'],
  ['2/10 n/30', 30, '2', '2026-11-25', '2026-12-25'],
  ['1.5/8, n/60', 60, '1.5', '2026-11-25', '2027-01-24'],
  ['2/10 EOM', null, '2', '2026-11-25', null],
])('“%s” is read, and due from the day of the invoice', (terms, net, percent, invoiced, due) => {
  const read = readTerms(terms)
  expect(read?.net).toBe(net)
  expect(read?.discount?.percent ?? null).toBe(percent)
  expect(read && lastDays(read, invoiced).due).toBe(due)
})

test.each(['card', '', 'as agreed', 'in advance', '3 parts'])('“%s” says no day', (terms) => {
  expect(readTerms(terms)).toBeNull()
})
