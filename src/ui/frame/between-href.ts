/** Where what moved between two instants is shown. */
export function betweenHref(since: Date, until: Date): string {
  return `/impact?${new URLSearchParams({ since: since.toISOString(), until: until.toISOString() }).toString()}`
}
