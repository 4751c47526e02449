import { readConditions, writeConditions } from '@/core/notation/condition-text'
import { PROMOTION_EXAMPLES } from '@/core/notation/offer-text'
import { readPromotionValue, writePromotionValue } from '@/core/notation/promotion-text'
import type { Condition, PromotionValue } from '@/core/promotions/promotion'
import { goods, writtenStore } from '@tests/fixtures/written-store'

const store = writtenStore({
  categories: [
    { code: 'hives', name: 'Hives' },
    { code: 'frames', name: 'Frames' },
  ],
  ...goods(['HV-1', '100', 'hives'], ['FR-1', '10', 'frames']),
})

test.each([
  ...Object.values(PROMOTION_EXAMPLES),
  'each: 2.5 off, closed to others',
  'each: at 9.9 (USD 11, GBP 8.5)',
  'above 3 together: 2 off',
  'any 3: 1 free',
  '1 of Hives + 2 of Frames: at 60',
  'any 2: 10 % off',
  'buy 12: 1, 24: 3 of them free',
  'buy 10: 1 of HV-1 free, once',
  'order: 10 off',
  'order from 100 (USD 120): 5 % off, from 200: 10 % off',
  'delivery: at 3',
  'card: 2 % more',
  'terms: 1 off',
])('“%s” is read and written alike', (text) => {
  const read = readPromotionValue(store, text)
  if (!read.ok) throw new Error(read.problem)
  expect(writePromotionValue(store, read.value as PromotionValue)).toBe(text)
})

test.each([
  ['any 3 for 60', '“any 3: at 60”'],
  ['any 3: cheap', '“1 free”'],
  ['2 of Hats: at 5', 'Hats'],
  ['buy 12: 1 of NO-1 free', 'NO-1'],
  ['order from 100: at 5', 'order from 100: 5 % off'],
  ['card: free', '“2 % off”'],
])('“%s” is refused, and says how it is written', (text, said) => {
  const read = readPromotionValue(store, text)
  expect(read.ok ? '' : read.problem).toContain(said)
})

test.each([
  'order from 40',
  'goods from 40 (USD 45)',
  'goods of 12',
  'order of 5.5 kg',
  '1 order',
  '3 orders in 90 days',
  'spent 500; first order',
  'paid by card; code SWARM10',
  'paid on terms; spent 20 in 30 days',
])('the condition “%s” is read and written alike', (text) => {
  const read = readConditions(text)
  if (!read.ok) throw new Error(read.problem)
  expect(writeConditions(read.value as readonly Condition[])).toBe(text)
})

test('a condition that is none is named', () => {
  const read = readConditions('order from 40; on sundays')
  expect(read.ok ? '' : read.problem).toMatch(/^“on sundays” is no condition/)
})
