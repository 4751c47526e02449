import { rmSync } from 'node:fs'
import type { CDPSession, Locator, Page } from 'playwright-core'
import { eachTestInItsOwnWindow, openWindow } from './browser'
import { becomeOwner, PASSWORD, signIn } from './come-in'
import { filledDirectory, startServer } from './server'

const here = eachTestInItsOwnWindow()

/** A device that keeps passkeys: Chromium's stand-in (WebDriver extension of WebAuthn level 3, section 11). */
async function device(page: Page): Promise<{
  readonly asksWhoHoldsIt: (asks: boolean) => Promise<unknown>
  readonly moveTo: (page: Page) => Promise<unknown>
}> {
  const begin = async (at: Page): Promise<readonly [CDPSession, string]> => {
    const session = await at.context().newCDPSession(at)
    await session.send('WebAuthn.enable')
    const { authenticatorId } = await session.send('WebAuthn.addVirtualAuthenticator', {
      options: {
        protocol: 'ctap2',
        transport: 'internal',
        hasResidentKey: true,
        hasUserVerification: true,
        isUserVerified: true,
        automaticPresenceSimulation: true,
      },
    })
    return [session, authenticatorId]
  }
  const [session, authenticatorId] = await begin(page)
  return {
    asksWhoHoldsIt: (isUserVerified) =>
      session.send('WebAuthn.setUserVerified', { authenticatorId, isUserVerified }),
    moveTo: async (other) => {
      const { credentials } = await session.send('WebAuthn.getCredentials', { authenticatorId })
      const [there, its] = await begin(other)
      for (const credential of credentials)
        await there.send('WebAuthn.addCredential', { authenticatorId: its, credential })
    },
  }
}

/** An owner at their own page, under a name passkeys are kept for: 127.0.0.1 is none. */
async function atOwnPage(
  act: (place: {
    readonly url: string
    readonly address: string
    readonly passkeys: Locator
  }) => Promise<void>,
): Promise<void> {
  const { page } = here
  const data = await filledDirectory()
  const server = await startServer(data, true, { signIn: true })
  const url = server.url.replace('127.0.0.1', 'localhost')
  try {
    await becomeOwner(page, { ...server, url })
    await page.goto(`${url}/me`)
    await act({ url, address: server.url, passkeys: page.getByRole('region', { name: 'Passkeys' }) })
  } finally {
    await server.stop()
    rmSync(data, { recursive: true, force: true })
  }
}

async function add(passkeys: Locator, name: string, password: string): Promise<void> {
  await passkeys.getByLabel('A name for this one').fill(name)
  await passkeys.getByLabel('Your password').fill(password)
  await passkeys.getByRole('button', { name: 'Add a passkey' }).click()
}

test(
  'a passkey signs in without password; one that was removed does not; nobody adds one without the password',
  () =>
    atOwnPage(async ({ url, address, passkeys }) => {
      const { page } = here
      const laptop = await device(page)
      await add(passkeys, '', PASSWORD)
      await passkeys.getByText('Give it a name you know it by').waitFor()
      await add(passkeys, 'Laptop at work', 'not it at all, sorry')
      await passkeys.getByText('That is not your password.').waitFor()
      await add(passkeys, 'Laptop at work', PASSWORD)
      await passkeys.getByText('since').waitFor()
      await add(passkeys, 'Laptop at work', PASSWORD)
      await passkeys.getByText('This device has a passkey of yours already.').waitFor()

      const other = await (await openWindow(here.browser)).newPage()
      await other.goto(`${url}/sign-in?back=%2Fdrafts`)
      const button = other.getByRole('button', { name: 'Sign in with a passkey' })
      await button.waitFor()
      await laptop.moveTo(other)
      await button.click()
      await other.waitForURL('**/drafts')
      await other.getByText('Orla Finch').first().waitFor()
      await page.goto(`${url}/audit`)
      await page.getByText('signed in with a passkey').first().waitFor()

      await page.goto(`${url}/me`)
      await passkeys.getByRole('button', { name: 'Remove the passkey Laptop at work' }).click()
      await page.getByText('“Laptop at work” signs you in no more.').waitFor()
      await other.goto(`${url}/me`)
      await other.getByRole('button', { name: 'Sign out', exact: true }).click()
      await button.click()
      await other.getByText('This passkey opens nothing here.').waitFor()
      expect(new URL(other.url()).pathname).toBe('/sign-in')
      // Where the page has no name, the other way in is the only one.
      await other.goto(`${address}/sign-in`)
      await other.locator('form').waitFor()
      expect(await button.count()).toBe(0)
      await signIn(other, address, 'orla@example.org')
      await other.getByRole('heading', { name: 'Board' }).waitFor()
      await other.goto(`${address}/me`)
      await other.getByText('Passkeys work where Steppe is opened as localhost.').waitFor()
    }),
  120_000,
)

test(
  'a device that does not ask who holds it makes no passkey',
  () =>
    atOwnPage(async ({ passkeys }) => {
      await (await device(here.page)).asksWhoHoldsIt(false)
      await add(passkeys, 'Found on the street', PASSWORD)
      await passkeys.getByRole('alert').waitFor()
      expect(await passkeys.getByText('since').count()).toBe(0)
    }),
  120_000,
)
