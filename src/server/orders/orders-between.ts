import 'server-only'

import { ofOwnBuyers } from '../session/own-buyers'
import { groupBy } from '@/core/maps/group-by'
import { and, asc, eq, gte, inArray, lt } from 'drizzle-orm'
import type { Database } from '../database/database'
import { orderEvents, orders } from '../database/selling-schema'
import { readEvent, readOrder } from './order-shape'
import type { Order } from './order-rows'

const AT_ONCE = 200

/** Orders placed between two instants in one currency, with what was done with them, some at a time. */
export async function* ordersBetween(
  database: Database,
  { since, until, currency }: { readonly since: Date; readonly until: Date; readonly currency: string },
): AsyncGenerator<readonly Order[]> {
  let after = 0
  for (;;) {
    const rows = await database
      .select()
      .from(orders)
      .where(
        and(
          gte(orders.at, since),
          lt(orders.at, until),
          eq(orders.currency, currency),
          gte(orders.number, after),
          ofOwnBuyers(orders.account),
        ),
      )
      .orderBy(asc(orders.number))
      .limit(AT_ONCE)
    const last = rows.at(-1)
    if (!last) return
    const events = await database
      .select()
      .from(orderEvents)
      .where(
        inArray(
          orderEvents.order,
          rows.map(({ number }) => number),
        ),
      )
      .orderBy(asc(orderEvents.order), asc(orderEvents.version))
    const byOrder = groupBy(events, ({ order }) => order)
    yield rows.map(({ number, account, at, document }) => ({
      ...{ number, account, at, document: readOrder(document) },
      events: (byOrder.get(number) ?? []).map(({ event }) => readEvent(event)),
    }))
    after = last.number + 1
  }
}
