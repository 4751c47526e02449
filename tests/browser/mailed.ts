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
