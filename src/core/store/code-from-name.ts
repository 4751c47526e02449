const LONGEST = 60

/**
 * A code made of a name: its letters and digits in lower case with hyphens between, without accents; with a number behind
 * where it is taken. `fallback` is for a name that has neither.
 */
export function codeFromName(name: string, isTaken: (code: string) => boolean, fallback: string): string {
  const plain = name
    .normalize('NFKD')
    .replace(/\p{M}/gu, '')
    .replace(/ß/g, 'ss')
    .replace(/[ØøŁłĐđ]/g, (letter) => ({ Ø: 'o', ø: 'o', Ł: 'l', ł: 'l', Đ: 'd', đ: 'd' })[letter] ?? '')
    .replace(/[’']/g, '')
    .toLowerCase()
    .replace(/[^\p{L}\p{N}]+/gu, '-')
    .slice(0, LONGEST)
    .replace(/^-+|-+$/g, '')
  const code = plain === '' ? fallback : plain
  if (!isTaken(code)) return code
  for (let number = 2; ; number += 1) if (!isTaken(`${code}-${number}`)) return `${code}-${number}`
}
