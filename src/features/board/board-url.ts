/** What the board shows of the catalogue: in the address beside the vantage. */
export interface BoardFilter {
  /** Code of a category; `null` for all. */
  readonly category: string | null
  /** Words of a name, code or SKU. */
  readonly text: string
}

export function parseBoardFilter(fields: { get(name: string): string | null }): BoardFilter {
  const category = fields.get('in')
  return { category: category === '' ? null : category, text: fields.get('find')?.trim() ?? '' }
}

export function serializeBoardFilter({ category, text }: BoardFilter): URLSearchParams {
  const fields = new URLSearchParams()
  if (category !== null) fields.set('in', category)
  if (text !== '') fields.set('find', text)
  return fields
}
