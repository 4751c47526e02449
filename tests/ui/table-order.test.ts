import { inOrder, rowsFound } from '@/ui/grid/table-order'

interface Row {
  readonly name: string
  readonly place: string
  readonly count: string
}

const COLUMNS = [
  { key: 'name', title: 'Name', textOf: ({ name }: Row) => name },
  { key: 'place', title: 'Place', textOf: ({ place }: Row) => place },
  { key: 'count', title: 'Count', textOf: ({ count }: Row) => count },
]
const ROWS: readonly Row[] = [
  { name: 'Émile', place: 'Morlaix, France', count: '10' },
  { name: 'Bee farm', place: '', count: '9' },
  { name: 'abbey', place: 'Cork, Ireland', count: '' },
]
const names = (rows: readonly Row[]) => rows.map(({ name }) => name)

test.each([
  ['', ['Émile', 'Bee farm', 'abbey']],
  ['CORK', ['abbey']],
  ['france 10', ['Émile']],
  ['france 9', []],
])('“%s” finds rows with every word of it', (words, found) => {
  expect(names(rowsFound(ROWS, COLUMNS, words))).toEqual(found)
})

test.each([
  ['name', false, ['abbey', 'Bee farm', 'Émile']],
  ['name', true, ['Émile', 'Bee farm', 'abbey']],
  ['count', false, ['Bee farm', 'Émile', 'abbey']],
  ['count', true, ['Émile', 'Bee farm', 'abbey']],
  ['place', false, ['abbey', 'Émile', 'Bee farm']],
])('sorted by %s, from the end %s: what is empty stays last', (key, isDown, sorted) => {
  expect(names(inOrder(ROWS, COLUMNS, { key, isDown }))).toEqual(sorted)
})

test('without an order rows stay as they are', () => {
  expect(inOrder(ROWS, COLUMNS, null)).toBe(ROWS)
})
