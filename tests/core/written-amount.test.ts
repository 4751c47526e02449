import { typedAmount } from '@/core/decimal/written-amount'
import fc from 'fast-check'

test.each<readonly [reason: string, typed: string, plain: string]>([
  ['a comma for the point', '12,50', '12.50'],
  ['both marks, the later one the point', '1.234,50', '1234.50'],
  ['both marks the other way round', '1,234.50', '1234.50'],
  ['thousands alone', '1,234', '1234'],
  ['a nought is no thousand', '0,125', '0.125'],
  ['a point is a point', '1.234', '1.234'],
  ['two points part thousands', '1.234.567', '1234567'],
  ['blanks part thousands', '1 234,5', '1234.5'],
  ['a currency before', '€ 12.50', '12.50'],
  ['a currency behind', '12,50 €', '12.50'],
  ['a minus as it is printed', '−0.5', '-0.5'],
  ['words are left for the reader', 'twelve', 'twelve'],
])('%s: “%s”', (_reason, typed, plain) => {
  expect(typedAmount(typed)).toBe(plain)
})

test('a plain decimal stays as it is', () => {
  fc.assert(
    fc.property(fc.stringMatching(/^-?(0|[1-9]\d{0,8})(\.\d{1,4})?$/), (text) => {
      expect(typedAmount(text)).toBe(text)
    }),
  )
})
