/** The address of a record’s page. A code may hold signs that mean something in an address. */
export function recordHref(path: string, code: string): string {
  return `/${path}/${encodeURIComponent(code)}`
}
