import 'server-only'

import { MOST_FILES } from '@/core/quote/quote'
import { and, asc, eq, inArray, isNull, lt, sql } from 'drizzle-orm'
import { randomUUID } from 'node:crypto'
import type { Transaction } from '../changes/commit-outcome'
import type { Database } from '../database/database'
import { requireRoom } from '../database/disk-room'
import { quoteFiles } from '../database/selling-schema'
import { drawnAs, startsWith } from '../doors/file-signature'
import type { Steppe } from '../engine/steppe'
import type { OrderOwner } from '../orders/order-rows'

/** How many of one owner's, and how many bytes of everybody's, may wait for a request they belong to. */
const MOST_WAITING = 10
const LARGEST_WAITING = 200 * 2 ** 20
const LIFETIME = 86_400_000
const LONGEST_NAME = 120

/** A file of a request, without what is in it. */
export interface QuoteFile {
  readonly id: string
  readonly name: string
  /** In bytes. */
  readonly size: number
}

export type KeptFile =
  { readonly ok: true; readonly file: QuoteFile } | { readonly ok: false; readonly problem: string }

const TYPES = {
  pdf: 'application/pdf',
  png: 'image/png',
  jpg: 'image/jpeg',
  webp: 'image/webp',
  xlsx: 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet',
  docx: 'application/vnd.openxmlformats-officedocument.wordprocessingml.document',
  csv: 'text/csv; charset=utf-8',
  txt: 'text/plain; charset=utf-8',
} as const

/**
 * Keeps a file of a request that has not been sent yet, if it is of a kind that a request may have.
 *
 * Errors  throws `DiskFullError`.
 */
export async function keepQuoteFile(
  steppe: Steppe,
  owner: OrderOwner,
  { name: given, bytes }: { readonly name: string; readonly bytes: Uint8Array },
  at: Date,
): Promise<KeptFile> {
  const name = plainName(given)
  if (bytes.length === 0) return { ok: false, problem: `“${name}” is empty.` }
  const kind = kindOf(name, bytes)
  if (!kind)
    return {
      ok: false,
      problem: `“${name}” cannot be sent along. A PDF, a picture (PNG, JPEG, WebP), XLSX, DOCX, CSV or plain text can.`,
    }
  const holder = holderOf(owner)
  if (holder === null) return { ok: false, problem: 'Reload the page, and choose the file again.' }
  requireRoom(steppe)
  const { database } = steppe
  const waiting = isNull(quoteFiles.quote)
  await database.delete(quoteFiles).where(and(waiting, lt(quoteFiles.at, new Date(at.getTime() - LIFETIME))))
  const [left] = await database
    .select({
      mine: sql<number>`count(*) filter (where ${quoteFiles.owner} = ${holder})::int`,
      size: sql<number>`coalesce(sum(${quoteFiles.size}), 0)::float8`,
    })
    .from(quoteFiles)
    .where(waiting)
  if (left && left.mine >= MOST_WAITING)
    return { ok: false, problem: 'You have sent many files without a request. Send the request first.' }
  if (left && left.size + bytes.length > LARGEST_WAITING)
    return { ok: false, problem: 'No more files can be taken at the moment. Try again later.' }
  const file: QuoteFile = { id: randomUUID(), name, size: bytes.length }
  await database
    .insert(quoteFiles)
    .values({ ...file, quote: null, owner: holder, at, type: TYPES[kind], content: bytes })
  steppe.sync()
  return { ok: true, file }
}

/** Gives files to the request they were sent for. Errors  `false` where one of them is not the owner's, or is gone. */
export async function attachQuoteFiles(
  transaction: Transaction,
  number: number,
  owner: OrderOwner,
  ids: readonly string[],
): Promise<boolean> {
  const holder = holderOf(owner)
  if (ids.length === 0) return true
  if (holder === null || ids.length > MOST_FILES) return false
  const taken = await transaction
    .update(quoteFiles)
    .set({ quote: number })
    .where(and(inArray(quoteFiles.id, [...ids]), eq(quoteFiles.owner, holder), isNull(quoteFiles.quote)))
    .returning({ id: quoteFiles.id })
  return taken.length === new Set(ids).size
}

/** What came with a request, in the order it was sent in. Who may see the quote is looked at before. */
export async function filesOfQuote(
  database: Pick<Database, 'select'>,
  number: number,
): Promise<readonly QuoteFile[]> {
  return database
    .select({ id: quoteFiles.id, name: quoteFiles.name, size: quoteFiles.size })
    .from(quoteFiles)
    .where(eq(quoteFiles.quote, number))
    .orderBy(asc(quoteFiles.at), asc(quoteFiles.name))
}

/** One of the files of a quote. Errors  `null` where it has none of the id. */
export async function readQuoteFile(
  database: Pick<Database, 'select'>,
  number: number,
  id: string,
): Promise<{ readonly name: string; readonly type: string; readonly content: Uint8Array } | null> {
  const [found] = await database
    .select({ name: quoteFiles.name, type: quoteFiles.type, content: quoteFiles.content })
    .from(quoteFiles)
    .where(and(eq(quoteFiles.quote, number), eq(quoteFiles.id, id)))
  return found ?? null
}

function holderOf({ account, visitor }: OrderOwner): string | null {
  return account !== null ? `account ${account}` : visitor === null ? null : `visitor ${visitor}`
}

/** The last part of what a file was called, without what no file name should have. */
function plainName(given: string): string {
  const last = given.split(/[\\/]/).at(-1) ?? ''
  const name = last
    .replace(/\p{C}|["<>:|?*]/gu, '')
    .trim()
    .slice(-LONGEST_NAME)
  return name === '' || /^\.+$/.test(name) ? 'file' : name
}

/** By what is in it; of what only its name tells apart, by its name too. */
function kindOf(name: string, bytes: Uint8Array): keyof typeof TYPES | null {
  const drawn = drawnAs(bytes)
  if (drawn) return drawn
  if (startsWith(bytes, 0x25, 0x50, 0x44, 0x46, 0x2d)) return 'pdf'
  const ending = /\.([a-z]+)$/i.exec(name)?.[1]?.toLowerCase()
  if (startsWith(bytes, 0x50, 0x4b, 0x03, 0x04)) return ending === 'xlsx' || ending === 'docx' ? ending : null
  if (ending !== 'csv' && ending !== 'txt') return null
  return isText(bytes) ? ending : null
}

function isText(bytes: Uint8Array): boolean {
  if (bytes.includes(0)) return false
  try {
    new TextDecoder('utf-8', { fatal: true }).decode(bytes)
    return true
  } catch {
    return false
  }
}
