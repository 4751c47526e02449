import { NOT_SAID } from '@tests/fixtures/plain-words'
import type { Browser, Page } from 'playwright-core'
import { launch, openWindow, testUrl } from './browser'
import { axe, violations } from './violations'

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
    '/board?as=group:bee-farms&find=FR-BR',
    (page) => page.locator('[data-cell="group:bee-farms"]').nth(2).click(),
  ],
  ['buyer picker', '/board?find=FR-BR', (page) => page.getByRole('button', { name: /Looking as/ }).click()],
  ['palette', '/board?find=FR-BR', (page) => page.getByRole('button', { name: /Find/ }).click()],
  ['keys', '/board?find=FR-BR', (page) => page.getByRole('button', { name: /Keys/ }).click()],
  ['products', '/products', null],
  ['product sheet', '/products/FR-BR', null],
  ['price lists', '/price-lists', null],
  ['price list sheet', '/price-lists/bee-farm-level', null],
  [
    'audience',
    '/price-lists/bee-farm-level',
    async (page) => {
      await page.getByRole('button', { name: /^Who: / }).click()
      await page.getByTestId('reach').waitFor()
    },
  ],
  ['compare', '/compare?as=account:fennmoor&find=FR-BR', null],
  ['account', '/accounts/fennmoor', null],
  ['contract', '/contracts/C-104', null],
  ['quotes', '/quotes?show=all', null],
  ['desk', '/desk', (page) => page.getByRole('button', { name: 'somebody without an account' }).click()],
  ['outbox', '/outbox', null],
  ['reports', '/reports?report=quotes', null],
  ['currency', '/currencies/GBP', null],
  ['new adjustment', '/adjustments/new', null],
  [
    'when an adjustment holds',
    '/adjustments/november-week',
    async (page) => {
      await page.locator('[data-testid=sheet][data-ready=true]').waitFor()
      await page.getByRole('button', { name: /^When: / }).click()
      await page.getByTestId('reach').waitFor()
    },
  ],
  [
    'the rule of a line',
    '/contracts/C-104',
    async (page) => {
      await page.locator('[data-testid=sheet][data-ready=true]').waitFor()
      await page.getByRole('button', { name: /^Rule for Frames: / }).click()
      await page
        .getByText(/lowest margin first/)
        .first()
        .waitFor()
    },
  ],
  ['group', '/groups/bee-farms', null],
  ['store', '/settings/settings', null],
  [
    'shop colour',
    '/settings/settings',
    async (page) => {
      await page.locator('[data-testid=sheet][data-ready=true]').waitFor()
      await page.getByRole('button', { name: /^Shop colour: / }).click()
      await page.getByRole('radiogroup', { name: 'Colours' }).waitFor()
    },
  ],
  [
    'what the board shows',
    '/board?of=Timber%3DCedar',
    async (page) => {
      await page.getByRole('button', { name: /^Showing: / }).click()
      await page.getByTestId('reach').waitFor()
    },
  ],
  ['limit', '/limits/buckets-by-the-stack', null],
  ['categories', '/categories', null],
  ['moving a category', '/categories?move=nuclei&into=queens&before=-', null],
  ['category', '/categories/frames', null],
  [
    'import',
    '/import',
    async (page) => {
      await page.locator('[data-ready=true]').waitFor()
      await page.setInputFiles('input[type=file]', {
        name: 'few.csv',
        mimeType: 'text/csv',
        buffer: Buffer.from('SKU,Name,Price\nFR-BR-PF,,x\nFR-BR-PA,,31\n'),
      })
      await page.getByRole('button', { name: 'Look at what changes' }).click()
      await page.getByRole('button', { name: /^Import \d/ }).waitFor()
    },
  ],
  ['taxes', '/taxes?sku=FR-BR-PF&country=US&state=CA', null],
  ['limits in force', '/limits-in-force', null],
  ['clashes of promotions', '/promotion-clashes', null],
  ['draft and history', '/drafts?change=3', null],
  [
    'findings',
    '/findings',
    (page) =>
      page
        .getByRole('link', { name: /below cost/ })
        .first()
        .click(),
  ],
  ['orders', '/orders?show=all', null],
  ['proofs', '/proofs', null],
  ['a proof', '/proofs/fennmoor-frames', null],
  ['reprice', '/reprice?rule=%2B4%25&ending=ends+.90', null],
  ['calendar', '/calendar?on=2027-03-15', null],
  ['price history', '/price-history?sku=FR-BR-PF&on=2026-03-03', null],
  ['who sees what', '/access', null],
  ['assortments', '/assortments', null],
  ['access rule', '/access-rules/nuclei-by-quote', null],
  [
    'cart and checkout',
    '/shop/product/PK-BK?sku=PK-BK-15',
    async (page) => {
      await page.locator('[data-ready=true]').waitFor()
      await page.getByRole('button', { name: /Add to cart/ }).click()
      await page.getByText('in the cart.').waitFor()
      await page.goto(testUrl('/shop/cart'))
      expect(await violations(page)).toEqual([])
      await page.getByRole('link', { name: 'Check out' }).click()
      await page.getByRole('heading', { name: 'Checkout' }).waitFor()
    },
  ],
  ['gate', '/shop/gate', null],
  [
    'shop with suggestions',
    '/shop',
    async (page) => {
      await page.getByRole('searchbox').fill('fr')
      await page
        .getByRole('listbox', { name: 'Products that may be meant' })
        .getByRole('option')
        .first()
        .waitFor()
    },
  ],
  ['shop category', '/shop/category/jars', null],
  ['shop window', '/look-as-buyer?as=account:fennmoor', null],
  [
    'shop product',
    '/look-as-buyer?as=account:fennmoor&page=/shop/product/FR-BR',
    async (page) => {
      await page.getByRole('button', { name: /Open the shop/ }).click()
      await page.getByTestId('own-price').first().waitFor()
    },
  ],
  ['shop sign-in', '/shop/sign-in', null],
]

