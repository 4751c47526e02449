import 'server-only'

import { compare, type Decimal, multiply, subtract } from '@/core/decimal/decimal'
import type { CompiledList } from '@/core/engine/lists/compiled-list'
import { type RepriceRow, type RepriceRule, repriceRows } from '@/core/reprice/reprice'
import { type RepriceFigures, repriceFigures } from '@/core/reprice/reprice-figures'
import { changedSince } from '@/server/changes/changed-since'
import { currentInstant } from '@/server/clock'
import { Slices } from '@/server/doors/slices'
import { Remembered } from '@/server/engine/remembered'
import { soldSince } from '@/server/shop/sold-since'
import type { View } from '@/server/views/view'
import { readFact } from './reprice-choices'
import type { RepriceShown } from './reprice-url'

/** What a rule makes of every amount it is for, and what all of that comes to. */
export interface Repriced {
  readonly rows: readonly RepriceRow[]
  readonly figures: RepriceFigures
}

const ROWS = new Remembered<Repriced>('reprice')
const DAY = 86_400_000
/** “Not changed for long” and “sold” look back so far. */
const LONG_DAYS = 365
const SOLD_DAYS = 90
/** A margin below it is low (common practice, no source). */
const LOW_MARGIN = '15' as Decimal

/** What a rule makes of what is looked at; kept as long as that. */
export function reprice(view: View, shown: RepriceShown, rule: RepriceRule): Promise<Repriced> {
  const { of, only, field, from, rule: text, rounding } = shown
  return ROWS.of(view, JSON.stringify([of, only, field, from, text, rounding]), async () => {
    const at = currentInstant().getTime()
    const slices = new Slices()
    const all = await slices.run(repriceRows(view.prepared, rule, at))
    const rows = all.filter(await filterOf(view, only))
    return { rows, figures: await slices.run(repriceFigures(rows)) }
  })
}

async function filterOf({ steppe, prepared }: View, only: string): Promise<(row: RepriceRow) => boolean> {
  const { store, index } = prepared
  const now = currentInstant().getTime()
  const variantsOf = ({ numbers }: RepriceRow): readonly string[] =>
    numbers.map((number) => index.items[number] as string)
  const fact = readFact(store, only)
  if (fact.ok && fact.value.list !== null) {
    const compiled = prepared.lists.get(fact.value.list)
    return ({ numbers }) => numbers.some((number) => compiled && isSpokenOf(compiled, number))
  }
  // What it has is asked before there are rows: a product may have it in some of its variants only.
  if (fact.ok && fact.value.scope !== null) return () => true
  switch (only) {
    case '':
      return () => true
    case 'low-margin':
      return ({ now: price, cost }) =>
        price !== null &&
        cost !== null &&
        compare(multiply(subtract(price, cost), '100' as Decimal), multiply(LOW_MARGIN, price)) < 0
    case 'never-sold': {
      const sold = await soldSince(steppe, new Date(0))
      return (row) => variantsOf(row).every((id) => !sold.has(id))
    }
    case 'sold': {
      const sold = await soldSince(steppe, new Date(now - SOLD_DAYS * DAY))
      return (row) => variantsOf(row).some((id) => sold.has(id))
    }
    case 'unchanged': {
      const changed = await changedSince(steppe, new Date(now - LONG_DAYS * DAY))
      return ({ record, id }) => !changed(record, id)
    }
    default:
      throw new RangeError(`no filter ${only}`)
  }
}

/** Whether a line of a list is for an item: what only its default line prices is not in it. */
function isSpokenOf({ layout, lines }: CompiledList, number: number): boolean {
  return layout.holds(number) && layout.candidates(number).some(({ line }) => line < lines.length)
}
