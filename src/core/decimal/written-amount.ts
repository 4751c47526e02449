/** How the amounts of a file or a spreadsheet are written. */
export type DecimalMark = 'point' | 'comma'

/** The sign amounts of a sample are most likely written with: a comma only where one stands last in some of them. */
export function guessDecimalMark(samples: readonly string[]): DecimalMark {
  const commas = samples.filter((text) => /\d,\d{1,2}\D*$|\d\.\d{3},\d+\D*$/.test(text)).length
  const points = samples.filter((text) => /\d\.\d{1,2}\D*$|\d,\d{3}\.\d+\D*$/.test(text)).length
  return commas > points ? 'comma' : 'point'
}

/**
 * An amount as a plain decimal: the sign between thousands, blanks and a currency before or behind it are taken away.
 *
 * Errors  what is no number then is given back as it was, for the record's own check to refuse.
 */
export function plainAmount(text: string, mark: DecimalMark): string {
  if (/^\d+$/.test(text) || (mark === 'point' && /^\d+\.\d+$/.test(text))) return text
  const bare = text
    .replace(/[\s\u00a0\u202f'’]/g, '')
    .replace(/^(?:[A-Z]{3}|\p{Sc})|(?:[A-Z]{3}|\p{Sc})$/gu, '')
  const [thousands, decimals] = mark === 'comma' ? ['.', ','] : [',', '.']
  const grouped = new RegExp(`^-?\\d{1,3}(\\${thousands}\\d{3})+(\\${decimals}\\d+)?$`)
  const plain = grouped.test(bare) ? bare.replaceAll(thousands, '') : bare
  const written = mark === 'comma' ? plain.replace(',', '.') : plain
  const isNumber = /^-?\d*\.?\d+$/.test(written) && !(mark === 'comma' && /\./.test(plain))
  return isNumber ? written : text
}

/**
 * The same for one amount as people type it, where no sample tells the mark: made the plain text a decimal is read from: `12,50`, `€ 1.234,50`, `1,234.50`, `1 234,50`,
 * `−0.5`. Where only one mark stands and exactly three digits follow groups of three, it parts thousands, unless it is a
 * point, which is what decimals are written with everywhere else in the program.
 *
 * Errors  none: what is no amount comes back as it was, for the reader of decimals to refuse.
 */
export function typedAmount(text: string): string {
  const typed = text
    .trim()
    .replace(/[−–]/, '-')
    .replace(/^([+-]?)\s*\p{Currency_Symbol}\s*/u, '$1')
    .replace(/\s*\p{Currency_Symbol}$/u, '')
    .replace(/(\d)[\s'’](?=\d{3})/g, '$1')
  if (!/^[+-]?[\d.,]+$/.test(typed)) return text.trim()
  const [comma, point] = [typed.lastIndexOf(','), typed.lastIndexOf('.')]
  if (comma < 0) return /^[+-]?\d{1,3}(\.\d{3}){2,}$/.test(typed) ? typed.replaceAll('.', '') : typed
  if (point >= 0)
    return comma > point ? typed.replaceAll('.', '').replace(',', '.') : typed.replaceAll(',', '')
  return /^[+-]?[1-9]\d{0,2}(,\d{3})+$/.test(typed) ? typed.replaceAll(',', '') : typed.replace(',', '.')
}
