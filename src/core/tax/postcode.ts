/** What a pattern of postcodes holds; more specific ones say more. */
export type PostcodePattern =
  | { readonly kind: 'exact'; readonly code: string }
  | { readonly kind: 'prefix'; readonly start: string }
  | { readonly kind: 'range'; readonly from: string; readonly to: string }

/**
 * Reads `94103`, `94*` or `94100-94199`.
 *
 * Errors  `null` for a range whose ends differ in length or stand the wrong way round, or a star in the middle.
 */
export function readPostcode(text: string): PostcodePattern | null {
  const code = plain(text)
  const prefix = /^([A-Z0-9]+)\*$/.exec(code)
  if (prefix?.[1]) return { kind: 'prefix', start: prefix[1] }
  // An extended code, such as 94103-1234, is one code: a range has two ends of one length.
  const range = /^([A-Z0-9]+)-([A-Z0-9]+)$/.exec(code)
  const [, from, to] = range ?? []
  if (from && to && from.length === to.length) return from <= to ? { kind: 'range', from, to } : null
  return /^[A-Z0-9]+(-[A-Z0-9]+)?$/.test(code) ? { kind: 'exact', code } : null
}

/** Whether a pattern holds a code, and how much that says: an exact code most, then the longer beginning. */
export function matchPostcode(pattern: PostcodePattern, postcode: string): number | null {
  const code = plain(postcode)
  if (code === '') return null
  switch (pattern.kind) {
    case 'exact':
      return code === pattern.code ? 1000 : null
    case 'range': {
      const start = code.slice(0, pattern.from.length)
      return start.length === pattern.from.length && pattern.from <= start && start <= pattern.to
        ? 500 + pattern.from.length
        : null
    }
    case 'prefix':
      return code.startsWith(pattern.start) ? pattern.start.length : null
  }
}

/** Postcodes are written with and without blanks, in either case. */
function plain(text: string): string {
  return text.toUpperCase().replace(/\s+/g, '')
}
