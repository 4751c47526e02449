import { listsBehind } from './reach'
import type { CompiledList } from '../engine/lists/compiled-list'
import { quantityUnits } from '../engine/lists/compiled-line'
import type { PreparedStore } from '../engine/context/prepared-store'
import type { PricingContext } from '../engine/context/pricing-context'
import type { Breaks } from '../price/price-method'

interface Standing {
  readonly prepared: PreparedStore
  readonly pricingContext: PricingContext
}

const ONE = 1000

/** Kept as long as the list: reading all lines of a long one takes longer than anything else here. */
const KNOWN = new WeakMap<CompiledList, ReadonlySet<number>>()

/** Every quantity from which a price of somebody may be another one, on either side: one piece, then rising. Thousandths. */
export function breakQuantities(...standings: readonly Standing[]): readonly number[] {
  const found = new Set<number>([ONE])
  for (const { prepared, pricingContext } of standings)
    for (const id of listsBehind(prepared, pricingContext)) {
      const list = prepared.lists.get(id)
      if (list?.hasBreaks) for (const from of breaksOf(list)) if (from > ONE) found.add(from)
    }
  return [...found].sort((left, right) => left - right)
}

function breaksOf(list: CompiledList): ReadonlySet<number> {
  const known = KNOWN.get(list)
  if (known) return known
  const found = new Set<number>()
  const add = ({ breaks }: Breaks) => {
    for (const { from } of breaks) found.add(quantityUnits(from))
  }
  for (const line of list.lines) if (line.breaks.length > 1 || line.breaks[0]?.from !== '0') add(line)
  if (list.list.defaultLine) add(list.list.defaultLine)
  KNOWN.set(list, found)
  return found
}
