import { allocate } from '@/core/decimal/allocate'
import { add, compare, decimal, type Decimal, ZERO } from '@/core/decimal/decimal'
import fc from 'fast-check'

const list = (text: string) => text.split('; ').map(decimal)

// Source: checks.md §5.2. A1 M. Fowler's Money pattern, A2 his usual 100 in three, A3 the ten seats of “largest
// remainder method”, all from memory; the others own, those without a tie run through hare-niemeyer 3.0.0.
test.each([
  ['A1', '0.05', '3; 7', 2, '0.02; 0.03'],
  ['A2', '100', '1; 1; 1', 2, '33.34; 33.33; 33.33'],
  ['A3', '10', '47000; 16000; 15900; 12000; 6000; 3100', 0, '5; 2; 1; 1; 1; 0'],
  ['A4', '1.97', '3.99; 3.99; 3.99', 2, '0.66; 0.66; 0.65'],
  ['A5', '20', '59.99; 24.50; 5.49', 2, '13.33; 5.45; 1.22'],
  ['A6', '7.50', '19.99; 19.99; 9.95', 2, '3.00; 3.00; 1.50'],
  ['A7', '0.10', '1; 1; 1; 1; 1; 1; 1', 2, '0.02; 0.02; 0.02; 0.01; 0.01; 0.01; 0.01'],
  ['A8, a credit mirrors', '-10', '1; 1; 1', 2, '-3.34; -3.33; -3.33'],
  ['A9, nothing for no weight', '3.33', '0.00; 5.00; 5.00', 2, '0; 1.67; 1.66'],
  ['A10', '1', '1; 1; 1', 3, '0.334; 0.333; 0.333'],
  ['A11', '100', '2; 3; 2', 0, '29; 43; 28'],
])('%s: %s over %s', (_why, amount, weights, digits, shares) =>
  expect(allocate(decimal(amount), list(weights), digits)).toEqual(list(shares)),
)

test('shares add up, keep the order of their weights and lie within a unit of what is due', () => {
  fc.assert(
    fc.property(
      fc.integer({ min: -100_000, max: 100_000 }),
      fc.array(fc.integer({ min: 0, max: 9_999 }), { minLength: 1, maxLength: 9 }),
      (cents, weights) => {
        const total = weights.reduce((sum, weight) => sum + weight, 0)
        fc.pre(total > 0)
        const amount = decimal((cents / 100).toFixed(2))
        const shares = allocate(amount, weights.map(decimal), 2)
        expect(shares.reduce<Decimal>(add, ZERO)).toBe(amount)
        shares.forEach((share, at) => {
          const due = (cents * (weights[at] as number)) / total
          expect(Math.abs(Number(share) * 100 - due)).toBeLessThan(1 + 1e-6)
          shares.forEach((other, next) => {
            if ((weights[at] as number) > (weights[next] as number) && cents > 0)
              expect(compare(share, other)).not.toBe(-1)
          })
        })
      },
    ),
  )
})

test('what has nothing to be split by is misuse', () => {
  expect(() => allocate(decimal(1), [ZERO, ZERO], 2)).toThrow(RangeError)
  expect(() => allocate(decimal(1), [decimal(-1), decimal(2)], 2)).toThrow(RangeError)
  expect(allocate(ZERO, [ZERO], 2)).toEqual([ZERO])
})
