import 'server-only'

import { asc, desc, eq, notInArray } from 'drizzle-orm'
import type { Transaction } from '../changes/commit-outcome'
import { imports } from '../database/schema'
import type { Steppe } from '../engine/steppe'

type ImportRow = typeof imports.$inferSelect

/** Keeps a file that was opened, and forgets the oldest beyond so many. */
export async function keepImport({ database }: Steppe, row: typeof imports.$inferInsert, most: number) {
  await database.transaction(async (transaction) => {
    await transaction.insert(imports).values(row)
    const latest = transaction
      .select({ id: imports.id })
      .from(imports)
      .orderBy(desc(imports.at), desc(imports.id))
      .limit(most)
    await transaction.delete(imports).where(notInArray(imports.id, latest))
  })
}

/** Writes down how far an import has come. */
export async function noteImport(
  database: Steppe['database'] | Transaction,
  id: string,
  change: Partial<Omit<ImportRow, 'id' | 'content'>>,
): Promise<void> {
  await database.update(imports).set(change).where(eq(imports.id, id))
}

/** Imports that were opened, the latest last. */
export function keptImports({ database }: Steppe): Promise<readonly ImportRow[]> {
  return database.select().from(imports).orderBy(asc(imports.at), asc(imports.id))
}
