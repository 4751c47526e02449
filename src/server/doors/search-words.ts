import 'server-only'

/** Nobody searches for more. */
const LONGEST_SEARCH = 200

/** What is searched for, as an address says it. */
export function searchWords(fields: { get(name: string): string | null }, name = 'words'): string {
  return (fields.get(name) ?? '').slice(0, LONGEST_SEARCH)
}
