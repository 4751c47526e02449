import type { Page } from 'playwright-core'
import type { TestServer } from './server'

export const PASSWORD = 'amber comb and willow'

/** Gives the address and the password at the door. */
export async function signIn(page: Page, url: string, email: string, password = PASSWORD): Promise<void> {
  await page.goto(`${url}/sign-in`)
  await page.getByLabel('E-mail address').fill(email)
  await page.getByLabel('Password').fill(password)
  await page.getByRole('button', { name: 'Sign in', exact: true }).click()
}

/** The owner of a store that has just been started, signed in. */
export async function becomeOwner(
  page: Page,
  { url, printed }: Pick<TestServer, 'url' | 'printed'>,
): Promise<void> {
  await page.goto(`${url}/first-start`)
  await page.getByLabel(/^Code/).fill(/code: +([A-Z0-9-]+)/.exec(printed())?.[1] ?? '')
  await page.getByLabel(/^Your name/).fill('Orla Finch')
  await page.getByLabel('E-mail address').fill('orla@example.org')
  await page.getByLabel(/^Password/).fill(PASSWORD)
  await page.getByRole('button', { name: 'Become the owner' }).click()
  await page.getByRole('heading', { name: 'Board' }).waitFor()
}
