import { setsAny } from './amounts'
import type { CompiledList } from './compiled-list'
import type { PreparedStore } from './prepared-store'
import { getSettings } from '../store/store'
import type { Situation } from './situation'

/**
 * Which lists name an item, turned around: asking every list of a ladder in turn whether it does would make a question
 * as dear as the ladder is long. Lists compiled anew since are not in it; they are asked.
 */
export interface NamingIndex {
  readonly ordinals: ReadonlyMap<CompiledList, number>
  /** Those of item k stand in `lists` at `starts[k]` up to `starts[k + 1]`, by ordinal. */
  readonly starts: Int32Array
  readonly lists: Int32Array
}

/** Where on a ladder an item can first find a price. */
export interface Reach {
  readonly naming: NamingIndex
  /** The step each list stands on, by ordinal; −1 for lists that are not on the ladder. */
  readonly stepOf: Int16Array
  /** Steps with lists the index does not know, rising. */
  readonly unsure: readonly number[]
  /** The first step whose plan speaks of a signature; `UNKNOWN` until asked. */
  readonly planSteps: Int16Array
  /** Whether an item may have a floor at all. */
  readonly hasFloors: boolean
}

const UNKNOWN = -2

/** So many steps are asked one by one before the index is made anew. */
const MOST_UNSURE = 8

function indexNaming({ lists, index }: PreparedStore): NamingIndex {
  const compiled = [...lists.values()]
  const starts = new Int32Array(index.items.length + 1)
  for (const { named } of compiled)
    for (let at = 0; at < named.length; at += 1) starts[(named[at] as number) + 1]! += 1
  for (let number = 0; number < index.items.length; number += 1)
    starts[number + 1]! += starts[number] as number
  const next = starts.slice()
  const found = new Int32Array(starts.at(-1) as number)
  compiled.forEach(({ named }, ordinal) => {
    for (let at = 0; at < named.length; at += 1) {
      const number = named[at] as number
      found[next[number] as number] = ordinal
      next[number]! += 1
    }
  })
  return { ordinals: new Map(compiled.map((each, ordinal) => [each, ordinal])), starts, lists: found }
}

/** Made when a situation is first asked for a price. */
export function reachOf(prepared: PreparedStore, situation: Situation): Reach {
  const known = situation.reach.current
  if (known && known.naming === prepared.naming.current) return known
  const naming = (prepared.naming.current ??= indexNaming(prepared))
  const stepOf = new Int16Array(naming.ordinals.size).fill(-1)
  const unsure = new Set<number>()
  situation.ladder.forEach((step, at) => {
    for (const { compiled } of step) {
      const ordinal = naming.ordinals.get(compiled)
      if (ordinal === undefined) unsure.add(at)
      else stepOf[ordinal] = at
    }
  })
  if (unsure.size > MOST_UNSURE) {
    prepared.naming.current = null
    return reachOf(prepared, situation)
  }
  const planSteps = new Int16Array(prepared.index.variantSignatures).fill(UNKNOWN)
  const hasFloors = mayHaveFloors(prepared, situation)
  return (situation.reach.current = { naming, stepOf, unsure: [...unsure], planSteps, hasFloors })
}

/** The first step from `from` on that may have a price for an item; the ladder's length when none can. */
export function nextStep(
  { index }: PreparedStore,
  { ladder }: Situation,
  { naming: { starts, lists }, stepOf, unsure, planSteps }: Reach,
  number: number,
  from: number,
): number {
  let next = ladder.length
  if (number < index.variantCount) {
    const signature = index.signatureOf[number] as number
    let planned = planSteps[signature] as number
    if (planned === UNKNOWN) planSteps[signature] = planned = firstPlanned(ladder, signature)
    // Behind the first list that speaks of the signature nothing is known: the steps are asked one by one.
    next = planned < from ? from : planned
  }
  const end = starts[number + 1] as number
  for (let at = starts[number] as number; at < end; at += 1) {
    const step = stepOf[lists[at] as number] as number
    if (step >= from && step < next) next = step
  }
  for (let at = 0; at < unsure.length; at += 1) {
    const step = unsure[at] as number
    if (step >= from && step < next) next = step
  }
  return next
}

function firstPlanned(ladder: Situation['ladder'], signature: number): number {
  const speaks = ({ compiled }: Situation['ladder'][number][number]) => {
    if (!compiled.hasPlan) return false
    const { starts } = compiled.plan()
    return starts[signature] !== starts[signature + 1]
  }
  const at = ladder.findIndex((step) => step.some(speaks))
  return at < 0 ? ladder.length : at
}

/** Whether any item sets a floor that counts in the situation's currency. */
export function mayHaveFloors(prepared: PreparedStore, { lens }: Situation): boolean {
  return (
    setsAny(prepared, 'floor', lens.currency) ||
    setsAny(prepared, 'floor', getSettings(prepared.store).currency)
  )
}
