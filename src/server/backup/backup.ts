import 'server-only'

import { sql } from 'drizzle-orm'
import { strFromU8, strToU8, unzipSync, zipSync } from 'fflate'
import Joi from 'joi'
import { createHash } from 'node:crypto'
import { existsSync, mkdirSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { dirname, join } from 'node:path'
import type { Database } from '../database/database'
import { openDatabase } from '../database/open-database'

/** What is kept as files beside the database. */
const FOLDERS = ['pictures', 'outbox'] as const
const DATABASE = 'database.tar.gz'
const MANIFEST = 'manifest.json'

/** What a backup says of itself, so that it can be told whether all of it is there. */
export interface BackupManifest {
  readonly format: 'steppe-backup'
  readonly version: 1
  readonly madeAt: string
  /** How many rows each table has. */
  readonly rows: Readonly<Record<string, number>>
  /** SHA-256 of every file, by its name in the archive. */
  readonly files: Readonly<Record<string, string>>
}

export type Restored =
  | { readonly ok: true; readonly manifest: BackupManifest }
  /** There is a store already, which a restore would cover. */
  | { readonly ok: false; readonly code: 'not-empty' }
  | { readonly ok: false; readonly code: 'not-a-backup' }
  /** A file is missing or is not what was backed up. */
  | { readonly ok: false; readonly code: 'damaged'; readonly file: string }
  /** What was read back is not what was backed up. */
  | { readonly ok: false; readonly code: 'rows-differ'; readonly table: string }

const count = Joi.number().integer().min(0)
const SHAPE = Joi.object({
  format: Joi.valid('steppe-backup').required(),
  version: Joi.valid(1).required(),
  madeAt: Joi.string().isoDate().required(),
  rows: Joi.object().pattern(Joi.string(), count).required(),
  files: Joi.object().pattern(Joi.string(), Joi.string().hex().length(64)).required(),
})

/**
 * Everything in a data directory as one ZIP archive: the database, pictures and mails.
 *
 * Errors  rejects with `DirectoryInUseError` while a Steppe runs on it.
 */
export async function makeBackup(
  directory: string,
  at: Date,
): Promise<{ readonly archive: Uint8Array; readonly manifest: BackupManifest }> {
  const opened = await openDatabase(directory)
  try {
    const files: Record<string, Uint8Array> = { [DATABASE]: await opened.dump() }
    for (const folder of FOLDERS)
      for (const name of filesIn(join(directory, folder)))
        files[`${folder}/${name}`] = readFileSync(join(directory, folder, name))
    const manifest: BackupManifest = {
      ...{ format: 'steppe-backup', version: 1, madeAt: at.toISOString() },
      rows: await countRows(opened.database),
      files: Object.fromEntries(Object.entries(files).map(([name, bytes]) => [name, digest(bytes)])),
    }
    const written = strToU8(JSON.stringify(manifest, null, 2))
    // What is inside is compressed already.
    return { archive: zipSync({ [MANIFEST]: written, ...files }, { level: 0 }), manifest }
  } finally {
    await opened.close()
  }
}

/**
 * Puts a backup into a data directory that holds no store yet. Nothing is left of one that turns out to be damaged.
 *
 * Errors  rejects with `DirectoryInUseError` while a Steppe runs on the directory.
 */
export async function restoreBackup(archive: Uint8Array, directory: string): Promise<Restored> {
  if (existsSync(join(directory, 'database'))) return { ok: false, code: 'not-empty' }
  const read = readArchive(archive)
  if (!read) return { ok: false, code: 'not-a-backup' }
  const { manifest, files } = read
  for (const [name, expected] of Object.entries(manifest.files)) {
    const bytes = files[name]
    if (!bytes || digest(bytes) !== expected) return { ok: false, code: 'damaged', file: name }
  }
  const from = files[DATABASE]
  if (!from) return { ok: false, code: 'damaged', file: DATABASE }
  const rows = await loadRows(directory, from).catch((error: unknown) => {
    rmSync(join(directory, 'database'), { recursive: true, force: true })
    throw error
  })
  const table = Object.keys(manifest.rows).find((each) => rows[each] !== manifest.rows[each])
  if (table !== undefined) {
    rmSync(join(directory, 'database'), { recursive: true, force: true })
    return { ok: false, code: 'rows-differ', table }
  }
  for (const name of Object.keys(manifest.files)) {
    if (name === DATABASE) continue
    mkdirSync(dirname(join(directory, name)), { recursive: true })
    writeFileSync(join(directory, name), files[name] as Uint8Array)
  }
  return { ok: true, manifest }
}

/** Makes the database of a dump, and counts what is in it. */
async function loadRows(directory: string, from: Uint8Array): Promise<Readonly<Record<string, number>>> {
  const opened = await openDatabase(directory, { from })
  try {
    return await countRows(opened.database)
  } finally {
    await opened.close()
  }
}

function filesIn(folder: string): readonly string[] {
  if (!existsSync(folder)) return []
  return readdirSync(folder, { withFileTypes: true }).flatMap((entry) => (entry.isFile() ? [entry.name] : []))
}

/** The files of an archive and what it says of them. Errors  `null` for anything else, and for names that lead elsewhere. */
function readArchive(
  archive: Uint8Array,
): { readonly manifest: BackupManifest; readonly files: Readonly<Record<string, Uint8Array>> } | null {
  try {
    const files = unzipSync(archive)
    const { error, value: manifest } = SHAPE.validate(
      JSON.parse(strFromU8(files[MANIFEST] ?? new Uint8Array())),
    ) as { readonly error?: Error; readonly value: BackupManifest }
    const isOurs = (name: string) =>
      name === DATABASE || FOLDERS.some((folder) => new RegExp(`^${folder}/[\\w.-]+$`).test(name))
    return error || !Object.keys(manifest.files).every(isOurs) ? null : { manifest, files }
  } catch {
    return null
  }
}

async function countRows(database: Database): Promise<Readonly<Record<string, number>>> {
  const { rows: tables } = await database.execute<{ name: string }>(
    sql`select table_name as name from information_schema.tables where table_schema = 'public' and table_type = 'BASE TABLE' order by 1`,
  )
  const counted: Record<string, number> = {}
  for (const { name } of tables) {
    const { rows } = await database.execute<{ count: number }>(
      sql`select count(*)::int as count from ${sql.identifier(name)}`,
    )
    counted[name] = rows[0]?.count ?? 0
  }
  return counted
}

function digest(bytes: Uint8Array): string {
  return createHash('sha256').update(bytes).digest('hex')
}
