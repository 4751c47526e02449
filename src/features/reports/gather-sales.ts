import 'server-only'

import { add, type Decimal, sum, ZERO } from '@/core/decimal/decimal'
import { type LineRealisation, realisationOf } from '@/core/order/realisation'
import { standingOf } from '@/core/order/standing'
import { Slices } from '@/server/doors/slices'
import type { Database } from '@/server/database/database'
import type { Order } from '@/server/orders/order-rows'
import { ordersBetween } from '@/server/orders/orders-between'

/** So many orders are gone through: more would keep whoever asks waiting for long. */
export const MOST_ORDERS = 20_000

/** What lines under one name come to. */
interface Sum {
  readonly orders: Set<number>
  net: Decimal
  cost: Decimal
  /** Whether the cost of every line was known. */
  isCostKnown: boolean
}

/** Where a line counts: under one name, or under several. */
export type KeysOf = (order: Order, line: LineRealisation) => readonly string[]

export interface GatheredSales {
  readonly orders: number
  readonly isCut: boolean
  readonly base: Decimal
  readonly agreed: Readonly<Record<LineRealisation['agreed']['by'], Decimal>>
  readonly promoted: Decimal
  readonly credited: Decimal
  readonly kept: Decimal
  /** What was kept of lines that had no base price, and how many there were. */
  readonly withoutBase: { readonly lines: number; readonly kept: Decimal }
  readonly sums: ReadonlyMap<string, Sum>
}

/** Goes through the orders of a time in one currency, in slices that let others go first. */
export async function gatherSales(
  database: Database,
  when: { readonly since: Date; readonly until: Date; readonly currency: string },
  keysOf: KeysOf,
): Promise<GatheredSales> {
  const slices = new Slices()
  const sums = new Map<string, Sum>()
  const all: Gathering = {
    ...{ base: [], list: [], contract: [], settled: [], promoted: [], credited: [], kept: [], bare: [] },
  }
  let orders = 0
  let isCut = false
  for await (const some of ordersBetween(database, when)) {
    if (orders + some.length > MOST_ORDERS) {
      isCut = true
      break
    }
    for (const order of some) {
      orders += 1
      await slices.rest()
      const { lines } = standingOf(order.document, order.events)
      for (const line of realisationOf(order.document, lines)) gather(all, sums, order, line, keysOf)
    }
  }
  return {
    ...{ orders, isCut, base: sum(all.base), promoted: sum(all.promoted) },
    agreed: { list: sum(all.list), contract: sum(all.contract), settled: sum(all.settled) },
    ...{ credited: sum(all.credited), kept: sum(all.kept) },
    withoutBase: { lines: all.bare.length, kept: sum(all.bare) },
    sums,
  }
}

type Gathering = Record<
  'base' | 'list' | 'contract' | 'settled' | 'promoted' | 'credited' | 'kept' | 'bare',
  Decimal[]
>

function gather(
  all: Gathering,
  sums: Map<string, Sum>,
  order: Order,
  line: LineRealisation,
  keysOf: KeysOf,
): void {
  if (line.base === null) all.bare.push(line.kept)
  else {
    all.base.push(line.base)
    all[line.agreed.by].push(line.agreed.amount)
    all.promoted.push(line.promoted)
    all.credited.push(line.credited)
    all.kept.push(line.kept)
  }
  for (const key of keysOf(order, line)) {
    const known = sums.get(key) ?? { orders: new Set(), net: ZERO, cost: ZERO, isCostKnown: true }
    known.orders.add(order.number)
    known.net = add(known.net, line.kept)
    if (line.cost === null) known.isCostKnown = false
    else known.cost = add(known.cost, line.cost)
    sums.set(key, known)
  }
}
