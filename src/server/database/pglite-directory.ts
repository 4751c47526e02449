import 'server-only'

import { closeSync, fdatasyncSync, openSync, readdirSync, rmSync } from 'node:fs'
import { open } from 'node:fs/promises'
import { join } from 'node:path'
import { PGlite } from '@electric-sql/pglite'
import { drizzle } from 'drizzle-orm/pglite'
import { migrate } from 'drizzle-orm/pglite/migrator'
import { lockDirectory } from './directory-lock'
import { MIGRATIONS, type OpenDatabase, type OpenOptions, schema } from './database'
import { alwaysThere } from './presence'

/** Another process has the data now; whatever this one still did would be lost or tear it. */
function endAtOnce(why: string): void {
  console.error(`The data is in the hands of another Steppe (${why}). This one ends, to lose nothing.`)
  process.exit(1)
}

/**
 * Opens the database that lies in a directory itself, for this process alone.
 *
 * Errors  rejects with `DirectoryInUseError` when another process has the directory; then nothing is lost.
 */
export async function openInDirectory(
  directory: string,
  { reset = false, from, lost = endAtOnce }: OpenOptions,
): Promise<Omit<OpenDatabase, 'freeBytes'>> {
  const lock = await lockDirectory(directory, lost)
  const files = join(directory, 'database')
  if (reset) rmSync(files, { recursive: true, force: true })
  const client = await PGlite.create(
    files,
    from && { loadDataDir: new Blob([from as Uint8Array<ArrayBuffer>]) },
  ).catch(async (error: unknown) => {
    await lock.release()
    throw error
  })
  const database = drizzle(client, { schema })
  try {
    await migrate(database, { migrationsFolder: MIGRATIONS })
  } catch (error) {
    await client.close()
    await lock.release()
    throw error
  }
  return {
    database,
    isShared: false,
    presence: alwaysThere(),
    raw: {
      query: (text, values) => client.query(text, [...values]),
      // One that failed would leave the one connection there is in the middle of it.
      script: (text) =>
        client.transaction(async (transaction) => ({
          rows: (await transaction.exec(text)).at(-1)?.rows ?? [],
        })),
    },
    locks: { hold: (_name, act) => act(), isHeld: async () => false },
    listen: async () => undefined,
    sync: () => {
      for (const log of logsIn(files)) {
        const file = openSync(log, 'r+')
        fdatasyncSync(file)
        closeSync(file)
      }
    },
    syncMeanwhile: async () => {
      for (const log of logsIn(files)) {
        // One that is not used any more may be gone by now.
        const file = await open(log, 'r+').catch(() => null)
        await file?.datasync()
        await file?.close()
      }
    },
    dump: async () => new Uint8Array(await (await client.dumpDataDir('gzip')).arrayBuffer()),
    close: async () => {
      await client.close()
      await lock.release()
    },
  }
}

/**
 * Where the database writes down what is committed. It never asks the disk to keep its word by itself, so a power cut
 * could take commits back.
 */
function logsIn(files: string): readonly string[] {
  const folder = join(files, 'pg_wal')
  return readdirSync(folder, { withFileTypes: true }).flatMap((entry) =>
    entry.isFile() ? [join(folder, entry.name)] : [],
  )
}
