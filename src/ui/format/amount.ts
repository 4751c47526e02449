import { compare, type Decimal, toFixed } from '@/core/decimal/decimal'

/** The language of the merchant's screens; figures follow it. */
const LOCALE = 'en-IE'

const SYMBOLS = new Map<string, string>()

/** An amount with the digits of its currency, thousands apart: `1,290.00`. Digits beyond them stay. */
export function formatAmount(amount: Decimal, digits: number): string {
  const text = toFixed(amount, digits)
  const [whole = '', fraction] = text.replace('-', '').split('.')
  const grouped = whole.replace(/\B(?=(\d{3})+$)/g, ',')
  return (text.startsWith('-') ? '−' : '') + (fraction === undefined ? grouped : `${grouped}.${fraction}`)
}

/** An amount with its currency: `€1,290.00`. */
export function formatMoney(amount: Decimal, currency: string, digits: number): string {
  const figure = formatAmount(amount, digits)
  return figure.startsWith('−') ? `−${symbolOf(currency)}${figure.slice(1)}` : symbolOf(currency) + figure
}

function symbolOf(currency: string): string {
  let symbol = SYMBOLS.get(currency)
  if (symbol === undefined) {
    const parts = new Intl.NumberFormat(LOCALE, { style: 'currency', currency }).formatToParts(1)
    symbol = parts.find(({ type }) => type === 'currency')?.value ?? currency
    SYMBOLS.set(currency, symbol)
  }
  return symbol
}

/** A percentage with one digit and a real minus sign: `−12.5 %`. */
export function formatPercent(percent: Decimal): string {
  return `${toFixed(percent, 1).replace('-', '−')} %`
}

/** The lowest and highest of several amounts: "20.70 – 41.60". */
export function rangeText(amounts: readonly (Decimal | null)[], digits: number): string {
  const present = amounts.filter((amount) => amount !== null).sort(compare)
  const [low, high] = [present[0], present.at(-1)]
  if (low === undefined || high === undefined) return ''
  return low === high
    ? formatAmount(low, digits)
    : `${formatAmount(low, digits)} – ${formatAmount(high, digits)}`
}
