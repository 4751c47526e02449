import { findNearest } from '@/core/issue/issue'

/** What a file is read into: products, or lines of price lists (of one, by code, where it is chosen). */
export type ImportTarget =
  { readonly kind: 'products' } | { readonly kind: 'lines'; readonly list: string | null }

/** Something a column of a file can be. */
export interface ImportField {
  readonly key: string
  /** Its heading in files of ours, and its name on screen. */
  readonly name: string
  /** Other headings it goes by, in small letters without blanks and signs. */
  readonly aliases: readonly string[]
}

/** What each column of a file is: the key of a field, or `null` for one that is left out. */
export type Matching = readonly (string | null)[]

/** The first field that goes by each heading; no field is given to two columns. */
export function guessMatching(header: readonly string[], fields: readonly ImportField[]): Matching {
  const keysOf = new Map<string, string[]>()
  for (const { key, name, aliases } of fields) {
    for (const heading of new Set([plainHeading(name), ...aliases])) {
      const known = keysOf.get(heading)
      if (known) known.push(key)
      else keysOf.set(heading, [key])
    }
  }
  const taken = new Set<string>()
  return header.map((heading) => {
    const key = keysOf.get(plainHeading(heading))?.find((each) => !taken.has(each))
    if (key === undefined) return null
    taken.add(key)
    return key
  })
}

/** A heading in small letters without blanks and signs, as aliases are written. */
export function plainHeading(heading: string): string {
  return heading.toLowerCase().replace(/[^\p{Letter}\p{Number}%]/gu, '')
}

/** What is wrong with a matching: a field twice, one that does not exist, or one that is needed and absent. */
export type MatchingProblem =
  | { readonly code: 'twice'; readonly field: string }
  | { readonly code: 'unknown'; readonly field: string; readonly nearest: string | null }
  | { readonly code: 'absent'; readonly fields: readonly string[] }

/** `needed` are groups of fields of which one at least must be there. */
export function checkMatching(
  matching: Matching,
  fields: readonly ImportField[],
  needed: readonly (readonly string[])[],
): MatchingProblem | null {
  const nameOf = (key: string) => fields.find((field) => field.key === key)?.name ?? key
  const chosen = matching.filter((key) => key !== null)
  const twice = chosen.find((key, at) => chosen.indexOf(key) !== at)
  if (twice !== undefined) return { code: 'twice', field: nameOf(twice) }
  const keys = fields.map(({ key }) => key)
  const unknown = chosen.find((key) => !keys.includes(key))
  if (unknown !== undefined) return { code: 'unknown', field: unknown, nearest: findNearest(unknown, keys) }
  const absent = needed.find((group) => !group.some((key) => chosen.includes(key)))
  return absent ? { code: 'absent', fields: absent.map(nameOf) } : null
}

/** Cells of a row by the field they are for. */
export type Cells = ReadonlyMap<string, string>

/** Reads the cells a matching names; cells in which nothing stands are not there. */
export function cellsOf(cells: readonly string[], matching: Matching): Cells {
  const found = new Map<string, string>()
  matching.forEach((key, at) => {
    const text = cells[at]
    if (key !== null && text) found.set(key, text)
  })
  return found
}

/** What says that a field is to be empty; a cell in which nothing stands leaves the field as it is. */
export const NONE = 'none'
