import 'server-only'

import { decimal } from '@/core/decimal/decimal'
import { RECORD_KINDS, type RecordKind } from '@/core/issue/issue'
import type { InheritedValues } from '@/core/catalogue/product'
import { type Change, emptyStore, type RecordOfKind, type Store } from '@/core/store/store'
import { eq } from 'drizzle-orm'
import type { Database } from '../database/open-database'
import * as schema from '../database/schema'

type Transaction = Parameters<Parameters<Database['transaction']>[0]>[0]

/** Records and the change set that last wrote each of them. */
interface StoredRecords<Kind extends RecordKind> {
  readonly records: readonly RecordOfKind[Kind][]
  readonly revisions: readonly number[]
}

/** How one kind of record lies in the database: the only SQL for it. */
interface RecordTable<Kind extends RecordKind> {
  load(database: Database): Promise<StoredRecords<Kind>>
  insert(transaction: Transaction, record: RecordOfKind[Kind], revision: number): Promise<void>
  update(transaction: Transaction, record: RecordOfKind[Kind], revision: number): Promise<void>
  remove(transaction: Transaction, id: string): Promise<void>
}

type Row = Record<string, unknown> & { revision: number }

/** A kind whose record is one row of one table, column by column. */
function plainTable<Kind extends 'settings' | 'category' | 'group' | 'price-list' | 'price-line' | 'variant'>(
  table: (typeof TABLES)[Kind],
  fromRow: (row: Row) => RecordOfKind[Kind],
): RecordTable<Kind> {
  return {
    async load(database) {
      const rows = (await database.select().from(table as typeof schema.settings)) as unknown as Row[]
      return {
        records: rows.map(({ revision: _revision, ...fields }) => fromRow(fields as Row)),
        revisions: rows.map(({ revision }) => revision),
      }
    },
    async insert(transaction, record, revision) {
      await transaction.insert(table as typeof schema.settings).values({ ...record, revision } as never)
    },
    async update(transaction, record, revision) {
      await transaction
        .update(table as typeof schema.settings)
        .set({ ...record, revision } as never)
        .where(eq((table as typeof schema.settings).id, record.id))
    },
    async remove(transaction, id) {
      await transaction
        .delete(table as typeof schema.settings)
        .where(eq((table as typeof schema.settings).id, id))
    },
  }
}

const TABLES = {
  settings: schema.settings,
  category: schema.categories,
  group: schema.customerGroups,
  variant: schema.variants,
  'price-list': schema.priceLists,
  'price-line': schema.priceLines,
}

const asStored = <Kind extends RecordKind>(row: Row) => row as unknown as RecordOfKind[Kind]

/** Numeric columns come back as text with the digits they were given. */
function withDecimals<Fields extends Record<keyof InheritedValues, string | null>>(fields: Fields) {
  const read = (value: string | null) => (value === null ? null : decimal(value))
  return {
    ...fields,
    basePrice: read(fields.basePrice),
    cost: read(fields.cost),
    recommendedPrice: read(fields.recommendedPrice),
    weight: read(fields.weight),
  }
}

const productTable: RecordTable<'product'> = {
  async load(database) {
    const rows = await database.select().from(schema.products)
    const filings = await database.select().from(schema.productCategories)
    const categoriesOf = gather(
      filings,
      (filing) => filing.product,
      (filing) => filing.category,
    )
    return {
      records: rows.map(({ revision: _revision, ...fields }) => ({
        ...withDecimals(fields),
        categories: categoriesOf.get(fields.id) ?? [],
      })),
      revisions: rows.map(({ revision }) => revision),
    }
  },
  async insert(transaction, { categories, ...fields }, revision) {
    await transaction.insert(schema.products).values({ ...fields, axes: [...fields.axes], revision })
    await fileProduct(transaction, fields.id, categories)
  },
  async update(transaction, { categories, ...fields }, revision) {
    await transaction
      .update(schema.products)
      .set({ ...fields, axes: [...fields.axes], revision })
      .where(eq(schema.products.id, fields.id))
    await transaction.delete(schema.productCategories).where(eq(schema.productCategories.product, fields.id))
    await fileProduct(transaction, fields.id, categories)
  },
  async remove(transaction, id) {
    await transaction.delete(schema.products).where(eq(schema.products.id, id))
  },
}

async function fileProduct(
  transaction: Transaction,
  product: string,
  categories: readonly string[],
): Promise<void> {
  if (categories.length === 0) return
  await transaction
    .insert(schema.productCategories)
    .values(categories.map((category, position) => ({ product, category, position })))
}

