import type { ClassImpact } from '@/core/impact/class-impact'
import type { MovedPrice } from '@/core/impact/compare-prices'
import {
  isNewlyAbovePublic,
  isNewlyBelow,
  marginOf,
  movePercent,
  summarize,
  worstMovesFirst,
} from '@/core/impact/summary'

const moved = (
  variant: string,
  before: number,
  after: number,
  more: Partial<MovedPrice> = {},
): MovedPrice => ({
  variant,
  quantity: 1_000,
  before,
  after,
  costBefore: 600,
  costAfter: 600,
  wasAbovePublic: false,
  isAbovePublic: false,
  ...more,
})
const impact = (prices: readonly MovedPrice[], before = 'EUR', after = 'EUR'): ClassImpact => ({
  of: { buyer: { kind: 'guest' } } as ClassImpact['of'],
  currency: { before, after },
  digits: 2,
  prices,
  costs: [],
  rights: [],
  limits: [],
  taxes: [],
})

// Worked by hand; no source needed for arithmetic.
test('a basket of two prices: how far they move, margins, and sales for the same profit', () => {
  // 10.00 → 11.00 and 8.00 → 7.60, cost 6.00 each: +10 % and −5 %, margins 6.00 of 18.00 and 6.60 of 18.60.
  expect(summarize([impact([moved('a', 1_000, 1_100), moved('b', 800, 760)])])).toEqual({
    moved: 2,
    rise: 1,
    fall: 1,
    appear: 0,
    vanish: 0,
    belowCost: 0,
    newlyBelowCost: 0,
    newlyAbovePublic: 0,
    mean: '2.5',
    median: '2.5',
    marginBefore: '33.3',
    marginAfter: '35.5',
    breakEven: '-9.1',
  })
})

test('a price counts by what was sold of it, in thousandths', () => {
  // 2.5 of a, none of b: 25.00 − 15.00 and 27.50 − 15.00.
  const sold = (variant: string) => (variant === 'a' ? 2_500 : 0)
  const summary = summarize([impact([moved('a', 1_000, 1_100), moved('b', 800, 760)])], sold)
  expect(summary).toMatchObject({ marginBefore: '40', marginAfter: '45.5', breakEven: '-20' })
  expect(summary).toMatchObject({ moved: 2, median: '2.5' })
})

test('of many moves the one in the middle counts, of an even number the two', () => {
  const to = (...after: number[]) =>
    summarize([impact(after.map((each, at) => moved(String(at), 1_000, each)))])
  expect(to(1_010, 1_500, 1_020)).toMatchObject({ median: '2', mean: '17.7' })
  expect(to(1_010, 1_500, 1_020, 1_030)).toMatchObject({ median: '2.5', mean: '14' })
  expect(to(900, 1_010)).toMatchObject({ median: '-4.5', mean: '-4.5' })
  expect(to()).toMatchObject({ median: null, mean: null, marginBefore: null, breakEven: null })
})

test('a tie of tenths is rounded by the exact quotient', () => {
  // 1.60 → 2.06 is 28.75 %, and 1.60 → 2.62 is 63.75 %: binary floating point makes 28.7 and 63.7 of them.
  expect(movePercent(moved('a', 160, 206))).toBe('28.8')
  expect(movePercent(moved('a', 160, 262))).toBe('63.8')
  expect(summarize([impact([moved('a', 160, 206)])])).toMatchObject({ median: '28.8', mean: '28.8' })
  expect(movePercent(moved('a', 1_000, 1_285))).toBe('28.5')
  expect(marginOf(2_000, 1_993)).toBe('0.4')
})

test('where there is no price or no cost nothing is made up', () => {
  const none = Number.NaN
  const prices = [
    moved('new', none, 900),
    moved('gone', 900, none),
    moved('uncosted', 900, 990, { costBefore: none, costAfter: none }),
    moved('free', 0, 900),
  ]
  expect(summarize([impact(prices)])).toMatchObject({
    moved: 4,
    appear: 1,
    vanish: 1,
    rise: 2,
    belowCost: 0,
    median: '10',
    marginBefore: null,
    marginAfter: '33.3',
  })
  expect(movePercent(moved('new', none, 900))).toBeNull()
  expect(marginOf(none, 600)).toBeNull()
  expect(marginOf(900, none)).toBeNull()
})

test('prices of another currency move by no percent, and lie in no basket', () => {
  const [first, switched, other] = [
    impact([moved('a', 1_000, 1_100)]),
    impact([moved('a', 1_000, 1_300)], 'EUR', 'GBP'),
    impact([moved('a', 800, 1_600)], 'GBP', 'GBP'),
  ]
  expect(summarize([first, switched, other])).toMatchObject({
    moved: 3,
    mean: '55',
    marginBefore: '40',
    marginAfter: '45.5',
  })
})

test('below cost, then above the public price, then the margin lost, then the move decide what comes first', () => {
  const below = moved('below', 700, 590)
  const wasBelow = moved('was-below', 590, 580)
  const above = moved('above', 1_000, 1_001, { isAbovePublic: true })
  const lost = moved('lost', 1_000, 800)
  const gained = moved('gained', 1_000, 1_100)
  expect(worstMovesFirst([gained, lost, wasBelow, above, below]).map(({ variant }) => variant)).toEqual([
    'below',
    'above',
    'lost',
    'was-below',
    'gained',
  ])
  expect([below, wasBelow, above].map(isNewlyBelow)).toEqual([true, false, false])
  expect(isNewlyBelow(moved('at-cost', 700, 600))).toBe(false)
  expect([above, { ...above, wasAbovePublic: true }].map(isNewlyAbovePublic)).toEqual([true, false])
})

test('prices brought into the basis of the store keep their digits', () => {
  // 15.90 with 23 % is 12.926829268292… without; cost 6.00.
  const [before, after] = [1_292.68292683, 1_300.81300813]
  expect(movePercent(moved('a', before, after))).toBe('0.6')
  expect(marginOf(before, 600)).toBe('53.6')
  expect(summarize([impact([moved('a', before, after)])])).toMatchObject({
    marginBefore: '53.6',
    median: '0.6',
  })
})

test('a price that stays falls below a cost that rises: it does not move, and counts in what is left', () => {
  // 8.00 over 6.00 leaves 25 %; over 8.40 it loses 5 %.
  const dearer = { ...impact([]), costs: [moved('a', 800, 800, { costAfter: 840 })] }
  expect(summarize([dearer])).toMatchObject({
    moved: 0,
    newlyBelowCost: 1,
    belowCost: 1,
    marginBefore: '25',
    marginAfter: '-5',
    median: null,
  })
})
