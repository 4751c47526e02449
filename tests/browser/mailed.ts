import { existsSync, readdirSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import type { Locator, Page } from 'playwright-core'

/** Looks into the outbox until a mail has gone out there, a moment after what it tells of; resolves to its link. */
export async function mailed(page: Page, outbox: string, subject: RegExp): Promise<Locator> {
  const link = page.getByRole('link', { name: subject })
  for (let tries = 0; tries < 30; tries += 1) {
    await page.goto(outbox)
    await page.getByRole('heading', { name: 'Outbox' }).waitFor()
    if ((await link.count()) > 0) return link.first()
    await new Promise((resolve) => setTimeout(resolve, 500))
  }
  throw new Error(`no mail ${String(subject)} went out`)
}

/** What a pattern finds in the latest mail to somebody, in the files of a data directory's outbox, a moment after it was asked for. */
export async function mailedFile(data: string, to: string, pattern: RegExp): Promise<string> {
  const outbox = join(data, 'outbox')
  for (let tries = 0; tries < 60; tries += 1) {
    for (const name of (existsSync(outbox) ? readdirSync(outbox) : []).sort().reverse()) {
      if (!name.endsWith('.eml') || used.has(join(outbox, name))) continue
      const mail = plain(readFileSync(join(outbox, name), 'utf8'))
      const found = mail.includes(`To: ${to}`) ? pattern.exec(mail)?.[0] : undefined
      if (found === undefined) continue
      used.add(join(outbox, name))
      return found
    }
    await new Promise((resolve) => setTimeout(resolve, 500))
  }
  throw new Error(`no mail to ${to} holds ${String(pattern)}`)
}

/** Links work once: one that was followed is not found again. */
const used = new Set<string>()

/** Quoted-printable (RFC 2045, 6.7) as it is read. */
function plain(mail: string): string {
  return mail
    .replace(/=\r?\n/g, '')
    .replace(/=([0-9A-F]{2})/g, (_, code: string) => String.fromCharCode(Number.parseInt(code, 16)))
}