/** A popover's dismiss button, hidden but for screen readers, stands outside every landmark by its nature. */
const POPOVERS: readonly string[] = ['buyer picker']

/** Two at a time: while one is loaded and waited for the other is looked through. */
const PAIRS = VIEWS.flatMap((view, at) => (at % 2 === 0 ? [[view, VIEWS[at + 1] ?? null] as const] : []))

test.each(PAIRS.map((pair) => [pair.map((view) => view?.[0] ?? '').join(', '), pair] as const))(
  '%s: no violation, by day and by night, and nothing said oddly',
  async (_names, pair) => {
    const found = await Promise.all(pair.map((view) => (view ? lookAt(view) : [])))
    expect(found.flat()).toEqual([])
  },
)

/** What is wrong with a view; each with the name of the view. */
async function lookAt([name, path, act]: (typeof VIEWS)[number]): Promise<readonly string[]> {
  const window = await openWindow(browser)
  const page = await window.newPage()
  await page.goto(testUrl(path))
  await page.getByRole('heading').first().waitFor()
  await page.waitForTimeout(250)
  await act?.(page)
  await page.waitForTimeout(150)
  const said = await page.locator('body').innerText()
  const odd = NOT_SAID.filter((words) => words.test(said)).map(String)
  const everyRule = axe(page)
  if (POPOVERS.includes(name)) everyRule.disableRules(['region'])
  const byDay = await violations(page, everyRule)
  // The same page in other colours: only what colours decide can differ.
  await page.evaluate(() => (document.documentElement.dataset['theme'] = 'plain-night'))
  await page.waitForTimeout(150)
  const byNight = await violations(page, axe(page).withRules(['color-contrast', 'link-in-text-block']))
  await window.close()
  return [...odd, ...byDay, ...byNight].map((each) => `${name}: ${each}`)
}

/** No page has frames, so its findings need not be gathered in a window of their own, which takes seconds each time. */
