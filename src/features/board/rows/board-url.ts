import type { Vantage } from '@/core/engine/context/vantage'
import { parseVantage, serializeVantage } from '@/ui/frame/vantage-url'

export const COVERAGES = ['no-price', 'not-reached', 'below-cost', 'differing'] as const

/** What the board shows of the catalogue, and for whom: in the address beside the vantage. */
export interface BoardFilter {
  /** Code of a category; `null` for all. */
  readonly category: string | null
  /** What of the catalogue, as it is typed; then no category counts. Empty for all. */
  readonly of: string
  /** Words of a name, code or SKU. */
  readonly text: string
  /** Only what needs looking at: without a price, reached by no list, below cost, columns that differ. */
  readonly only: (typeof COVERAGES)[number] | null
  /** Columns chosen; empty for guests and every group. */
  readonly columns: readonly Vantage[]
}

const MOST_COLUMNS = 24

/** Holds  `parseBoardFilter(serializeBoardFilter(filter))` is `filter`. */
export function parseBoardFilter(fields: { get(name: string): string | null }): BoardFilter {
  const category = fields.get('in')
  const of = fields.get('of')?.trim() ?? ''
  const only = COVERAGES.find((each) => each === fields.get('only')) ?? null
  return {
    category: category === '' || of !== '' ? null : category,
    of,
    text: fields.get('find')?.trim() ?? '',
    only,
    columns: parseColumns(fields.get('columns') ?? ''),
  }
}

export function serializeBoardFilter({ category, of, text, only, columns }: BoardFilter): URLSearchParams {
  const fields = new URLSearchParams()
  if (of !== '') fields.set('of', of)
  else if (category !== null) fields.set('in', category)
  if (text !== '') fields.set('find', text)
  if (only !== null) fields.set('only', only)
  if (columns.length > 0) fields.set('columns', serializeColumns(columns))
  return fields
}

/** One column a vantage, as an address has it, with `;` between them. */
export function serializeColumns(columns: readonly Vantage[]): string {
  return columns.map((column) => serializeVantage(column).toString() || 'as=guest').join(';')
}

export function parseColumns(text: string): readonly Vantage[] {
  return text
    .split(';')
    .filter((column) => column !== '')
    .slice(0, MOST_COLUMNS)
    .map((column) => parseVantage(new URLSearchParams(column)))
}
