/** One contender: something to be timed, many times a sample when it is quick. */
export interface Contender {
  readonly name: string
  /** How many times a sample runs it, so that a sample is long enough to be timed. */
  readonly times: number
  readonly run: () => unknown
}

/** Milliseconds of one run, one per repetition. */
export type Samples = ReadonlyMap<string, readonly number[]>

/** Times contenders in turn, so that whatever else the machine does hits all of them alike. */
export async function measure(contenders: readonly Contender[], repetitions: number): Promise<Samples> {
  const samples = new Map<string, number[]>(contenders.map(({ name }) => [name, []]))
  for (let repetition = -1; repetition < repetitions; repetition += 1) {
    for (const { name, times, run } of contenders) {
      const start = performance.now()
      for (let time = 0; time < times; time += 1) {
        const running = run()
        // Waiting for what is done already would cost more than the quickest contenders do.
        if (running instanceof Promise) await running
      }
      const each = (performance.now() - start) / times
      // The first round only warms up.
      if (repetition >= 0) samples.get(name)?.push(each)
    }
  }
  return samples
}

export function median(values: readonly number[]): number {
  const sorted = [...values].sort((left, right) => left - right)
  return sorted[Math.floor(sorted.length / 2)] ?? Number.NaN
}

/** The median of how many times longer `slow` took than `quick`, repetition by repetition. */
export function ratio(samples: Samples, slow: string, quick: string): number {
  const quicks = samples.get(quick) ?? []
  return median((samples.get(slow) ?? []).map((value, at) => value / (quicks[at] ?? Number.NaN)))
}

export function milliseconds(value: number): string {
  if (value >= 100) return `${value.toFixed(0)} ms`
  return value >= 0.1 ? `${value.toFixed(2)} ms` : `${(value * 1000).toFixed(2)} µs`
}
