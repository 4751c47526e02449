import type { Browser, Page } from 'playwright-core'
import { cell, launch, openBoard, openWindow, reads, testUrl, typeInto } from './browser'

jest.setTimeout(90_000)

let browser: Browser
beforeAll(async () => {
  browser = await launch()
})
afterAll(() => browser.close())

async function signIn(page: Page, name: string): Promise<void> {
  await page.goto(testUrl('/shop/sign-in'))
  await page.getByRole('button', { name: new RegExp(name) }).click()
  await page.waitForURL(/\/shop$/)
}

test('a guest and a bee farm see their two right prices, before and after the merchant’s edit', async () => {
  const [guestWindow, farmWindow, merchantWindow] = await Promise.all([
    openWindow(browser),
    openWindow(browser),
    openWindow(browser),
  ])
  const guest = await guestWindow.newPage()
  const farm = await farmWindow.newPage()
  const merchant = await merchantWindow.newPage()
  await signIn(farm, 'Tarnside Apiaries')
  const look = async () => {
    for (const page of [guest, farm]) await page.goto(testUrl('/shop/product/FR-BR?sku=FR-BR-PF'))
  }

  await look()
  await reads(guest.getByTestId('own-price').first(), '€25.90')
  expect(await guest.getByTestId('was-price').count()).toBe(0)
  await reads(farm.getByTestId('own-price').first(), '€22.80')
  await reads(farm.getByTestId('was-price').first(), '€25.90')

  await openBoard(merchant, '?find=FR-BR')
  await typeInto(merchant, cell(merchant, 'Brood frames', 'base'), '30')
  await reads(cell(merchant, 'Pine, flat-packed, 10', 'group:bee-farms'), 'L26.40')
  await look()
  await reads(guest.getByTestId('own-price').first(), '€30.00')
  await reads(farm.getByTestId('own-price').first(), '€26.40')

  // What was done in this window can be undone after a reload, too.
  await merchant.reload()
  await merchant.locator('[data-ready=true]').waitFor()
  await merchant.getByRole('button', { name: 'Undo' }).click()
  await reads(cell(merchant, 'Pine, flat-packed, 10', 'group:bee-farms'), 'L22.80')
  await look()
  await reads(farm.getByTestId('own-price').first(), '€22.80')
  await Promise.all([guestWindow.close(), farmWindow.close(), merchantWindow.close()])
})

test('browse, search, choose a variant, sign in and out', async () => {
  const window = await openWindow(browser)
  const page = await window.newPage()
  await page.goto(testUrl('/shop'))
  await page.getByRole('link', { name: 'Jars and packaging', exact: true }).click()
  await page.getByRole('heading', { name: 'Jars and packaging', level: 1 }).waitFor()
  await page.getByRole('link', { name: 'Jars', exact: true }).click()
  await page.getByRole('link', { name: 'Shaped jars' }).click()
  await page.getByRole('heading', { name: 'Shaped jars', level: 1 }).waitFor()
  await page.getByRole('link', { name: /Hexagonal honey jar/ }).click()
  await page.locator('label', { hasText: '280 g' }).click()
  await reads(page.getByTestId('own-price').first(), '€10.20')

  await page.getByRole('searchbox').fill('smok')
  await page.getByRole('option', { name: /Copper smoker/ }).click()
  await page.getByRole('heading', { name: 'Copper smoker', level: 1 }).waitFor()
  await page.getByRole('searchbox').fill('smoker')
  await page.getByRole('searchbox').press('Enter')
  await page.getByRole('heading', { name: /found for “smoker”/ }).waitFor()
  await page.goto(testUrl('/shop/search?words=unicorn'))
  await page.getByText('No results.').waitFor()

  await signIn(page, 'Aoife Keane')
  await page.goto(testUrl('/shop/product/BK-FY'))
  // 18.50 − 15 % = 15.725, to the nearest 0.05
  await reads(page.getByTestId('own-price').first(), '€15.75')
  await page.getByRole('button', { name: 'Sign out' }).click()
  await page.getByRole('link', { name: 'Sign in' }).waitFor()
  await window.close()
})

test('a product without a price says so, and an address that does not exist goes somewhere kind', async () => {
  const window = await openWindow(browser)
  const page = await window.newPage()
  await page.goto(testUrl('/shop/product/HH-OX?sku=HH-OX-275'))
  await page.getByText('Price on request').first().waitFor()
  const response = await page.goto(testUrl('/shop/product/NOT-THERE'))
  expect(response?.status()).toBe(404)
  await page.getByRole('link', { name: /shop/i }).first().waitFor()
  await window.close()
})
