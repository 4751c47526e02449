import { type Browser, type BrowserContext, chromium, type Locator, type Page } from 'playwright-core'

const ARGUMENTS = [
  '--no-sandbox',
  '--disable-gpu',
  '--disable-quic',
  '--disable-background-networking',
  '--disable-component-update',
  '--disable-sync',
  '--disable-dev-shm-usage',
]

/** Debian's Chromium. */
export function launch(): Promise<Browser> {
  return chromium.launch({ executablePath: '/usr/bin/chromium', args: ARGUMENTS })
}

/** Where the server of the browser tests answers: each of Jest's workers has its own. */
export function testUrl(path = ''): string {
  return `${process.env[`STEPPE_TEST_URL_${process.env['JEST_WORKER_ID'] ?? '1'}`]}${path}`
}

/** Somebody's own window, with nothing of anybody else's in it, past the first look's hints. */
export async function openWindow(
  browser: Browser,
  theme: 'light' | 'dark' = 'light',
): Promise<BrowserContext> {
  const context = await browser.newContext({ viewport: { width: 1280, height: 800 }, colorScheme: theme })
  context.setDefaultTimeout(15_000)
  await context.addInitScript(() => localStorage.setItem('steppe-first-look', '99'))
  return context
}

/** A browser for a test file, and a fresh window for each of its tests. */
export function eachTestInItsOwnWindow(): { readonly browser: Browser; readonly page: Page } {
  let browser: Browser
  let window: BrowserContext
  let page: Page
  beforeAll(async () => {
    browser = await launch()
  })
  afterAll(() => browser.close())
  beforeEach(async () => {
    window = await openWindow(browser)
    page = await window.newPage()
  })
  afterEach(() => window.close())
  return {
    get browser() {
      return browser
    },
    get page() {
      return page
    },
  }
}

/** Opens a place of the merchant's frame and waits until its grid answers. */
export async function openBoard(page: Page, query: string, url = testUrl()): Promise<void> {
  await page.goto(`${url}/board${query}`)
  await page.locator('[data-ready=true]').waitFor()
}

/** A cell of a grid, by a text of its row and its column's key. */
export function cell(page: Page, row: string, column: string): Locator {
  return page.locator('[role=row]', { hasText: row }).locator(`[data-cell="${column}"]`).first()
}

/** Types into a cell as a merchant does. */
export async function typeInto(page: Page, target: Locator, text: string): Promise<void> {
  await target.dblclick()
  const input = target.locator('input')
  await input.fill(text)
  await input.press('Enter')
}

/** Waits until a place reads as expected, and says what it read if it never did. */
export async function reads(place: Locator, expected: string | RegExp): Promise<void> {
  let text = ''
  for (let tries = 0; tries < 150; tries += 1) {
    text = (await place.textContent())?.replace(/\s+/g, ' ').trim() ?? ''
    if (typeof expected === 'string' ? text === expected : expected.test(text)) return
    await new Promise((resolve) => setTimeout(resolve, 100))
  }
  throw new Error(`expected ${String(expected)}, read “${text}”`)
}
