/** A column a table can be sorted by and searched in. */
export interface OrderedColumn<Row> {
  readonly key: string
  readonly title: string
  readonly textOf: (row: Row) => string
}

export interface Order {
  readonly key: string
  readonly isDown: boolean
}

/** Rows in which every word of what is searched for stands, in any column and any case. */
export function rowsFound<Row>(
  rows: readonly Row[],
  columns: readonly OrderedColumn<Row>[],
  words: string,
): readonly Row[] {
  const wanted = words.toLowerCase().split(/\s+/).filter(Boolean)
  if (wanted.length === 0) return rows
  return rows.filter((row) => {
    const text = columns.map(({ textOf }) => textOf(row).toLowerCase()).join('\n')
    return wanted.every((word) => text.includes(word))
  })
}

/** Rows by one column: numbers by size, text as people sort it, what is empty last; `null` leaves them as they are. */
export function inOrder<Row>(
  rows: readonly Row[],
  columns: readonly OrderedColumn<Row>[],
  order: Order | null,
): readonly Row[] {
  const column = columns.find(({ key }) => key === order?.key)
  if (!order || !column) return rows
  const way = order.isDown ? -1 : 1
  return [...rows].sort((left, right) => {
    const [one, other] = [column.textOf(left), column.textOf(right)]
    if (one === '' || other === '') return Number(one === '') - Number(other === '')
    return way * one.localeCompare(other, 'en', { numeric: true, sensitivity: 'base' })
  })
}
