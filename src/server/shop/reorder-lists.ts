import 'server-only'

import type { CartLineWanted } from '@/core/cart/cart'
import { add, type Decimal, decimal } from '@/core/decimal/decimal'
import { and, asc, eq, isNull, or, sql } from 'drizzle-orm'
import Joi from 'joi'
import { randomUUID } from 'node:crypto'
import { requireRoom } from '../database/disk-room'
import type { Database } from '../database/database'
import { reorderLists } from '../database/selling-schema'
import type { Steppe } from '../engine/steppe'
import { amount, list, object, parsed, text } from '../orders/order-shape'

export interface ReorderList {
  readonly id: string
  readonly name: string
  /** Address of whom it is for alone; `null` where colleagues share it. */
  readonly person: string | null
  readonly lines: readonly ListLine[]
  readonly author: string
  readonly at: Date
}

/** A line, and who changed it last; left out where it is as it was begun. */
interface ListLine extends CartLineWanted {
  readonly by?: string
}

/** Whose lists: an account's, and of the private ones those of one of its people. */
export interface ListOwner {
  readonly account: string
  readonly person: string | null
}

/** What is done with a list. A line is told by its variant and extras; `seen` is its quantity when it was looked at. */
export type ListChange =
  | {
      readonly kind: 'line'
      readonly line: Pick<CartLineWanted, 'variant' | 'extras'>
      readonly seen: Decimal | null
      /** `null` takes it out. */
      readonly quantity: Decimal | null
    }
  | { readonly kind: 'add'; readonly lines: readonly CartLineWanted[] }
  | { readonly kind: 'rename'; readonly name: string; readonly seen: string }
  | { readonly kind: 'share'; readonly isShared: boolean }

export type ListOutcome =
  | { readonly ok: true }
  /** It was removed, or is not theirs to see any more. */
  | { readonly ok: false; readonly code: 'gone' }
  /** Somebody else changed the same since: what is there now. */
  | { readonly ok: false; readonly code: 'changed'; readonly now: string; readonly by: string }
  | { readonly ok: false; readonly code: 'too-many' }

const LINES = list(
  object({
    variant: text,
    quantity: amount,
    extras: Joi.array().items(Joi.string()).required(),
    by: Joi.string().allow(''),
  }),
)
const MOST_LINES = 500
const MOST_LISTS = 100

type Reader = Pick<Database, 'select'>

function seenBy({ account, person }: ListOwner) {
  const shared = isNull(reorderLists.person)
  return and(
    eq(reorderLists.account, account),
    person === null ? shared : or(shared, eq(reorderLists.person, person)),
  )
}

function toList({ id, name, person, lines, author, at }: typeof reorderLists.$inferSelect): ReorderList {
  return { id, name, person, author, at, lines: parsed<ReorderList['lines']>(LINES, lines, 'reorder list') }
}

/** The lists somebody sees, by name. */
export async function listsOf(database: Reader, owner: ListOwner): Promise<readonly ReorderList[]> {
  const rows = await database
    .select()
    .from(reorderLists)
    .where(seenBy(owner))
    .orderBy(asc(sql`lower(${reorderLists.name})`))
    .limit(MOST_LISTS)
  return rows.map(toList)
}

/** Errors  `null` for none of the id, and for one that is not theirs to see. */
export async function findList(database: Reader, id: string, owner: ListOwner): Promise<ReorderList | null> {
  const [row] = await database
    .select()
    .from(reorderLists)
    .where(and(eq(reorderLists.id, id), seenBy(owner)))
  return row ? toList(row) : null
}

/** Makes a list. Errors  `null` where there are too many already. Throws `DiskFullError`. */
export async function makeList(
  steppe: Steppe,
  { account, person }: ListOwner,
  wanted: { readonly name: string; readonly isShared: boolean; readonly lines: readonly CartLineWanted[] },
  { author, at }: { readonly author: string; readonly at: Date },
): Promise<string | null> {
  requireRoom(steppe)
  if ((await listsOf(steppe.database, { account, person })).length >= MOST_LISTS) return null
  const id = randomUUID()
  await steppe.database.insert(reorderLists).values({
    ...{ id, account, author, at, name: wanted.name, version: 0 },
    person: wanted.isShared ? null : person,
    lines: wanted.lines.slice(0, MOST_LINES),
  })
  steppe.sync()
  return id
}

