import { moveInGrid, startsFigure } from '@/ui/grid/grid-moves'
import fc from 'fast-check'

const KEYS = ['ArrowUp', 'ArrowDown', 'ArrowLeft', 'ArrowRight', 'PageUp', 'PageDown', 'Home', 'End']

test('every move stays inside the grid, however small', () => {
  fc.assert(
    fc.property(
      fc.integer({ min: 1, max: 50 }),
      fc.integer({ min: 1, max: 12 }),
      fc.array(fc.tuple(fc.constantFrom(...KEYS), fc.boolean()), { maxLength: 30 }),
      (rows, columns, moves) => {
        let cell = { row: 0, column: 0 }
        for (const [key, control] of moves) {
          cell = moveInGrid(cell, key, { control }, { rows, columns, page: 10 }) ?? cell
          expect(cell.row).toBeGreaterThanOrEqual(0)
          expect(cell.row).toBeLessThan(rows)
          expect(cell.column).toBeGreaterThanOrEqual(0)
          expect(cell.column).toBeLessThan(columns)
        }
      },
    ),
  )
})

test('keys that do not move say so', () =>
  expect(
    moveInGrid({ row: 0, column: 0 }, 'q', { control: false }, { rows: 3, columns: 3, page: 1 }),
  ).toBeNull())

test.each([...'0123456789+-.xm'])('%s begins a figure', (key) => expect(startsFigure(key)).toBe(true))
test.each(['t', 'g', 'Enter', '?', ' '])('%s does not', (key) => expect(startsFigure(key)).toBe(false))
