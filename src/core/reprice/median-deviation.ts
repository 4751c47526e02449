/**
 * The median of numbers, and the median absolute deviation from it.
 *
 * Errors  both 0 for no numbers.
 * Source  Hampel, “The influence curve and its role in robust estimation”, Journal of the American Statistical Association
 *         69 (1974): the median of |x − median| (from memory).
 */
export function medianDeviation(values: readonly number[]): {
  readonly median: number
  readonly deviation: number
} {
  const median = medianOf(values)
  return { median, deviation: medianOf(values.map((value) => Math.abs(value - median))) }
}

function medianOf(values: readonly number[]): number {
  if (values.length === 0) return 0
  const sorted = Float64Array.from(values).sort()
  const at = sorted.length >> 1
  const upper = sorted[at] as number
  return sorted.length % 2 === 1 ? upper : ((sorted[at - 1] as number) + upper) / 2
}

/** Beyond so many deviations a change stands out from the others. */
export const OUTLYING = 3
