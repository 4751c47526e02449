import 'server-only'

import { decimal } from '@/core/decimal/decimal'
import { RECORD_KINDS, type RecordKind } from '@/core/issue/issue'
import { type Change, emptyStore, type RecordOfKind, type Store } from '@/core/store/store'
import { getTableColumns, getTableName, sql } from 'drizzle-orm'
import type { PgColumn, PgTable } from 'drizzle-orm/pg-core'
import type { Writer } from '../database/database'
import * as schema from '../database/schema'
import { readOutOfStock } from '../stock/stock-levels'

type Fields = Readonly<Record<string, unknown>>

/** A field that lies in a table of its own, one row an entry, so that the database knows what it speaks of. */
interface JoinedField {
  readonly field: string
  readonly table: PgTable
  /** Columns of the joined table: whose entry it is, and what it names. */
  readonly owner: string
  readonly named: string
}

/** How one kind of record lies in the database: a row of one table, a column a field. */
interface RecordTable {
  readonly table: PgTable
  readonly joined?: JoinedField
}

const TABLES: Readonly<Record<RecordKind, RecordTable>> = {
  settings: { table: schema.settings },
  currency: { table: schema.currencies },
  'exchange-rate': { table: schema.exchangeRates },
  channel: { table: schema.channels },
  region: { table: schema.regions },
  'tax-class': { table: schema.taxClasses },
  tax: { table: schema.taxes },
  'tax-rate': { table: schema.taxRates },
  category: { table: schema.categories },
  'price-family': { table: schema.priceFamilies },
  product: {
    table: schema.products,
    joined: { field: 'categories', table: schema.productCategories, owner: 'product', named: 'category' },
  },
  variant: { table: schema.variants },
  extra: { table: schema.extras },
  group: { table: schema.customerGroups },
  account: {
    table: schema.accounts,
    joined: { field: 'groups', table: schema.accountGroups, owner: 'account', named: 'customer_group' },
  },
  'price-list': { table: schema.priceLists },
  'price-line': { table: schema.priceLines },
  contract: { table: schema.contracts },
  adjustment: { table: schema.adjustments },
  proof: { table: schema.proofs },
  limit: { table: schema.limits },
  'access-rule': { table: schema.accessRules },
  passcode: { table: schema.passcodes },
  promotion: { table: schema.promotions },
}

/** Which change set last wrote each record, by `kind/id`. */
export type Revisions = Map<string, number>

export function revisionKey({ kind, id }: { readonly kind: RecordKind; readonly id: string }): string {
  return `${kind}/${id}`
}

/** Rows read by one statement: large enough to be quick, small enough for one text. */
const ROWS_AT_ONCE = 5_000
/** Rows written by one statement, during which nobody is served. */
export const ROWS_A_WRITE = 500

/** What is kept of a record of a kind, in its order: its own fields, the change set that last wrote it, and what lies in a table of its own. */
export function fieldsOf(kind: RecordKind): readonly string[] {
  const { table, joined } = TABLES[kind]
  return [...Object.keys(getTableColumns(table)), ...(joined ? [joined.field] : [])]
}

/** A record, and the change set that last wrote it. */
interface ReadRecord {
  readonly id: string
  readonly record: object
  readonly revision: number
}

/** A record put together from its fields, one after the other, so that all of a kind have one shape: see docs/performance.md. */
export function recordOf(fields: readonly string[], valueOf: (at: number) => unknown): ReadRecord {
  const record: Record<string, unknown> = {}
  let revision = 0
  fields.forEach((field, at) => {
    const value = valueOf(at)
    if (field === 'revision') revision = value as number
    else record[field] = value
  })
  return { id: record['id'] as string, record, revision }
}

/** How many records of each kind there are. */
export async function countRecords(
  writer: Writer,
): Promise<readonly { readonly kind: RecordKind; readonly count: number }[]> {
  const counts = RECORD_KINDS.map(
    (kind) => sql`select ${kind}::text as kind, count(*)::int as count from ${TABLES[kind].table}`,
  )
  const { rows } = await writer.execute<{ kind: RecordKind; count: number }>(
    sql.join(counts, sql` union all `),
  )
  return rows
}

/** Reads the whole store; `onRows` is told now and then how many records have been read. */
export async function loadStore(
  database: Writer,
  onRows: (done: number) => Promise<void> = () => Promise.resolve(),
): Promise<{ store: Store; revisions: Revisions }> {
  const store: Record<string, unknown> = { ...emptyStore(), outOfStock: await readOutOfStock(database) }
  const revisions: Revisions = new Map()
  for (const kind of RECORD_KINDS) {
    const records = new Map<string, unknown>()
    for await (const { id, record, revision } of readRows(database, kind)) {
      records.set(id, record)
      revisions.set(revisionKey({ kind, id }), revision)
      if (revisions.size % ROWS_AT_ONCE === 0) await onRows(revisions.size)
    }
    store[kind] = records
  }
  return { store: store as unknown as Store, revisions }
}

