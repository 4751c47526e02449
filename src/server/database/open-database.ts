import 'server-only'

import {
  chmodSync,
  closeSync,
  fdatasyncSync,
  mkdirSync,
  openSync,
  readdirSync,
  rmSync,
  statfsSync,
} from 'node:fs'
import { open } from 'node:fs/promises'
import { join } from 'node:path'
import { PGlite } from '@electric-sql/pglite'
import { drizzle, type PgliteDatabase } from 'drizzle-orm/pglite'
import { migrate } from 'drizzle-orm/pglite/migrator'
import { lockDirectory } from './directory-lock'
import * as doors from './door-schema'
import * as records from './schema'
import * as selling from './selling-schema'
import * as staffs from './staff-schema'

const schema = { ...records, ...selling, ...staffs, ...doors }

export type Database = PgliteDatabase<typeof schema>

/** A transaction, or the database itself for statements each on its own. */
export type Writer = Pick<Database, 'execute'>

export interface OpenDatabase {
  readonly database: Database
  /** Forces what has been committed onto the disk. */
  sync(): void
  /** The same, while others go on; whatever is committed meanwhile is left to the next. */
  syncMeanwhile(): Promise<void>
  /** Bytes free on the disk it lies on. */
  freeBytes(): number
  /** All of it as one compressed file, which `from` takes again. */
  dump(): Promise<Uint8Array>
  close(): Promise<void>
}

export interface OpenOptions {
  /** Throws away what is in it first. */
  readonly reset?: boolean
  /** What a directory without a database begins with: see `dump`. */
  readonly from?: Uint8Array
  /** Called when the directory was taken away: nothing may be written any more. */
  readonly lost?: (why: string) => void
}

/** Another process has the data now; whatever this one still did would be lost or tear it. */
function endAtOnce(why: string): void {
  console.error(`The data is in the hands of another Steppe (${why}). This one ends, to lose nothing.`)
  process.exit(1)
}

const MIGRATIONS = join(process.cwd(), 'src/server/database/migrations')

/**
 * Opens the database in a directory, for this process alone, with all migrations applied.
 *
 * Errors  rejects with `DirectoryInUseError` when another process has the directory; then nothing is lost.
 */
export async function openDatabase(
  directory: string,
  { reset = false, from, lost = endAtOnce }: OpenOptions = {},
): Promise<OpenDatabase> {
  mkdirSync(directory, { recursive: true, mode: 0o700 })
  chmodSync(directory, 0o700) // the database makes its files readable to everybody
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
    freeBytes: () => {
      const { bavail, bsize } = statfsSync(directory)
      return bavail * bsize
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
