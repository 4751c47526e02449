import 'server-only'

import { asc, desc, eq, notInArray, sql } from 'drizzle-orm'
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

/** Writes down how far an import has come. Resolves to whether somebody wants it to end. */
export async function noteImport(
  database: Steppe['database'] | Transaction,
  job: { readonly id: string; version: number },
  change: Partial<Omit<ImportRow, 'id' | 'content' | 'version'>>,
): Promise<boolean> {
  const [noted] = await database
    .update(imports)
    .set({ ...change, version: sql`${imports.version} + 1` })
    .where(eq(imports.id, job.id))
    .returning({ version: imports.version, isCancelled: imports.isCancelled })
  if (noted) job.version = noted.version
  return noted?.isCancelled ?? false
}

/** What is known of an import beside its file; `null` when it is gone. */
export async function importRow(
  { database }: Pick<Steppe, 'database'>,
  id: string,
): Promise<Omit<ImportRow, 'content'> | null> {
  return (
    (await database.query.imports.findFirst({ where: eq(imports.id, id), columns: { content: false } })) ??
    null
  )
}

/** The file of an import; `null` when it is gone. */
export async function importFile(
  { database }: Pick<Steppe, 'database'>,
  id: string,
): Promise<Uint8Array | null> {
  const found = await database.query.imports.findFirst({
    where: eq(imports.id, id),
    columns: { content: true },
  })
  return found?.content ?? null
}

/** Ids of the imports that were opened, the latest last. */
export async function importIds({ database }: Pick<Steppe, 'database'>): Promise<readonly string[]> {
  const rows = await database
    .select({ id: imports.id })
    .from(imports)
    .orderBy(asc(imports.at), asc(imports.id))
  return rows.map(({ id }) => id)
}

/** Imports that were opened, the latest last. */
export function keptImports({ database }: Steppe): Promise<readonly ImportRow[]> {
  return database.select().from(imports).orderBy(asc(imports.at), asc(imports.id))
}
