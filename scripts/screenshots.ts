// `npm run screenshots`: the pictures of docs/screenshots, from the built application and the demo data.
import { mkdirSync } from 'node:fs'
import { join } from 'node:path'
import type { Page } from 'playwright-core'
import { cell, launch, openWindow } from '../tests/browser/browser'
import { orderQuickly, pasteQuickOrder } from '../tests/browser/quick-order'
import { withServer } from '../tests/browser/server'

interface Shot {
  readonly name: string
  readonly path: string
  readonly theme?: 'light' | 'dark'
  readonly act?: (page: Page) => Promise<unknown>
}

const FRAMES = 'in=frames-foundation'
/** The quote of the demo that its buyer has answered. */
const ANSWERED = 1004

const SHOTS: readonly Shot[] = [
  {
    name: 'board',
    path: `/board?as=account:fennmoor&buying=12&${FRAMES}`,
    act: (page) => cell(page, 'Pine, flat-packed, 10', 'account:fennmoor').click(),
  },
  {
    name: 'board-dark',
    path: `/board?as=group:distributors&${FRAMES}`,
    theme: 'dark',
    act: (page) => cell(page, 'Cedar, assembled, 10', 'group:distributors').click(),
  },
  {
    name: 'what-picker',
    path: '/price-lists/spring-build-up',
    act: async (page) => {
      await page.locator('[data-testid=sheet][data-ready=true]').waitFor()
      await page.getByRole('button', { name: 'Frames', exact: true }).click()
      await page
        .getByTestId('reach')
        .getByText(/variants of/)
        .waitFor()
    },
  },
  {
    name: 'findings',
    path: '/findings',
    act: (page) =>
      page
        .getByRole('link', { name: /below cost/ })
        .first()
        .click(),
  },
  {
    name: 'reprice',
    path: '/reprice?rule=%2B5%25%3B+20%3A+%2B4%25%3B+60%3A+%2B3%25&ending=ends+.90',
  },
  {
    name: 'review',
    path: '/reprice?of=Frames&rule=%2B4%25&ending=ends+.90',
    act: async (page) => {
      await page.getByRole('button', { name: /^Put \d+ into/ }).click()
      await page.waitForURL(/\/drafts\//)
      await page.getByRole('link', { name: 'Fennmoor Honey Farm Bee farms' }).click()
      const prices = page.getByRole('table', { name: 'Prices, worst first' })
      await prices.getByRole('link').first().click()
      await page.getByRole('table', { name: /Live and Draft/ }).waitFor()
      // Without what was said when the draft was made.
      await page.reload()
      await page.getByRole('table', { name: /Live and Draft/ }).waitFor()
    },
  },
  // Through the draft of the picture before.
  { name: 'proofs', path: '/proofs?draft=reprice' },
  { name: 'buyer', path: '/accounts/fennmoor' },
  { name: 'contract', path: '/contracts/C-104' },
  { name: 'promotion', path: '/promotions/frame-mix?on=2027-02-01T10:00Z&as=group:retail' },
  { name: 'shop', path: '/shop' },
  {
    name: 'shop-product',
    path: '/look-as-buyer?as=account:fennmoor&page=/shop/product/FR-BR',
    act: async (page) => {
      await page.getByRole('button', { name: /Open the shop/ }).click()
      await page.getByTestId('own-price').first().waitFor()
    },
  },
  {
    name: 'shop-cart',
    path: '/shop/product/PK-BK?sku=PK-BK-15',
    act: async (page) => {
      const put = async () => {
        await page.locator('[data-ready=true]').waitFor()
        await page.getByRole('textbox', { name: /^Quantity of/ }).fill('7')
        await page.getByRole('button', { name: /Add to cart/ }).click()
        await page.getByText('in the cart.').waitFor()
      }
      await put()
      const { origin } = new URL(page.url())
      await page.goto(`${origin}/shop/product/BK-FY`)
      await put()
      await page.goto(`${origin}/shop/cart`)
    },
  },
  {
    name: 'shop-quick-order',
    path: '/look-as-buyer?as=account:fennmoor&page=/shop/quick',
    act: async (page) => {
      await page.getByRole('button', { name: /Open the shop/ }).click()
      await page.waitForURL(/\/shop\/quick/)
      await pasteQuickOrder(page, new URL(page.url()).origin, WANTED)
    },
  },
  {
    name: 'order',
    path: '/look-as-buyer?as=account:fennmoor&page=/shop/quick',
    act: async (page) => {
      await page.getByRole('button', { name: /Open the shop/ }).click()
      await page.waitForURL(/\/shop\/quick/)
      const { origin } = new URL(page.url())
      await orderQuickly(page, origin, 'FR-BR-PF 24\nPK-JR-340 24\nTL-JT-ST 3\nCL-JK-M 2')
      await page.getByRole('link', { name: 'Check out' }).click()
      await page.getByLabel(/^Your reference/).fill('PO 2026/118')
      await page.getByRole('button', { name: 'Place order' }).click()
      await page.waitForURL(/\/shop\/orders\/\d+/)
      await page.goto(`${origin}${new URL(page.url()).pathname.replace('/shop', '')}`)
      await page.getByRole('button', { name: /^Why .* for FR-BR-PF$/ }).click()
    },
  },
  {
    name: 'quote',
    path: `/quotes/${ANSWERED}`,
    act: async (page) => {
      await page.getByRole('textbox', { name: 'Offered price of line 2' }).fill('-6%')
      await page.getByText('= 21.45').waitFor()
    },
  },
  {
    name: 'shop-quote',
    path: `/look-as-buyer?as=account:gorseback&page=/shop/quotes/${ANSWERED}`,
    act: async (page) => {
      const merchant = await page.context().newPage()
      await merchant.goto(`${new URL(page.url()).origin}/quotes/${ANSWERED}`)
      await merchant.getByRole('textbox', { name: 'Offered price of line 3' }).fill('19.40')
      await merchant.getByRole('textbox', { name: 'Message with the offer' }).fill('Sheets at 19.40, Orla.')
      await merchant.locator('table[aria-label=Offer][data-ready=true]').waitFor()
      await merchant.getByRole('button', { name: 'Send this offer' }).click()
      await merchant.getByText('19.79 → 19.40').waitFor()
      await merchant.close()
      await page.getByRole('button', { name: /Open the shop/ }).click()
      await page.getByTestId('quote-total').waitFor()
    },
  },
  {
    name: 'desk',
    path: '/desk',
    act: async (page) => {
      await page.locator('[data-testid=desk][data-ready=true]').waitFor()
      const { keyboard } = page
      await keyboard.press('Alt+b')
      await keyboard.type('tarn')
      await page.locator('ul[data-settled=true]').getByText('Tarnside').waitFor()
      await keyboard.press('Enter')
      for (const typed of [
        'fr-br-pf 10',
        'pk-jr-340 24',
        'wf-br-w10 10',
        'pk-bk-15 7',
        'fd-fo-12 8',
        'fr-su 20',
      ]) {
        await page.locator('input[data-settled]').focus()
        await keyboard.type(typed)
        await page.locator('input[data-settled=true]').waitFor()
        if (typed.startsWith('fr-su')) break
        await keyboard.press('Enter')
        await page.locator('table[aria-label=Lines][data-ready=true]').waitFor()
      }
    },
  },
  { name: 'report', path: '/reports' },
]

/** What is pasted, with three lines that need a look. */
const WANTED =
  'FR-BR-PF\t20\nWF-BR-W10\t30\nPK-JH-280\t40\nPK-BK-15\t30\nFR-BR-PX\t10\nQU-RK\t9\nPK-LD-63G\t12'

const FOLDER = 'docs/screenshots'

async function main(): Promise<void> {
  mkdirSync(FOLDER, { recursive: true })
  await withServer(
    async (server) => {
      const browser = await launch()
      for (const { name, path, theme = 'light', act } of SHOTS) {
        const window = await openWindow(browser, theme)
        const page = await window.newPage()
        await page.goto(server.url + path)
        await page.waitForLoadState('networkidle')
        await act?.(page)
        await page.waitForTimeout(700)
        await page.screenshot({ path: join(FOLDER, `${name}.png`) })
        await window.close()
      }
      await browser.close()
    },
    undefined,
    'with-orders',
  )
}

main().catch((error: unknown) => {
  console.error(error)
  process.exit(1)
})
