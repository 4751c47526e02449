import 'server-only'

import { getSettings } from '@/core/store/store'
import { asc, eq, isNull } from 'drizzle-orm'
import { mkdir, readFile, rename, writeFile } from 'node:fs/promises'
import { join } from 'node:path'
import { createTransport } from 'nodemailer'
import { mails } from '../database/selling-schema'
import type { Steppe } from '../engine/steppe'
import { type Letter, letsIn } from './letter'

/** A mail in words, as it goes out. */
export interface WrittenMail {
  readonly subject: string
  readonly html: string
  readonly plain: string
  readonly attachments: readonly { readonly name: string; readonly content: Uint8Array }[]
}

/** Makes words of a letter; `null` where what it tells of is gone. */
export type WriteMail = (steppe: Steppe, letter: Letter) => Promise<WrittenMail | null>

/** So many are sent between looks at the database. */
const AT_ONCE = 20
/** Where nobody gave an address: a name that is nobody's (RFC 2606). */
const NOBODY = 'shop@steppe.invalid'

const running = new WeakMap<Steppe, Promise<void>>()

/**
 * Sends what is queued, in its order: each as a file of the outbox (RFC 5322), which is as far as mails go from here. What was
 * written is kept with it. Whoever asks while mails are sent waits for them.
 */
export function sendMails(steppe: Steppe, write: WriteMail): Promise<void> {
  const before = running.get(steppe) ?? Promise.resolve()
  const next = before.catch(() => undefined).then(() => sendAll(steppe, write))
  running.set(steppe, next)
  return next
}

async function sendAll(steppe: Steppe, write: WriteMail): Promise<void> {
  const { database, directory } = steppe
  for (;;) {
    const waiting = await database
      .select()
      .from(mails)
      .where(isNull(mails.sent))
      .orderBy(asc(mails.id))
      .limit(AT_ONCE)
    if (waiting.length === 0 || !steppe.prepared) return
    const { name, shopEmail } = getSettings(steppe.prepared.store)
    for (const { id, letter, to, at } of waiting) {
      const written = await write(steppe, letter as Letter)
      if (!written) {
        await database.delete(mails).where(eq(mails.id, id))
        continue
      }
      const { subject, html, plain, attachments } = written
      const from = { name, address: shopEmail || NOBODY }
      const file = await makeFile({
        ...{ from, to, subject, html, text: plain, date: at, messageId: `<${id}@steppe.invalid>` },
        attachments: attachments.map((each) => ({
          filename: each.name,
          content: Buffer.from(each.content),
        })),
      })
      await keepFile(join(directory, 'outbox'), fileName(id), file)
      const kept = letsIn(letter as Letter) ? { html: '', plain: '', letter: {} } : { html, plain }
      await database
        .update(mails)
        .set({ subject, sent: at, ...kept })
        .where(eq(mails.id, id))
    }
    steppe.sync()
  }
}

function fileName(id: number): string {
  return `${String(id).padStart(6, '0')}.eml`
}

/** A mail as it went out. Errors  `null` where it did not, or its file was taken away. */
export async function readMailFile(
  { directory }: Pick<Steppe, 'directory'>,
  id: number,
): Promise<Buffer | null> {
  return readFile(join(directory, 'outbox', fileName(id))).catch(() => null)
}

async function makeFile(mail: object): Promise<Buffer> {
  const transport = createTransport({ streamTransport: true, buffer: true, newline: 'windows' })
  const { message } = (await transport.sendMail(mail)) as { readonly message: Buffer }
  return message
}

/** Whole or not at all: a mail that is sent again takes the place of the one before. */
async function keepFile(folder: string, name: string, content: Buffer): Promise<void> {
  await mkdir(folder, { recursive: true, mode: 0o700 })
  const beside = join(/* turbopackIgnore: true */ folder, `.${name}`)
  await writeFile(beside, content, { mode: 0o600 })
  await rename(beside, join(/* turbopackIgnore: true */ folder, name))
}
