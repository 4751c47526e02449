import type { Histogram } from '@/ui/picker/what/what-choices'

const MOST_BARS = 13

/**
 * Values counted between edges that are easy to read: steps of one width, or of one ratio where the values reach over
 * more than a few times the lowest. Only for drawing: an amount is never computed from it.
 */
export function histogramOf(
  values: readonly number[],
  scale: 'even' | 'by-ratio',
  digits = 0,
): Histogram | null {
  let [low, high] = [Infinity, -Infinity]
  for (const value of values) {
    if (!Number.isFinite(value)) continue
    if (value < low) low = value
    if (value > high) high = value
  }
  if (low > high) return null
  const edges = scale === 'by-ratio' && low > 0 && high > low * 4 ? byRatio(low, high) : even(low, high)
  const counts = new Array<number>(edges.length - 1).fill(0)
  for (const value of values) {
    if (!Number.isFinite(value)) continue
    const at = placeAmong(edges, value)
    counts[at] = (counts[at] as number) + 1
  }
  return { edges: edges.map((edge) => edgeText(edge, digits)), counts }
}

/** The last step whose lower edge a value reaches, by halving. */
function placeAmong(edges: readonly number[], value: number): number {
  let [low, high] = [0, edges.length - 2]
  while (low < high) {
    const middle = (low + high + 1) >> 1
    if (value >= (edges[middle] as number)) low = middle
    else high = middle - 1
  }
  return low
}

function even(low: number, high: number): readonly number[] {
  const step = niceStep((high - low) / MOST_BARS)
  const first = Math.floor(plain(low / step))
  const last = Math.floor(plain(high / step)) + 1
  return Array.from({ length: last - first + 1 }, (_, at) => plain((first + at) * step))
}

function byRatio(low: number, high: number): readonly number[] {
  const ratio = (high / low) ** (1 / MOST_BARS)
  const edges = [twoFigures(low, Math.floor)]
  for (let at = 1; at < MOST_BARS; at += 1) {
    const edge = twoFigures(low * ratio ** at, Math.round)
    if (edge > (edges.at(-1) as number)) edges.push(edge)
  }
  let last = twoFigures(high, Math.ceil)
  // What costs most counts below the last edge.
  while (last <= high) last = twoFigures(last * 1.02, Math.ceil)
  return [...edges.filter((edge) => edge < last), last]
}

/** 1, 2 or 5 times a power of ten, at least as large. */
function niceStep(wanted: number): number {
  if (wanted <= 0) return 1
  const power = 10 ** Math.floor(Math.log10(wanted))
  return [1, 2, 5, 10].map((times) => times * power).find((step) => step >= wanted) ?? power * 10
}

function twoFigures(value: number, round: (value: number) => number): number {
  const power = 10 ** (Math.floor(Math.log10(value)) - 1)
  return plain(round(value / power) * power)
}

/** Without the trace that counting in powers of two leaves: three tenths is 0.3, so that a value of 0.3 reaches it. */
function plain(value: number): number {
  return Number(value.toPrecision(12))
}

/** As money is written, with more digits only where the edge has them. */
function edgeText(edge: number, digits: number): string {
  const [whole = '', part = ''] = edge.toFixed(6).split('.')
  const shown = part.replace(/0+$/, '').padEnd(digits, '0')
  return shown === '' ? whole : `${whole}.${shown}`
}