const accountTable: RecordTable<'account'> = {
  async load(database) {
    const rows = await database.select().from(schema.accounts)
    const memberships = await database.select().from(schema.accountGroups)
    const groupsOf = gather(
      memberships,
      (membership) => membership.account,
      (membership) => membership.group,
    )
    return {
      records: rows.map(({ revision: _revision, ...fields }) => ({
        ...fields,
        groups: groupsOf.get(fields.id) ?? [],
      })),
      revisions: rows.map(({ revision }) => revision),
    }
  },
  async insert(transaction, { groups, ...fields }, revision) {
    await transaction
      .insert(schema.accounts)
      .values({ ...fields, tags: [...fields.tags], emails: [...fields.emails], revision })
    await joinGroups(transaction, fields.id, groups)
  },
  async update(transaction, { groups, ...fields }, revision) {
    await transaction
      .update(schema.accounts)
      .set({ ...fields, tags: [...fields.tags], emails: [...fields.emails], revision })
      .where(eq(schema.accounts.id, fields.id))
    await transaction.delete(schema.accountGroups).where(eq(schema.accountGroups.account, fields.id))
    await joinGroups(transaction, fields.id, groups)
  },
  async remove(transaction, id) {
    await transaction.delete(schema.accounts).where(eq(schema.accounts.id, id))
  },
}

async function joinGroups(
  transaction: Transaction,
  account: string,
  groups: readonly string[],
): Promise<void> {
  if (groups.length === 0) return
  await transaction
    .insert(schema.accountGroups)
    .values(groups.map((group, position) => ({ account, group, position })))
}

/** Values by key, each key's in the order of their position. */
function gather<Item extends { position: number }>(
  items: readonly Item[],
  keyOf: (item: Item) => string,
  valueOf: (item: Item) => string,
): ReadonlyMap<string, readonly string[]> {
  const gathered = new Map<string, string[]>()
  for (const item of [...items].sort((left, right) => left.position - right.position)) {
    const key = keyOf(item)
    const known = gathered.get(key)
    if (known) known.push(valueOf(item))
    else gathered.set(key, [valueOf(item)])
  }
  return gathered
}

const RECORD_TABLES: { readonly [Kind in RecordKind]: RecordTable<Kind> } = {
  settings: plainTable<'settings'>(TABLES.settings, asStored<'settings'>),
  category: plainTable<'category'>(TABLES.category, asStored<'category'>),
  product: productTable,
  variant: plainTable<'variant'>(TABLES.variant, (row) =>
    withDecimals(row as unknown as RecordOfKind['variant']),
  ),
  group: plainTable<'group'>(TABLES.group, asStored<'group'>),
  account: accountTable,
  'price-list': plainTable<'price-list'>(TABLES['price-list'], asStored<'price-list'>),
  'price-line': plainTable<'price-line'>(TABLES['price-line'], asStored<'price-line'>),
}

/** Which change set last wrote each record, by `kind/id`. */
export type Revisions = Map<string, number>

export function revisionKey({ kind, id }: { readonly kind: RecordKind; readonly id: string }): string {
  return `${kind}/${id}`
}

/** Reads the whole store. */
export async function loadStore(database: Database): Promise<{ store: Store; revisions: Revisions }> {
  const store: Record<string, ReadonlyMap<string, unknown>> = { ...emptyStore() }
  const revisions: Revisions = new Map()
  for (const kind of RECORD_KINDS) {
    const loaded = await RECORD_TABLES[kind].load(database)
    store[kind] = new Map(loaded.records.map((record) => [record.id, record]))
    loaded.records.forEach(({ id }, at) =>
      revisions.set(revisionKey({ kind, id }), loaded.revisions[at] as number),
    )
  }
  return { store: store as unknown as Store, revisions }
}

/** Writes changes: what others hang on is made first and removed last. */
export async function writeChanges(
  transaction: Transaction,
  changes: readonly Change[],
  revision: number,
): Promise<void> {
  const order = (change: Change) => RECORD_KINDS.indexOf(change.kind)
  const kept = changes
    .filter((change) => change.after !== null)
    .sort((left, right) => order(left) - order(right))
  const removed = changes
    .filter((change) => change.after === null)
    .sort((left, right) => order(right) - order(left))
  for (const change of kept) {
    const table = RECORD_TABLES[change.kind] as RecordTable<RecordKind>
    const record = change.after as RecordOfKind[RecordKind]
    await (change.before === null
      ? table.insert(transaction, record, revision)
      : table.update(transaction, record, revision))
  }
  for (const change of removed) await RECORD_TABLES[change.kind].remove(transaction, change.id)
}
