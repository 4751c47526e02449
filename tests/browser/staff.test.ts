import { FIRST_ROLES, type Role } from '@/core/staff/role'
import { readdirSync, readFileSync, rmSync } from 'node:fs'
import { join } from 'node:path'
import type { Page } from 'playwright-core'
import { cell, eachTestInItsOwnWindow, openBoard, openWindow, reads, typeInto } from './browser'
import { mailedFile } from './mailed'
import { oneTimeCode } from './one-time-code'
import { becomeOwner, PASSWORD, signIn } from './come-in'
import { filledDirectory, startServer } from './server'
import { startDraft } from './start-draft'

const here = eachTestInItsOwnWindow()

/** A page of a window of its own. */
async function newWindow(): Promise<Page> {
  return (await openWindow(here.browser)).newPage()
}

/** Addresses of the merchant's side, with the permission each names in its code. */
function places(): readonly { readonly path: string; readonly permission: string }[] {
  const app = join(process.cwd(), 'src/app')
  const files = (folder: string): readonly string[] =>
    readdirSync(folder, { withFileTypes: true }).flatMap((entry) =>
      entry.isDirectory() ? files(join(folder, entry.name)) : [join(folder, entry.name)],
    )
  return files(app).flatMap((file) => {
    const text = readFileSync(file, 'utf8')
    const permission =
      /export default merchantPage\(\s*'([^']+)'/.exec(text)?.[1] ??
      /export const GET = merchantRoute\(\s*'([^']+)'/.exec(text)?.[1]
    if (!permission || /\/(set-up|mend)\//.test(file)) return []
    const path = file
      .slice(app.length)
      .replace('/(merchant)', '')
      .replace(/\/(page\.tsx|route\.ts)$/, '')
      .replace('[section]/[label]', 'products/FR-BR')
      .replace('[section]', 'products')
      .replace(/\[[^\]]+\]/, '1')
    return [{ path, permission }]
  })
}

