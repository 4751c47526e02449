import 'server-only'

import { join } from 'node:path'
import type { PgliteDatabase } from 'drizzle-orm/pglite'
import * as doors from './door-schema'
import * as records from './schema'
import * as selling from './selling-schema'
import type { Presence } from './presence'
import * as staffs from './staff-schema'

export const schema = { ...records, ...selling, ...staffs, ...doors }

export const MIGRATIONS = join(process.cwd(), 'src/server/database/migrations')

/** What a server's database answers in is the same, as far as it is read here. */
export type Database = PgliteDatabase<typeof schema>

/** A transaction, or the database itself for statements each on its own. */
export type Writer = Pick<Database, 'execute'>

/** SQL of another library's making. */
interface RawSql {
  query(text: string, values: readonly unknown[]): Promise<{ readonly rows: object[] }>
  /** Several statements in one transaction; resolves to the rows of the last. */
  script(text: string): Promise<{ readonly rows: object[] }>
}

/** Names of which one at a time is held, in whichever process. A process that ends holds none any more. */
export interface Locks {
  /** Acts while nobody else holds the name. */
  hold<Result>(name: string, act: () => Promise<Result>): Promise<Result>
  /** Whether somebody holds it just now. */
  isHeld(name: string): Promise<boolean>
}

export interface OpenDatabase {
  readonly database: Database
  /** Whether other processes may have it open as well. */
  readonly isShared: boolean
  readonly presence: Presence
  readonly raw: RawSql
  readonly locks: Locks
  /** Calls whenever any process has changed what all of them know: `heard`, and once after it was out of hearing. */
  listen(heard: () => void): Promise<void>
  /** Forces what has been committed onto the disk. */
  sync(): void
  /** The same, while others go on; whatever is committed meanwhile is left to the next. */
  syncMeanwhile(): Promise<void>
  /** Bytes free on the disk the directory lies on. */
  freeBytes(): number
  /** All of it as one compressed file, which `from` takes again. Errors  rejects where the database is a server's, which has tools of its own. */
  dump(): Promise<Uint8Array>
  close(): Promise<void>
}

export interface OpenOptions {
  /** Throws away what is in it first. */
  readonly reset?: boolean
  /** What a directory without a database begins with: see `dump`. */
  readonly from?: Uint8Array
  /** Where the changes of the tables stand; those of this version by default. */
  readonly migrations?: string
  /** Called when the directory was taken away: nothing may be written any more. */
  readonly lost?: (why: string) => void
}
