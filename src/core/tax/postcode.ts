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

/**
 * How many codes of the same length a pattern covers, where it holds this one: 1 for an exact code. The one that covers
 * fewer says more.
 *
 * Errors  `null` when it does not hold the code.
 */
export function codesCovered(pattern: PostcodePattern, postcode: string): bigint | null {
  const code = plain(postcode)
  if (code === '') return null
  switch (pattern.kind) {
    case 'exact':
      return code === pattern.code ? 1n : null
    case 'range': {
      const { from, to } = pattern
      const start = code.slice(0, from.length)
      if (start.length < from.length || start < from || start > to) return null
      const base = isDigits(from + to) ? 10n : 36n
      return (valueOf(to, base) - valueOf(from, base) + 1n) * places(code, from.length)
    }
    case 'prefix':
      return code.startsWith(pattern.start) ? places(code, pattern.start.length) : null
  }
}

/** How many codes there are that are alike in their first signs: of digits alone where this one has no letters. */
function places(code: string, alike: number): bigint {
  return (isDigits(code) ? 10n : 36n) ** BigInt(code.length - alike)
}

function isDigits(text: string): boolean {
  return /^\d*$/.test(text)
}

function valueOf(text: string, base: bigint): bigint {
  let value = 0n
  for (const sign of text) value = value * base + BigInt(Number.parseInt(sign, 36))
  return value
}

/** Postcodes are written with and without blanks, in either case. */
function plain(text: string): string {
  return text.toUpperCase().replace(/\s+/g, '')
}
