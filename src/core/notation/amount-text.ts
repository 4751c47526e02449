/**
 * An amount as people type it, made the plain text a decimal is read from: `12,50`, `€ 1.234,50`, `1,234.50`, `1 234,50`,
 * `−0.5`. Where only one mark stands and exactly three digits follow groups of three, it parts thousands, unless it is a
 * point, which is what decimals are written with everywhere else in the program.
 *
 * Errors  none: what is no amount comes back as it was, for the reader of decimals to refuse.
 */
export function plainAmount(text: string): string {
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