/** One text a block of rows: far quicker than one value a cell. Amounts are read as the text they were given. */
async function* readRows(database: Writer, kind: RecordKind): AsyncGenerator<ReadRecord> {
  const { table, joined } = TABLES[kind]
  const columns = Object.entries(getTableColumns(table))
  const cells = columns.map(([, column]) => cellOf(column))
  if (joined) cells.push(entriesOf(table, joined))
  const fields = fieldsOf(kind)
  const numeric = new Set(columns.flatMap(([, column], at) => (isNumeric(column) ? [at] : [])))
  for (let last = ''; ;) {
    const { rows } = await database.execute<{ block: readonly (readonly unknown[])[] }>(sql`
      select coalesce(json_agg(cells), '[]') as block from (
        select json_build_array(${sql.join(cells, sql`, `)}) as cells from ${table}
        where id > ${last} order by id limit ${sql.raw(String(ROWS_AT_ONCE))}
      ) as rows`)
    const block = rows[0]?.block ?? []
    for (const row of block) {
      const read = recordOf(fields, (at) => {
        const value = row[at]
        return numeric.has(at) && value !== null ? decimal(value as string) : value
      })
      yield read
      last = read.id
    }
    if (block.length < ROWS_AT_ONCE) return
  }
}

function cellOf(column: PgColumn) {
  const name = sql.identifier(column.name)
  return isNumeric(column) ? sql`${name}::text` : sql`${name}`
}

function isNumeric(column: PgColumn): boolean {
  return column.getSQLType().startsWith('numeric')
}

function entriesOf(table: PgTable, { table: entries, owner, named }: JoinedField) {
  return sql`(select coalesce(json_agg(${sql.identifier(named)} order by position), '[]') from ${entries}
    where ${sql.identifier(owner)} = ${sql.identifier(getTableName(table))}.id)`
}

/** Called with how many rows are written so far; throwing in it ends the writing. */
type OnProgress = (done: number) => Promise<void> | void

/** Notes down what a change set changed, in its order. */
export async function writeHistory(
  writer: Writer,
  changes: readonly Change[],
  changeSet: number,
  onProgress: OnProgress,
): Promise<void> {
  for (let from = 0; from < changes.length; from += ROWS_A_WRITE) {
    await onProgress(from)
    const rows = changes.slice(from, from + ROWS_A_WRITE).map(({ kind, id, before, after }, at) => ({
      change_set: changeSet,
      position: from + at,
      kind,
      record: id,
      before,
      after,
    }))
    await writer.execute(sql`
      insert into ${schema.changes} (change_set, position, kind, record, before, after)
      select change_set, position, kind, record, before, after
      from jsonb_populate_recordset(null::${schema.changes}, ${JSON.stringify(rows)}::jsonb)`)
  }
}

/** Forgets what a change set changed, and then that there was one. */
export async function forgetHistory(
  writer: Writer,
  changeSet: number,
  onProgress: OnProgress,
): Promise<void> {
  for (let from = 0; ; from += ROWS_A_WRITE) {
    await onProgress(from)
    const { rows } = await writer.execute(sql`
      delete from ${schema.changes} where change_set = ${changeSet}
        and position >= ${from} and position < ${from + ROWS_A_WRITE} returning position`)
    if (rows.length === 0) break
  }
  await writer.execute(sql`delete from ${schema.changeSets} where id = ${changeSet}`)
}

/** Writes changes: what others hang on is made first and removed last. */
export async function writeChanges(
  writer: Writer,
  changes: readonly Change[],
  revisionOf: (record: Pick<Change, 'kind' | 'id'>) => number,
  onProgress: OnProgress,
): Promise<void> {
  let done = 0
  await freeCodes(writer, changes)
  for (const kind of RECORD_KINDS) {
    const records = parentsFirst(
      changes.flatMap((change) =>
        change.kind === kind && change.after !== null ? [change.after as RecordOfKind[RecordKind]] : [],
      ),
    )
    for (let at = 0; at < records.length; at += ROWS_A_WRITE) {
      await onProgress(done)
      const some = records.slice(at, at + ROWS_A_WRITE)
      await writeRows(writer, TABLES[kind], some, (id) => revisionOf({ kind, id }))
      done += some.length
    }
  }
  for (const kind of [...RECORD_KINDS].reverse()) {
    const removed = parentsFirst(
      changes.flatMap((change) =>
        change.kind === kind && change.after === null && change.before !== null
          ? [change.before as RecordOfKind[RecordKind]]
          : [],
      ),
    )
    const ids = removed.map(({ id }) => id).reverse()
    for (let at = 0; at < ids.length; at += ROWS_A_WRITE) {
      await onProgress(done)
      const some = JSON.stringify(ids.slice(at, at + ROWS_A_WRITE))
      await writer.execute(
        sql`delete from ${TABLES[kind].table} where id in (select jsonb_array_elements_text(${some}::jsonb))`,
      )
      done += Math.min(ROWS_A_WRITE, ids.length - at)
    }
  }
}

