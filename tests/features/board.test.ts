import { DEFAULT_VANTAGE } from '@/ui/frame/vantage-url'
import { decimal } from '@/core/decimal/decimal'
import {
  differenceText,
  firstAmount,
  fromText,
  isCellBelowCost,
  measureRange,
  measureText,
} from '@/features/board/cells/board-measures'
import { layOutRows, patchBlocks } from '@/features/board/rows/board-rows'
import { parseBoardFilter, serializeBoardFilter } from '@/features/board/rows/board-url'
import type { BoardCell, BoardColumn, BoardProduct, BoardVariant } from '@/features/board/board-view'

const cell = (amount: string | null): BoardCell => ({
  amount: amount === null ? null : decimal(amount),
  live: null,
  compared: amount === null ? null : decimal(amount),
  list: 'level',
  promoted: null,
  marks: ['L'],
  base: decimal(20),
  cost: decimal(15),
  hidden: false,
  barred: '' as const,
  limits: '',
})

const variant = (id: string, amount: string | null): BoardVariant => ({
  id,
  sku: id,
  name: id,
  base: decimal(20),
  ownBase: true,
  cost: decimal(15),
  liveBase: null,
  liveCost: null,
  cells: [cell(amount)],
})

const column = (currency: string): BoardColumn => ({
  key: currency,
  vantage: DEFAULT_VANTAGE,
  title: 'Guest',
  subtitle: '',
  ownLists: [],
  currency,
  digits: 2,
})

test('rows: a product and its variants, a lone variant by itself, a closed product alone', () => {
  const kinds = layOutRows([2, 1, 3], new Set([2])).map((row) => `${row.kind} ${row.product}`)
  expect(kinds).toEqual(['product 0', 'variant 0', 'variant 0', 'variant 1', 'product 2'])
})

test.each([
  ['price', '18', '18.00'],
  ['margin', '18', '16.7 %'],
  ['margin', '12', '−25.0 %'],
  ['difference', '18', '−10.0 %'],
  ['difference', '22', '+10.0 %'],
  ['difference', '20', '='],
  ['price', null, 'no price'],
  ['source', '18', 'Club level'],
  ['first', '18', '−20.0 %'],
] as const)('%s of %s reads %s', (measure, amount, text) => {
  expect(measureText(measure, cell(amount), 2, { level: 'Club level' }, decimal('22.5'))).toBe(text)
})

test('below cost is strictly below', () => {
  expect(isCellBelowCost(cell('15'))).toBe(false)
  expect(isCellBelowCost(cell('14.99'))).toBe(true)
})

test('a patch changes the rows it names and leaves the others the same objects', () => {
  const product = (id: string, ...variants: BoardVariant[]): BoardProduct => ({
    id,
    code: id,
    name: id,
    base: null,
    liveBase: null,
    isWhole: true,
    variants,
  })
  const before = new Map([
    [0, [product('p', variant('a', '18'), variant('b', '18'))]],
    [1, [product('q', variant('c', '18'))]],
  ])
  const after = patchBlocks(before, {
    kind: 'variants',
    variants: [variant('b', '17')],
    products: [{ id: 'p', base: decimal(9), liveBase: null }],
  })
  expect(after.get(0)?.[0]?.base).toBe('9')
  expect(after.get(0)?.[0]?.variants.map(({ cells }) => cells[0]?.amount)).toEqual(['18', '17'])
  expect(after.get(0)?.[0]?.variants[0]).toBe(before.get(0)?.[0]?.variants[0])
  expect(after.get(1)?.[0]).toBe(before.get(1)?.[0])
})

test('the filter in an address', () => {
  const columns = [
    { ...DEFAULT_VANTAGE, as: 'group:bee-farms' as const, buying: 12 },
    { ...DEFAULT_VANTAGE, currency: 'GBP' },
    DEFAULT_VANTAGE,
  ]
  const filter = { category: 'jars', of: '', text: 'gold lid', only: 'below-cost' as const, columns }
  expect(parseBoardFilter(serializeBoardFilter(filter))).toEqual(filter)
  // What is typed counts before a category.
  const typed = { ...filter, category: null, of: 'Timber=Cedar, not Hives' }
  expect(parseBoardFilter(serializeBoardFilter(typed))).toEqual(typed)
  expect(parseBoardFilter(new URLSearchParams('in=&find=%20'))).toEqual({
    category: null,
    of: '',
    text: '',
    only: null,
    columns: [],
  })
})

test.each([
  ['price', '17.00 – 18.00'],
  ['margin', '11.8 – 16.7 %'],
  ['difference', '−15.0 – −10.0 %'],
] as const)('a closed product shows the range of %s', (measure, text) => {
  const product = {
    id: 'p',
    code: 'p',
    name: 'p',
    base: null,
    liveBase: null,
    isWhole: true,
    variants: [variant('a', '18'), variant('b', null), variant('c', '17')],
  }
  expect(measureRange(measure, product, [column('EUR')], 0, 2)).toBe(text)
})

test('columns are compared with the first, and only in its currency', () => {
  const columns = [column('EUR'), column('EUR'), column('GBP')]
  const row = { ...variant('a', '20'), cells: [cell('20'), cell('18'), cell('18')] }
  const product = {
    id: 'p',
    code: 'p',
    name: 'p',
    base: null,
    liveBase: null,
    isWhole: true,
    variants: [row],
  }
  expect(columns.map((_, at) => firstAmount(columns, row, at))).toEqual(['20', '20', null])
  expect(columns.map((_, at) => measureRange('first', product, columns, at, 2))).toEqual(['=', '−10.0 %', ''])
})

test.each([
  ['18', '20', '−10.0 %'],
  ['22', '20', '+10.0 %'],
  ['20', '20', ''],
  ['200.01', '200', '< 0.1 %'],
  ['18', null, ''],
  [null, '20', ''],
] as const)('%s beside a first %s differs by “%s”', (amount, first, text) => {
  expect(differenceText(cell(amount), first === null ? null : decimal(first))).toBe(text)
})

test('a narrow column shows the lowest amount and whether there are higher ones', () => {
  expect(fromText([decimal(5), null, decimal(3)], 2)).toBe('3.00+')
  expect(fromText([decimal(5), decimal(5)], 2)).toBe('5.00')
  expect(fromText([null], 2)).toBe('')
})
