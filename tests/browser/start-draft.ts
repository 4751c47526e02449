import type { Page } from 'playwright-core'

/** Begins a draft from the vantage and looks through it. */
export async function startDraft(page: Page, name: string): Promise<void> {
  await page.getByRole('button', { name: /^Looking in:/ }).click()
  await page.getByRole('textbox', { name: 'Name of a new draft' }).fill(name)
  await page.getByRole('button', { name: 'Start', exact: true }).click()
  await page.getByRole('button', { name: `Looking in: draft “${name}”. Change` }).waitFor()
}
