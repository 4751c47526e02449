import 'server-only'

import type { RecordKind } from '@/core/issue/issue'
import { createHash } from 'node:crypto'
import { createReadStream, createWriteStream, existsSync, mkdirSync, renameSync, rmSync } from 'node:fs'
import { finished } from 'node:stream/promises'
import { dirname } from 'node:path'
import { once } from 'node:events'
import { type Column, packColumn, unpackColumn } from './columns'

/** What a snapshot is of. */
export interface SnapshotHead {
  /** The last change set in it. */
  readonly changeSet: number
  /** When, by whom and why that one was made: another store has another. */
  readonly mark: string
  /** What this program makes of records; another has no use for it. */
  readonly shape: string
}

/** Rows of one kind of record, a column a field. */
interface Block {
  readonly kind: RecordKind
  readonly columns: readonly Column[]
}

const FORMAT = 'steppe-snapshot'
const VERSION = 1
const ROWS_A_BLOCK = 2_000
const NEW_LINE = 0x0a

/**
 * Writes a snapshot in the place of the one before: a line of JSON for the head, one for each block of rows, and a last one with the
 * SHA-256 of all before it. `rest` is called between blocks.
 */
export async function writeSnapshot(
  file: string,
  head: SnapshotHead,
  rowsOf: ReadonlyMap<RecordKind, Iterable<readonly unknown[]>>,
  rest: () => Promise<void>,
): Promise<void> {
  const making = `${file}.new`
  mkdirSync(dirname(file), { recursive: true })
  const digest = createHash('sha256')
  const stream = createWriteStream(making, { mode: 0o600 })
  const ended = finished(stream)
  // Whoever writes next is told.
  ended.catch(() => undefined)
  const put = async (what: unknown) => {
    const line = Buffer.from(`${JSON.stringify(what)}\n`)
    digest.update(line)
    if (!stream.write(line)) await Promise.race([once(stream, 'drain'), ended])
    await rest()
  }
  try {
    await put({ format: FORMAT, version: VERSION, ...head })
    for (const [kind, rows] of rowsOf)
      for (const block of inBlocks(rows)) await put({ kind, columns: block } satisfies Block)
    stream.end(`"${digest.digest('hex')}"\n`)
    await ended
    renameSync(making, file)
  } catch (error) {
    stream.destroy()
    rmSync(making, { force: true })
    throw error
  }
}

function* inBlocks(rows: Iterable<readonly unknown[]>): Generator<readonly Column[]> {
  let some: (readonly unknown[])[] = []
  for (const row of rows) {
    some.push(row)
    if (some.length < ROWS_A_BLOCK) continue
    yield packRows(some)
    some = []
  }
  if (some.length > 0) yield packRows(some)
}

function packRows(rows: readonly (readonly unknown[])[]): readonly Column[] {
  return (rows[0] ?? []).map((_, at) => packColumn(rows.map((row) => row[at])))
}

/**
 * Reads a snapshot block by block; `take` gets the columns of each.
 *
 * Errors  resolves to `null` for one that is not there, is of another version or another program's, or is damaged: what `take` was
 *         given until then means nothing.
 */
export async function readSnapshot(
  file: string,
  shape: string,
  take: (kind: RecordKind, columns: readonly (readonly unknown[])[]) => void,
): Promise<SnapshotHead | null> {
  if (!existsSync(file)) return null
  const digest = createHash('sha256')
  let head: SnapshotHead | null = null
  let isWhole = false
  try {
    for await (const line of linesOf(file)) {
      // Nothing comes after the digest.
      if (isWhole) return null
      if (line[0] === QUOTE) {
        isWhole = line.toString('latin1') === `"${digest.digest('hex')}"`
        if (!isWhole) return null
        continue
      }
      digest.update(line).update('\n')
      const read = JSON.parse(line.toString()) as unknown
      if (head) {
        const { kind, columns } = read as Block
        take(kind, columns.map(unpackColumn))
        continue
      }
      head = headOf(read)
      if (head?.shape !== shape) return null
    }
  } catch {
    return null
  }
  return isWhole ? head : null
}

const QUOTE = 0x22

function headOf(read: unknown): SnapshotHead | null {
  const { format, version, changeSet, mark, shape } = read as Partial<
    SnapshotHead & { format: string; version: number }
  >
  if (format !== FORMAT || version !== VERSION) return null
  if (changeSet === undefined || mark === undefined || shape === undefined) return null
  return { changeSet, mark, shape }
}

/** The lines of a file, without their ends. What comes after the last end is no line. */
async function* linesOf(file: string): AsyncGenerator<Buffer> {
  let parts: Buffer[] = []
  for await (const chunk of createReadStream(file, { highWaterMark: 2 ** 20 }) as AsyncIterable<Buffer>) {
    let from = 0
    for (let end = chunk.indexOf(NEW_LINE); end >= 0; end = chunk.indexOf(NEW_LINE, from)) {
      parts.push(chunk.subarray(from, end))
      yield parts.length === 1 ? (parts[0] as Buffer) : Buffer.concat(parts)
      parts = []
      from = end + 1
    }
    if (from < chunk.length) parts.push(chunk.subarray(from))
  }
}
