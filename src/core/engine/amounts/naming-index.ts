import { setsAny } from './amounts'
import type { PreparedStore } from '../context/prepared-store'
import { getSettings } from '../../store/store'
import { type ListsByItem, type LadderIndex, UNSEARCHED } from '../lists/ladder-index'
import type { Ladder, PricingContext } from '../context/pricing-context'

const UNKNOWN = -2

/** So many steps are asked one by one before the index is made anew. */
const MOST_UNSURE = 8

/** How many reaches there have been. */
let made = 0

function indexNaming({ lists, index }: PreparedStore): ListsByItem {
  const layouts = [...lists.values()].map(({ layout }) => layout)
  const starts = new Int32Array(index.items.length + 1)
  for (const { named } of layouts)
    for (let at = 0; at < named.length; at += 1) starts[(named[at] as number) + 1]! += 1
  for (let number = 0; number < index.items.length; number += 1)
    starts[number + 1]! += starts[number] as number
  const next = starts.slice()
  const found = new Int32Array(starts.at(-1) as number)
  const places = new Int32Array(found.length)
  layouts.forEach(({ named }, ordinal) => {
    for (let at = 0; at < named.length; at += 1) {
      const number = named[at] as number
      found[next[number] as number] = ordinal
      places[next[number] as number] = at
      next[number]! += 1
    }
  })
  return { ordinals: new Map(layouts.map((each, ordinal) => [each, ordinal])), starts, lists: found, places }
}

/** Made when a pricing context is first asked for a price, and when too many of its steps are unsure. */
export function reachOf(prepared: PreparedStore, pricingContext: PricingContext): LadderIndex {
  const known = pricingContext.reach.current
  if (known && known.naming === prepared.naming.current) {
    if (known.unsure.length <= MOST_UNSURE) return known
    prepared.naming.current = null
  }
  const naming = (prepared.naming.current ??= indexNaming(prepared))
  const found = findReach(prepared, pricingContext, naming)
  if (found.unsure.length > MOST_UNSURE) {
    prepared.naming.current = null
    return reachOf(prepared, pricingContext)
  }
  return (pricingContext.reach.current = found)
}

function findReach(
  prepared: PreparedStore,
  pricingContext: PricingContext,
  naming: ListsByItem,
): LadderIndex {
  const stepOf = new Int16Array(naming.ordinals.size).fill(-1)
  const unsure = new Set<number>()
  pricingContext.ladder.forEach((step, at) => {
    for (const { compiled } of step) {
      const ordinal = naming.ordinals.get(compiled.layout)
      if (ordinal === undefined) unsure.add(at)
      else stepOf[ordinal] = at
    }
  })
  return {
    naming,
    stepOf,
    unsure: [...unsure],
    planSteps: new Int16Array(prepared.index.variantSignatures).fill(UNKNOWN),
    hasFloors: mayHaveFloors(prepared, pricingContext),
    ordinal: (made += 1),
    place: UNSEARCHED,
  }
}

/**
 * What was known of a pricing context's reach, after some lists of its ladder were compiled anew. Where one was laid out anew
 * too, what is known of its step may be wrong, and the step is asked.
 */
export function reachAfter(
  prepared: PreparedStore,
  before: PricingContext,
  ladder: Ladder,
): LadderIndex | null {
  const known = before.reach.current
  if (!known) return null
  const moved = ladder.flatMap((step, at) =>
    step.some(({ compiled }, place) => compiled.layout !== before.ladder[at]?.[place]?.compiled.layout)
      ? [at]
      : [],
  )
  const unsure = [...new Set([...known.unsure, ...moved])].sort((left, right) => left - right)
  return { ...known, unsure, hasFloors: mayHaveFloors(prepared, before), ordinal: (made += 1) }
}

/** The first step from `from` on that may have a price for an item; the ladder's length when none can. */
export function nextStep(
  { index }: PreparedStore,
  { ladder }: PricingContext,
  reach: LadderIndex,
  number: number,
  from: number,
): number {
  const { naming, stepOf, unsure, planSteps } = reach
  const { starts, lists, places } = naming
  const start = starts[number] as number
  const end = starts[number + 1] as number
  // Where more lists name the item than the ladder has steps, going down the steps is the shorter way.
  if (end - start > ladder.length) {
    reach.place = UNSEARCHED
    return from
  }
  let next = ladder.length
  let place = -1
  if (number < index.variantCount) {
    const signature = index.signatureOf[number] as number
    let planned = planSteps[signature] as number
    if (planned === UNKNOWN) planSteps[signature] = planned = firstPlanned(ladder, signature)
    // Behind the first list that speaks of the signature nothing is known: the steps are asked one by one.
    next = planned < from ? from : planned
  }
  for (let at = start; at < end; at += 1) {
    const step = stepOf[lists[at] as number] as number
    if (step < from || step > next) continue
    next = step
    place = places[at] as number
  }
  for (let at = 0; at < unsure.length; at += 1) {
    const step = unsure[at] as number
    if (step < from || step > next) continue
    next = step
    place = UNSEARCHED
  }
  reach.place = place
  return next
}

function firstPlanned(ladder: PricingContext['ladder'], signature: number): number {
  const speaks = ({ compiled }: PricingContext['ladder'][number][number]) => {
    if (!compiled.hasPlan) return false
    const { starts } = compiled.plan()
    return starts[signature] !== starts[signature + 1]
  }
  const at = ladder.findIndex((step) => step.some(speaks))
  return at < 0 ? ladder.length : at
}

/** Whether any item sets a floor that counts in the pricing context's currency. */
export function mayHaveFloors(prepared: PreparedStore, { currencyView }: PricingContext): boolean {
  return (
    setsAny(prepared, 'floor', currencyView.currency) ||
    setsAny(prepared, 'floor', getSettings(prepared.store).currency)
  )
}
