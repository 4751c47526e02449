import 'server-only'

/** Values of one field, row by row: as they are, or each distinct text once and which of them each row has. */
export type Column =
  readonly unknown[] | { readonly texts: readonly string[]; readonly at: readonly number[] }

/** Texts that repeat are read, and kept in memory, once a block. */
export function packColumn(values: readonly unknown[]): Column {
  const places = new Map<string, number>()
  const at: number[] = []
  for (const value of values) {
    // With as many texts as this nothing is gained.
    if (typeof value !== 'string' || places.size > values.length / 2) return values
    const place = places.get(value) ?? places.size
    places.set(value, place)
    at.push(place)
  }
  return { texts: [...places.keys()], at }
}

export function unpackColumn(column: Column): readonly unknown[] {
  if ('texts' in column) return column.at.map((place) => column.texts[place])
  return column
}
