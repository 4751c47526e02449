import { decimal } from '../../decimal/decimal'
import { addFractions, type Fraction, multiplyFractions, ZERO_FRACTION } from '../../decimal/fraction'
import { QUANTITY_UNITS as UNIT } from '../../engine/lists/compiled-line'
import type { What } from '../../predicates/what'
import { formSets } from './form-sets'
import type { WhyNot } from './outcome'
import {
  not,
  openOf,
  placesNotTaken,
  planned,
  type Planned,
  portion,
  segmentAt,
  type Turn,
  type ValueOf,
  whyNothingOpen,
} from './planned'

/** As many sets as may be used and save something. */
export function planSets(turn: Turn, value: ValueOf<'set'>): Planned {
  const sets = formSets(turn, value)
  if (sets.length === 0) return not(whyNoSet(turn, value))
  const counts = new Map<number, { units: number; saving: Fraction }>()
  for (const { times, units, amount, saving } of sets) {
    for (const { segment, count, each } of units) {
      const part = multiplyFractions(each, { numerator: BigInt(count * times), denominator: 1n })
      const own = amount.numerator === 0n ? ZERO_FRACTION : portion(saving, part, amount)
      const known = counts.get(segment)
      counts.set(segment, {
        units: (known?.units ?? 0) + count * times,
        saving: known ? addFractions(known.saving, own) : own,
      })
    }
  }
  const takes = [...counts].map(([segment, { units }]) => ({ segment, quantity: units * UNIT }))
  const savings = [...counts.values()].map(({ saving }) => saving)
  return planned(takes, savings, { sets, uses: sets.reduce((sum, { times }) => sum + times, 0) })
}

function whyNoSet(turn: Turn, value: ValueOf<'set'>): WhyNot {
  const open = openOf(turn)
  if (open.length === 0) return whyNothingOpen(turn)
  const missing = missingUnits(turn, value, open)
  if (missing === 0) return { code: 'saves-nothing' }
  return missingUnits(turn, value, placesNotTaken(turn)) === 0
    ? whyNothingOpen(turn)
    : { code: 'too-few', missing: decimal(missing) }
}

/** How many units a set lacks: for each part, and for all of them where parts want the same. */
function missingUnits({ basket, goods }: Turn, { parts }: ValueOf<'set'>, places: readonly number[]): number {
  const unitsIn = (scope: What | null) => {
    const held = scope ? goods.holds(scope) : null
    return places
      .map((at) => segmentAt(basket, at))
      .filter(({ line }) => held?.[line] ?? true)
      .reduce((sum, { quantity }) => sum + Math.floor(quantity / UNIT), 0)
  }
  const byPart = parts.reduce((sum, { count, scope }) => sum + Math.max(0, count - unitsIn(scope)), 0)
  const wanted = parts.reduce((sum, { count }) => sum + count, 0)
  return Math.max(byPart, wanted - unitsIn(null))
}