/** Changes a list. Two who change different lines both have their way. Errors  throws `DiskFullError`. */
export async function changeList(
  steppe: Steppe,
  id: string,
  owner: ListOwner,
  change: ListChange,
  { author, at }: { readonly author: string; readonly at: Date },
): Promise<ListOutcome> {
  requireRoom(steppe)
  const outcome = await steppe.database.transaction(async (transaction): Promise<ListOutcome> => {
    const [row] = await transaction
      .select()
      .from(reorderLists)
      .where(and(eq(reorderLists.id, id), seenBy(owner)))
      .for('update')
    if (!row) return { ok: false, code: 'gone' }
    const now = toList(row)
    const next = changed(now, owner, change, author)
    if ('ok' in next) return next
    await transaction
      .update(reorderLists)
      .set({ ...next, author, at, version: row.version + 1 })
      .where(eq(reorderLists.id, id))
    return { ok: true }
  })
  if (outcome.ok) steppe.sync()
  return outcome
}

function changed(
  now: ReorderList,
  { person }: ListOwner,
  change: ListChange,
  author: string,
): Partial<typeof reorderLists.$inferInsert> | Exclude<ListOutcome, { readonly ok: true }> {
  switch (change.kind) {
    case 'line': {
      const at = now.lines.findIndex((line) => isSame(line, change.line))
      const has = now.lines[at]?.quantity ?? null
      if (has !== change.seen)
        return { ok: false, code: 'changed', now: has ?? '', by: now.lines[at]?.by ?? now.author }
      if (change.quantity === null) return { lines: now.lines.filter((_, other) => other !== at) }
      const line = { ...change.line, quantity: change.quantity, by: author }
      if (at >= 0) return { lines: now.lines.with(at, line) }
      return now.lines.length >= MOST_LINES
        ? { ok: false, code: 'too-many' }
        : { lines: [...now.lines, line] }
    }
    case 'add': {
      const lines = change.lines.reduce<readonly ListLine[]>((all, line) => {
        const at = all.findIndex((each) => isSame(each, line))
        const same = all[at]
        return same
          ? all.with(at, { ...same, quantity: add(same.quantity, line.quantity), by: author })
          : [...all, { ...line, by: author }]
      }, now.lines)
      return lines.length > MOST_LINES ? { ok: false, code: 'too-many' } : { lines }
    }
    case 'rename':
      return now.name === change.seen
        ? { name: change.name }
        : { ok: false, code: 'changed', now: now.name, by: now.author }
    case 'share':
      return { person: change.isShared ? null : person }
  }
}

function isSame(left: Pick<CartLineWanted, 'variant' | 'extras'>, right: typeof left): boolean {
  return left.variant === right.variant && left.extras.join() === right.extras.join()
}

/** Removes a list for everybody. Resolves to whether it was there. Errors  throws `DiskFullError`. */
export async function removeList(steppe: Steppe, id: string, owner: ListOwner): Promise<boolean> {
  requireRoom(steppe)
  const rows = await steppe.database
    .delete(reorderLists)
    .where(and(eq(reorderLists.id, id), seenBy(owner)))
    .returning({ id: reorderLists.id })
  if (rows.length > 0) steppe.sync()
  return rows.length > 0
}

/** What an account paid last for one of each of some variants, without tax and with it. */
export async function lastPaid(
  database: Database,
  account: string,
  variants: readonly string[],
): Promise<
  ReadonlyMap<
    string,
    { readonly net: Decimal; readonly gross: Decimal; readonly currency: string; readonly at: Date }
  >
> {
  if (variants.length === 0) return new Map()
  const { rows } = await database.execute<{
    variant: string
    net: string
    gross: string
    currency: string
    at: string
  }>(sql`
    select distinct on (line ->> 'variant') line ->> 'variant' as variant, line -> 'unit' ->> 'net' as net,
      line -> 'unit' ->> 'gross' as gross, o.currency, o.at::text as at
    from shop_order as o, jsonb_array_elements(o.document -> 'lines') as line
    where o.account = ${account} and o.state <> 'cancelled' and line ->> 'isGift' <> 'true'
      and line ->> 'variant' in ${[...variants]}
    order by line ->> 'variant', o.number desc`)
  return new Map(
    rows.map(({ variant, net, gross, currency, at }) => [
      variant,
      { net: decimal(net), gross: decimal(gross), currency, at: new Date(at) },
    ]),
  )
}
