import AxeBuilder from '@axe-core/playwright'
import type { Browser, Page } from 'playwright-core'
import { launch, openWindow, testUrl } from './browser'

jest.setTimeout(120_000)

let browser: Browser
beforeAll(async () => {
  browser = await launch()
})
afterAll(() => browser.close())

const VIEWS: readonly (readonly [
  name: string,
  path: string,
  act: ((page: Page) => Promise<unknown>) | null,
])[] = [
  [
    'board',
    '/board?as=group:bee-farms&in=frames-foundation',
    (page) => page.locator('[data-cell="group:bee-farms"]').nth(2).click(),
  ],
  ['buyer picker', '/board', (page) => page.getByRole('button', { name: /Looking as/ }).click()],
  ['palette', '/board', (page) => page.getByRole('button', { name: /Find/ }).click()],
  ['keys', '/board', (page) => page.getByRole('button', { name: /Keys/ }).click()],
  ['products', '/products', null],
  ['product sheet', '/products/FR-BR', null],
  ['price lists', '/price-lists', null],
  ['price list sheet', '/price-lists/bee-farm-level', null],
  [
    'audience',
    '/price-lists/bee-farm-level',
    (page) => page.getByRole('button', { name: /Who the list is for/ }).click(),
  ],
  ['shop', '/shop', null],
  ['shop category', '/shop/category/jars', null],
  ['shop product', '/look-as-buyer?as=account:fennmoor&to=/shop/product/FR-BR', null],
  ['shop sign-in', '/shop/sign-in', null],
]

describe.each(['light', 'dark'] as const)('%s', (theme) => {
  test.each(VIEWS)('%s has no violation', async (_name, path, act) => {
    const window = await openWindow(browser, theme)
    const page = await window.newPage()
    await page.goto(testUrl(path))
    await page.waitForLoadState('networkidle')
    await act?.(page)
    await page.waitForTimeout(300)
    const { violations } = await new AxeBuilder({ page }).analyze()
    expect(
      violations.map(({ id, nodes }) => `${id}: ${nodes.map(({ html }) => html.slice(0, 160)).join(' | ')}`),
    ).toEqual([])
    await window.close()
  })
})
