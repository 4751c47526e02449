import { cellsOfRange, isSingleCell, placePasted, rangeBetween } from '@/ui/grid/grid-range'
import { readTabbed, writeTabbed } from '@/ui/grid/tabbed-text'
import fc from 'fast-check'

test('a range is the same from whichever corner it was drawn', () => {
  const [one, other] = [
    { row: 5, column: 1 },
    { row: 2, column: 4 },
  ]
  expect(rangeBetween(one, other)).toEqual({ top: 2, bottom: 5, left: 1, right: 4 })
  expect(rangeBetween(other, one)).toEqual(rangeBetween(one, other))
  expect(isSingleCell(rangeBetween(one, one))).toBe(true)
})

test('its cells come row by row', () => {
  expect(cellsOfRange({ top: 1, bottom: 2, left: 3, right: 4 }, (row, column) => `${row}/${column}`)).toEqual(
    [
      ['1/3', '1/4'],
      ['2/3', '2/4'],
    ],
  )
})

test('a pasted block lies from the first cell on; what lies beyond the grid is dropped', () => {
  const block = [
    ['a', 'b'],
    ['c', 'd'],
  ]
  const single = { top: 8, bottom: 8, left: 1, right: 1 }
  expect(placePasted(block, single, { rows: 9, columns: 2 })).toEqual([{ row: 8, column: 1, text: 'a' }])
})

test('a single text fills the whole range', () => {
  const placed = placePasted([['9.90']], { top: 0, bottom: 1, left: 2, right: 3 }, { rows: 9, columns: 9 })
  expect(placed).toHaveLength(4)
  expect(new Set(placed.map(({ text }) => text))).toEqual(new Set(['9.90']))
})

test('whatever is copied is pasted again, with tabs, lines and quotation marks in it', () => {
  const text = fc.string({ unit: 'grapheme' }).map((each) => each.replace(/\r/g, ''))
  fc.assert(
    fc.property(fc.array(fc.tuple(text, text), { minLength: 1, maxLength: 6 }), (block) => {
      expect(readTabbed(writeTabbed(block))).toEqual(block)
    }),
  )
})

test('a spreadsheet ends its last row with a line end', () => {
  expect(readTabbed('1\t2\r\n3\t4\r\n')).toEqual([
    ['1', '2'],
    ['3', '4'],
  ])
})
