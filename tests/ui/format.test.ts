import { formatFileSize } from '@/ui/format/file-size'
import { decimal } from '@/core/decimal/decimal'
import { formatAmount, formatMoney, formatPercent, rangeText } from '@/ui/format/amount'
import { refusalSentence } from '@/ui/format/refusal-sentence'
import { roundingPhrase } from '@/ui/format/rule-phrases'

test.each([
  ['1290', '1,290.00'],
  ['0.5', '0.50'],
  ['1234567.891', '1,234,567.891'],
  ['-1234.5', '−1,234.50'],
  ['999', '999.00'],
])('%s reads %s', (amount, text) => expect(formatAmount(decimal(amount), 2)).toBe(text))

test('figures follow the platform’s own formatting', () => {
  const platform = new Intl.NumberFormat('en-IE', { style: 'currency', currency: 'EUR' })
  for (const amount of ['0.01', '19.9', '1290', '1234567.89']) {
    expect(formatMoney(decimal(amount), 'EUR', 2)).toBe(platform.format(Number(amount)))
  }
})

test('ranges and percentages', () => {
  expect(rangeText([decimal('5'), null, decimal('3.5')], 2)).toBe('3.50 – 5.00')
  expect(rangeText([decimal('5'), decimal('5')], 2)).toBe('5.00')
  expect(rangeText([null], 2)).toBe('')
  expect(formatPercent(decimal('-4'))).toBe('−4.0 %')
})

test.each([
  ['a step', { kind: 'step', step: decimal('0.05'), mode: 'half-up' }, 'to the nearest 0.05'],
  [
    'endings within a unit',
    { kind: 'endings', period: decimal(1), endings: [decimal('0.45'), decimal('0.95')], mode: 'up' },
    'up to .45 or .95',
  ],
  [
    'endings within ten',
    { kind: 'endings', period: decimal(10), endings: [decimal('9.9')], mode: 'nearest' },
    'to the nearest 9.90',
  ],
] as const)('%s', (_reason, rule, phrase) => expect(roundingPhrase(rule)).toBe(phrase))

test('a refusal says what was typed and what would be right', () => {
  const typed = (error: 'comma' | 'not-understood', text: string) =>
    refusalSentence({ code: 'expression', error, typed: text, digits: 2 })
  expect(typed('comma', '12,5')).toBe('“12,5” has a comma. Write 12.5 with a point.')
  expect(typed('not-understood', '12,5x')).toMatch(/“12,5x” is not a price\. Type 19\.90, \+5%/)
  expect(
    refusalSentence({
      code: 'invalid',
      issues: [
        {
          code: 'unknown',
          kind: 'price-list',
          label: 'level',
          field: 'audience',
          value: 'farm',
          expected: 'farms',
        },
      ],
    }),
  ).toBe('level, Audience: there is no “farm”; the nearest is farms.')
})

test.each([
  [1, '1 byte'],
  [820, '820 bytes'],
  [48_009, '48 kB'],
  [999_499, '999 kB'],
  [999_500, '1.0 MB'],
  [5 * 2 ** 20, '5.2 MB'],
])('a file of %d bytes is said to have %s', (bytes, said) => expect(formatFileSize(bytes)).toBe(said))
