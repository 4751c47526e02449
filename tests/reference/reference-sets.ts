import { Rational } from './rational'

/** What one set saves, by the prices of its units. */
export type SavingOfSet = (prices: readonly Rational[]) => Rational

/**
 * The most that sets of some parts can save on some units, by trying every way to form them: slow, and sure.
 *
 * `fits[unit][part]` is whether a unit may fill a part; `counts` how many units each part takes.
 */
export function bestSaving(
  prices: readonly Rational[],
  fits: readonly (readonly boolean[])[],
  counts: readonly number[],
  savingOf: SavingOfSet,
  mostSets: number,
): Rational {
  const best = (left: readonly number[], setsLeft: number): Rational => {
    let most = Rational.of(0)
    if (setsLeft === 0) return most
    for (const chosen of fillings(left, fits, counts)) {
      const own = savingOf(chosen.map((unit) => prices[unit] as Rational))
      const rest = best(
        left.filter((unit) => !chosen.includes(unit)),
        setsLeft - 1,
      )
      const whole = own.plus(rest)
      if (whole.cmp(most) > 0) most = whole
    }
    return most
  }
  return best([...prices.keys()], mostSets)
}

/** Every choice of units that fills all parts once. */
function* fillings(
  left: readonly number[],
  fits: readonly (readonly boolean[])[],
  counts: readonly number[],
  part = 0,
  chosen: readonly number[] = [],
): Generator<readonly number[]> {
  const count = counts[part]
  if (count === undefined) {
    yield chosen
    return
  }
  const able = left.filter((unit) => fits[unit]?.[part] && !chosen.includes(unit))
  for (const some of combinations(able, count))
    yield* fillings(left, fits, counts, part + 1, [...chosen, ...some])
}

function* combinations(from: readonly number[], count: number): Generator<readonly number[]> {
  if (count === 0) yield []
  else
    for (const [at, first] of from.entries())
      for (const rest of combinations(from.slice(at + 1), count - 1)) yield [first, ...rest]
}
