import type { InputReader } from '../issue/input-reader'

/** Digits a GTIN may have: GTIN-8, GTIN-12 (UPC-A), GTIN-13 (EAN-13) and GTIN-14. */
const LENGTHS: readonly number[] = [8, 12, 13, 14]

export type ReadGtin =
  | { readonly ok: true; readonly gtin: string }
  /** `digit` is the check digit that would be right, where it is wrong. */
  | { readonly ok: false; readonly code: 'no-gtin' | 'check-digit'; readonly digit: string }

/**
 * The check digit that belongs behind some digits: weighed 3, 1, 3, … from the right, they add up with it to a multiple of ten.
 *
 * Source  GS1 General Specifications, "check digit calculations", from memory.
 */
export function checkDigit(digits: string): string {
  let sum = 0
  for (const [at, digit] of [...digits].reverse().entries()) sum += Number(digit) * (at % 2 === 0 ? 3 : 1)
  return String((10 - (sum % 10)) % 10)
}

/** A GTIN as it is kept: its digits as written, without spaces and hyphens between them. */
export function readGtin(text: string): ReadGtin {
  const gtin = text.replace(/[\s-]/g, '')
  // Nothing but noughts has a right check digit, and is nobody's.
  if (!/^\d+$/.test(gtin) || !LENGTHS.includes(gtin.length) || /^0+$/.test(gtin))
    return { ok: false, code: 'no-gtin', digit: '' }
  const digit = checkDigit(gtin.slice(0, -1))
  return gtin.endsWith(digit) ? { ok: true, gtin } : { ok: false, code: 'check-digit', digit }
}

/** The GTIN of a record being read; what is none is reported. */
export function parseGtin(reader: InputReader, text: string | null): string | null {
  if (text === null || text.trim() === '') return null
  const read = readGtin(text)
  if (read.ok) return read.gtin
  reader.report(
    'malformed',
    'gtin',
    text,
    read.code === 'no-gtin'
      ? 'a GTIN of 8, 12, 13 or 14 digits'
      : `a GTIN: behind these digits its last one is ${read.digit}`,
  )
  return text
}
