import { sharedMemory } from '../maps/shared-memory'
import type { CompiledList } from '../engine/lists/compiled-list'
import { quantityUnits } from '../engine/lists/compiled-line'
import type { PreparedStore } from '../engine/context/prepared-store'
import type { PricingContext } from '../engine/context/pricing-context'
import type { Breaks } from '../price/lines/price-method'
import { listsBehind } from './reach'

interface Standing {
  readonly prepared: PreparedStore
  readonly pricingContext: PricingContext
}

const ONE = 1000

/** Kept as long as the list: reading all lines of a long one takes longer than anything else here. */
const OF_LISTS = sharedMemory('breaks-of-lists', () => new WeakMap<CompiledList, ReadonlySet<number>>())
/** Kept as long as what holds for somebody. */
const OF_BUYERS = sharedMemory(
  'breaks-of-buyers',
  () => new WeakMap<PreparedStore, WeakMap<PricingContext, readonly number[]>>(),
)

/** Every quantity from which a price of somebody may be another one, on either side: one piece, then rising. Thousandths. */
export function breakQuantities(before: Standing, after: Standing): readonly number[] {
  const [then, now] = [quantitiesOf(before), quantitiesOf(after)]
  if (then.length === now.length && then.every((quantity, at) => quantity === now[at])) return now
  return rising(new Set([...then, ...now]))
}

function quantitiesOf({ prepared, pricingContext }: Standing): readonly number[] {
  const known = OF_BUYERS.get(prepared) ?? new WeakMap<PricingContext, readonly number[]>()
  OF_BUYERS.set(prepared, known)
  let quantities = known.get(pricingContext)
  if (!quantities) {
    const found = new Set<number>([ONE])
    for (const id of listsBehind(prepared, pricingContext)) {
      const list = prepared.lists.get(id)
      if (list?.hasBreaks) for (const from of breaksOf(list)) if (from > ONE) found.add(from)
    }
    known.set(pricingContext, (quantities = rising(found)))
  }
  return quantities
}

function rising(quantities: Iterable<number>): readonly number[] {
  return [...quantities].sort((left, right) => left - right)
}

function breaksOf(list: CompiledList): ReadonlySet<number> {
  const known = OF_LISTS.get(list)
  if (known) return known
  const found = new Set<number>()
  const add = ({ breaks }: Breaks) => {
    for (const { from } of breaks) found.add(quantityUnits(from))
  }
  for (const line of list.lines) if (line.breaks.length > 1 || line.breaks[0]?.from !== '0') add(line)
  if (list.list.defaultLine) add(list.list.defaultLine)
  OF_LISTS.set(list, found)
  return found
}