test('the first start has an owner; an editor drafts and does not publish; a leaver is out; a lost password is mailed', async () => {
  const data = await filledDirectory()
  const server = await startServer(data, true, { signIn: true })
  const { url } = server
  const owner = here.page
  try {
    await owner.goto(`${url}/drafts`)
    await owner.getByRole('heading', { name: 'Whose store is this?' }).waitFor()
    const code = /code: +([A-Z0-9-]+)/.exec(server.printed())?.[1] ?? ''
    await owner.getByLabel(/^Code/).fill('AAAA-BBBB-CCCC')
    await owner.getByLabel(/^Your name/).fill('Orla Finch')
    await owner.getByLabel('E-mail address').fill('orla@example.org')
    await owner.getByLabel(/^Password/).fill(PASSWORD)
    await owner.getByRole('button', { name: 'Become the owner' }).click()
    await owner.getByText('That is not the code.').waitFor()
    await owner.getByLabel(/^Code/).fill(code)
    await owner.getByLabel(/^Password/).fill(PASSWORD)
    await owner.getByRole('button', { name: 'Become the owner' }).click()
    await owner.getByRole('heading', { name: 'Board' }).waitFor()

    // An editor who sees no costs: a role of its own, made from one there is.
    await owner.goto(`${url}/staff?role=pricing-editor`)
    await owner.getByRole('button', { name: 'Make a role of your own from it' }).click()
    await owner.getByRole('article', { name: 'Pricing editor 2' }).waitFor()
    await owner.getByLabel('Sees costs and margins').uncheck()
    await owner.getByRole('button', { name: 'Save the role' }).click()
    await owner.getByText('Saved. It holds').waitFor()
    await owner.goto(`${url}/staff?new=1`)
    await owner.getByLabel('Name', { exact: true }).fill('Nora Quill')
    await owner.getByLabel('E-mail address').fill('nora@example')
    await owner.getByLabel('Role', { exact: true }).selectOption({ label: 'Pricing editor 2' })
    await owner.getByLabel('E-mail address').fill('nora@example.org')
    await owner.getByRole('button', { name: 'Invite', exact: true }).click()
    await owner.getByText('invited, has not set a password yet').first().waitFor()

    const editor = await newWindow()
    await editor.goto(
      `${url}${await mailedFile(data, 'nora@example.org', /\/sign-in\/password\?word=[\w%-]+/)}`,
    )
    await editor.getByLabel(/^New password/).fill(PASSWORD)
    await editor.getByLabel('Once more').fill(PASSWORD)
    await editor.getByRole('button', { name: 'Set the password' }).click()
    await editor.getByText('Your password is set.').waitFor()
    await signIn(editor, url, 'nora@example.org')
    await editor.getByRole('heading', { name: 'Board' }).waitFor()
    const seen = await editor.locator('nav[aria-label="Places"]').innerText()
    for (const place of ['Import', 'Desk', 'Orders', 'People', 'Audit']) expect(seen).not.toContain(place)
    const board = await (await editor.request.get(`${url}/api/board?as=guest`)).text()
    expect(board).toContain('"base"')
    expect(board.match(/"(cost|liveCost)":"/g)).toBeNull()
    expect((await editor.request.get(`${url}/api/store`)).status()).toBe(403)

    // She drafts, somebody else publishes.
    await openBoard(editor, '?find=FR-BR&as=account%3Afennmoor', url)
    await startDraft(editor, 'Spring')
    const price = cell(editor, 'Pine, flat-packed, 10', 'account:fennmoor')
    await reads(price, /21\.65/)
    await typeInto(editor, price, '21.60')
    await reads(price, /21\.60/)
    await owner.goto(`${url}/drafts/spring?draft=spring`)
    const publish = owner.getByRole('form', { name: 'Publish' })
    await publish.getByRole('textbox', { name: 'Why', exact: true }).fill('agreed by telephone')
    await publish.getByRole('button', { name: 'Publish now' }).click()
    await owner.waitForURL(/\/drafts(\?|$)/)
    await owner.goto(`${url}/audit`)
    await owner.getByText('published “spring”').waitFor()

    // Whoever is let in no more is out with the next click.
    await owner.goto(`${url}/staff`)
    await owner.getByRole('link', { name: /Nora Quill/ }).click()
    await owner.getByRole('button', { name: 'Let Nora Quill in no more' }).click()
    await owner.getByText('signed out everywhere').waitFor()
    await editor.goto(`${url}/board`)
    await editor.getByRole('heading', { name: 'Sign in' }).waitFor()
    await signIn(editor, url, 'nora@example.org')
    await editor.getByText('That is not the password of this address.').waitFor()

    // A lost password.
    await editor.getByRole('link', { name: 'Lost your password?' }).click()
    await editor.getByRole('heading', { name: 'Lost your password?' }).waitFor()
    await editor.getByLabel('E-mail address').fill('orla@example.org')
    await editor.getByRole('button', { name: 'Mail me a link' }).click()
    await editor.getByText('a mail is on its way').waitFor()
    await editor.goto(
      `${url}${await mailedFile(data, 'orla@example.org', /\/sign-in\/password\?word=[\w%-]+/)}`,
    )
    await editor.getByLabel(/^New password/).fill('cedar smoke at dusk')
    await editor.getByLabel('Once more').fill('cedar smoke at dusk')
    await editor.getByRole('button', { name: 'Set the password' }).click()
    await editor.getByText('Your password is set.').waitFor()
    await owner.goto(`${url}/audit`)
    await owner.getByRole('heading', { name: 'Sign in' }).waitFor()
    await signIn(owner, url, 'orla@example.org', 'cedar smoke at dusk')
    await owner.getByRole('heading', { name: 'Board' }).waitFor()
    await owner.goto(`${url}/audit`)
    await owner.getByText('lets Nora Quill in no more').waitFor()

    // Every role by every address: allowed or refused as its permissions say.
    const all = places()
    expect(all.length).toBeGreaterThan(55)
    for (const role of FIRST_ROLES.filter(({ code: each }) => each !== 'owner')) {
      const page = await employ(owner, url, data, role)
      for (const { path, permission } of all) {
        const status = (await page.request.get(`${url}${path}`, { maxRedirects: 0 })).status()
        const isRefused = status === 401 || status === 403
        const mayNot = !role.permissions.some((each) => each === permission)
        expect([role.code, path, isRefused]).toEqual([role.code, path, mayNot])
      }
      await page.context().close()
    }
    // Nobody at all gets in anywhere.
    const nobody = await newWindow()
    for (const { path } of all) {
      const response = await nobody.request.get(`${url}${path}`, { maxRedirects: 0 })
      expect([path, response.status()]).toEqual([path, path.startsWith('/api/') ? 401 : 307])
    }
  } finally {
    await server.stop()
    rmSync(data, { recursive: true, force: true })
  }
}, 300_000)

test('one-time codes are those of the standard', () => {
  // RFC 6238, appendix B: the key is the ASCII text 12345678901234567890; the last six of its eight digits.
  const key = 'GEZDGNBVGY3TQOJQGEZDGNBVGY3TQOJQ'
  expect(oneTimeCode(key, 59)).toBe('287082')
  expect(oneTimeCode(key, 1_111_111_109)).toBe('081804')
  expect(oneTimeCode(key, 2_000_000_000)).toBe('279037')
})

test('a code of an app is asked for beside the password; a seller sees her own buyers alone', async () => {
  const data = await filledDirectory('with-orders')
  const server = await startServer(data, 'with-orders', { signIn: true })
  const { url } = server
  const owner = here.page
  try {
    await becomeOwner(owner, server)
    await owner.goto(`${url}/me`)
    const factor = owner.getByRole('region', { name: 'Second factor' })
    await factor.getByLabel('Your password').fill(PASSWORD)
    await factor.getByRole('button', { name: 'Set up a second factor' }).click()
    const key = (await factor.locator('p.break-all').innerText()).trim()
    const spare = (await factor.locator('span.font-mono, p.font-mono span').first().innerText()).trim()
    await factor.getByLabel('The six digits').fill('000000')
    await factor.getByRole('button', { name: 'Ask for it from now on' }).click()
    await factor.getByRole('alert').waitFor()
    await factor.getByLabel(/^The six digits/).fill(oneTimeCode(key, Date.now() / 1_000))
    await factor.getByRole('button', { name: 'Ask for it from now on' }).click()
    await factor.getByRole('button', { name: 'Do without the second factor' }).waitFor()

    // Neither the password alone nor a wrong code lets anybody in; a spare code does, once.
    const other = await newWindow()
    const comeIn = async (code: string) => {
      await signIn(other, url, 'orla@example.org')
      await other.getByRole('heading', { name: 'One more step' }).waitFor()
      await other.getByLabel('Code').fill(code)
      await other.getByRole('button', { name: 'Sign in' }).click()
    }
    await comeIn('000000')
    await other.getByRole('alert').waitFor()
    await other.goto(`${url}/board`)
    await other.getByRole('heading', { name: 'Sign in' }).waitFor()
    await comeIn(spare)
    await other.getByRole('heading', { name: 'Board' }).waitFor()
    await other.goto(`${url}/me`)
    await other.getByRole('button', { name: 'Sign out', exact: true }).click()
    await comeIn(spare)
    await other.getByRole('alert').waitFor()
    await comeIn(oneTimeCode(key, Date.now() / 1_000))
    await other.getByRole('heading', { name: 'Board' }).waitFor()

    // A seller of bee farms.
    const sales = FIRST_ROLES.find(({ code }) => code === 'sales') as Role
    const seller = await employ(owner, url, data, sales)
    await seller.goto(`${url}/orders`)
    const before = await seller.getByRole('link', { name: /^10\d{3}/ }).count()
    await owner.getByRole('button', { name: /^Which buyers: / }).click()
    const picker = owner.getByRole('region', { name: 'Which buyers' })
    await picker.getByRole('textbox').fill('Bee farms')
    await owner.keyboard.press('Enter')
    await picker.getByRole('button', { name: /^Done/ }).click()
    await owner.getByRole('button', { name: 'Save', exact: true }).click()
    await owner.getByText('Saved. It holds').waitFor()
    await seller.goto(`${url}/accounts`)
    await seller.getByRole('link', { name: 'Fennmoor Honey Farm' }).first().waitFor()
    expect(await seller.locator('main').innerText()).not.toContain('Nuala Byrne')
    expect((await seller.request.get(`${url}/accounts/nuala-byrne`)).status()).toBe(404)
    await seller.goto(`${url}/orders`)
    const after = await seller.getByRole('link', { name: /^10\d{3}/ }).count()
    expect(after).toBeGreaterThan(0)
    expect(after).toBeLessThan(before)
  } finally {
    await server.stop()
    rmSync(data, { recursive: true, force: true })
  }
}, 300_000)

/** Somebody with a role, signed in in a window of their own. */
async function employ(owner: Page, url: string, data: string, { code, name }: Role): Promise<Page> {
  const email = `${code}@example.org`
  await owner.goto(`${url}/staff?new=1`)
  await owner.getByLabel('Name', { exact: true }).fill(`Somebody of ${name}`)
  await owner.getByLabel('E-mail address').fill(email)
  await owner.getByLabel('Role', { exact: true }).selectOption({ label: name })
  await owner.getByRole('button', { name: 'Invite', exact: true }).click()
  await owner.getByText('invited, has not set a password yet').first().waitFor()
  const page = await newWindow()
  await page.goto(`${url}${await mailedFile(data, email, /\/sign-in\/password\?word=[\w%-]+/)}`)
  await page.getByLabel(/^New password/).fill(PASSWORD)
  await page.getByLabel('Once more').fill(PASSWORD)
  await page.getByRole('button', { name: 'Set the password' }).click()
  await page.getByText('Your password is set.').waitFor()
  await signIn(page, url, email)
  await page.getByRole('heading', { name: 'Board' }).waitFor()
  return page
}
