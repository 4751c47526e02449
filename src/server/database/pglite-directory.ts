import 'server-only'

import { closeSync, existsSync, fdatasyncSync, openSync, readdirSync, rmSync, statSync } from 'node:fs'
import { open } from 'node:fs/promises'
import { join } from 'node:path'
import { PGlite } from '@electric-sql/pglite'
import { drizzle } from 'drizzle-orm/pglite'
import { migrate } from 'drizzle-orm/pglite/migrator'
import { bringUpToDate } from './bring-up-to-date'
import { DamagedDatabaseError } from './cannot-open'
import { lockDirectory } from './directory-lock'
import { bytesFree } from './disk-room'
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
 * Errors  rejects with `DirectoryInUseError` when another process has the directory, with `DamagedDatabaseError` when its files are not the
 *         database they were, and as `bringUpToDate` does; then nothing is lost.
 */
export async function openInDirectory(
  directory: string,
  { reset = false, from, migrations = MIGRATIONS, lost = endAtOnce }: OpenOptions,
): Promise<OpenDatabase> {
  const lock = await lockDirectory(directory, lost)
  const files = join(directory, 'database')
  if (reset) rmSync(files, { recursive: true, force: true })
  if (isBeheaded(files)) {
    await lock.release()
    throw new DamagedDatabaseError(directory, new Error('PG_VERSION is missing'))
  }
  const client = await PGlite.create(
    files,
    from && { loadDataDir: new Blob([from as Uint8Array<ArrayBuffer>]) },
  ).catch(async (error: unknown) => {
    await lock.release()
    throw new DamagedDatabaseError(directory, error)
  })
  const database = drizzle(client, { schema })
  try {
    await bringUpToDate(
      (text) => client.query(text),
      migrations,
      (config) => migrate(database, config),
    )
  } catch (error) {
    await client.close()
    await lock.release()
    throw error
  }
  const itself = identityOf(files)
  return {
    database,
    isShared: false,
    // Asked before every write: into another directory of the same name nothing may be written.
    freeBytes: () => {
      if (identityOf(files) !== itself) {
        const why = 'the directory was moved, or another stands in its place'
        lost(why)
        throw new Error(why)
      }
      return bytesFree(directory)
    },
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

/** Whether there is a database of which the first file is missing: another would be made over it. */
function isBeheaded(files: string): boolean {
  return existsSync(join(files, 'base')) && !existsSync(join(files, 'PG_VERSION'))
}

/** What tells a directory from another one of the same name; empty for none. */
function identityOf(files: string): string {
  const found = statSync(files, { throwIfNoEntry: false })
  return found ? `${found.dev}/${found.ino}` : ''
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