/**
 * Codes that are given up in a change set may be taken by others in the same: two that are swapped, or one removed and
 * made anew. Until everything is written, those who give theirs up go by their ids.
 */
async function freeCodes(writer: Writer, changes: readonly Change[]): Promise<void> {
  const given = new Map<RecordKind, string[]>()
  for (const { kind, id, before, after } of changes) {
    if (before === null || (after !== null && codeField(before) === codeField(after))) continue
    const ids = given.get(kind)
    if (ids) ids.push(id)
    else given.set(kind, [id])
  }
  for (const [kind, ids] of given) {
    const { table } = TABLES[kind]
    const column = getTableColumns(table)[kind === 'variant' ? 'sku' : 'code']
    if (!column) continue
    const name = sql.identifier(column.name)
    for (let at = 0; at < ids.length; at += ROWS_A_WRITE) {
      const some = JSON.stringify(ids.slice(at, at + ROWS_A_WRITE))
      await writer.execute(
        sql`update ${table} set ${name} = ${GIVEN_UP} || id where id in (select jsonb_array_elements_text(${some}::jsonb))`,
      )
    }
  }
}

/** No code that was typed begins so. */
const GIVEN_UP = '\u0001'

function codeField(record: object): string | null {
  const { sku, code } = record as { readonly sku?: string; readonly code?: string }
  return (sku ?? code ?? null)?.toLowerCase() ?? null
}

async function writeRows(
  writer: Writer,
  { table, joined }: RecordTable,
  records: readonly RecordOfKind[RecordKind][],
  revisionOf: (id: string) => number,
): Promise<void> {
  const columns = Object.entries(getTableColumns(table))
  const rows = records.map((record) =>
    Object.fromEntries(
      columns.map(([field, { name }]) => [
        name,
        field === 'revision' ? revisionOf(record.id) : (record as unknown as Fields)[field],
      ]),
    ),
  )
  const names = columns.map(([, { name }]) => name)
  const assignments = names
    .filter((name) => name !== 'id')
    .map((name) => sql`${sql.identifier(name)} = excluded.${sql.identifier(name)}`)
  const list = sql.join(
    names.map((name) => sql.identifier(name)),
    sql`, `,
  )
  await writer.execute(sql`
    insert into ${table} (${list})
    select ${list} from jsonb_populate_recordset(null::${table}, ${JSON.stringify(rows)}::jsonb)
    on conflict (id) do update set ${sql.join(assignments, sql`, `)}`)
  if (joined) await writeEntries(writer, joined, records)
}

async function writeEntries(
  writer: Writer,
  { field, table, owner, named }: JoinedField,
  records: readonly RecordOfKind[RecordKind][],
): Promise<void> {
  const ids = JSON.stringify(records.map(({ id }) => id))
  const entries = records.flatMap((record) =>
    ((record as unknown as Fields)[field] as readonly string[]).map((value, position) => ({
      [owner]: record.id,
      [named]: value,
      position,
    })),
  )
  await writer.execute(
    sql`delete from ${table} where ${sql.identifier(owner)} in (select jsonb_array_elements_text(${ids}::jsonb))`,
  )
  await writer.execute(
    sql`insert into ${table} select * from jsonb_populate_recordset(null::${table}, ${JSON.stringify(entries)}::jsonb)`,
  )
}

/** A tree is written from the top: a branch may be new together with what it hangs on. */
function parentsFirst(records: readonly RecordOfKind[RecordKind][]): readonly RecordOfKind[RecordKind][] {
  if (!records.some((record) => 'parent' in record)) return records
  const parentOf = new Map(records.map((record) => [record.id, (record as RecordOfKind['category']).parent]))
  const depth = (id: string | null): number => {
    const parent = id === null ? undefined : parentOf.get(id)
    return parent === undefined ? 0 : 1 + depth(parent)
  }
  return [...records].sort((left, right) => depth(left.id) - depth(right.id))
}
