import 'server-only'

import { eq, sql } from 'drizzle-orm'
import type { Transaction } from '../changes/commit-outcome'
import { numberSeries } from './selling-schema'

/**
 * The next number of a series. It is taken when the transaction ends, and others wait for it until then: no number is left out,
 * and none is given twice.
 */
export async function nextNumber(
  transaction: Transaction,
  name: typeof numberSeries.$inferSelect.name,
): Promise<number> {
  const [row] = await transaction
    .update(numberSeries)
    .set({ next: sql`${numberSeries.next} + 1` })
    .where(eq(numberSeries.name, name))
    .returning({ next: numberSeries.next })
  if (!row) throw new RangeError(`there is no series ${name}`)
  return row.next - 1
}
