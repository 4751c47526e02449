import type { Page } from 'playwright-core'
import { eachTestInItsOwnWindow, openWindow, reads } from './browser'
import { mailed } from './mailed'
import { orderQuickly } from './quick-order'
import { withServer } from './server'
import { violations } from './violations'

jest.setTimeout(180_000)

const here = eachTestInItsOwnWindow()

async function signIn(page: Page, url: string, name: string): Promise<void> {
  await page.goto(`${url}/shop/sign-in`)
  await page.getByRole('button', { name: new RegExp(`^${name}`) }).click()
  await page.waitForURL(/\/shop$/)
}

test('an order at the desk by keyboard alone: a declined gift, a price by hand, what is wrong put right', async () => {
  await withServer(async ({ url }) => {
    const { page } = here
    const { keyboard } = page
    const settled = () => page.locator('table[aria-label=Lines][data-ready=true]').waitFor()
    await page.goto(`${url}/desk`)
    await page.locator('[data-testid=desk][data-ready=true]').waitFor()
    await keyboard.press('Alt+b')
    await keyboard.type('tarn')
    await page.locator('ul[aria-label=Buyers][data-settled=true]').getByText('Tarnside Apiaries').waitFor()
    await keyboard.press('Enter')
    await page.getByRole('button', { name: 'Tarnside Apiaries' }).waitFor()
    for (const typed of ['fr-br-pf 10', 'pk-jr-340 24', 'pk-bk-15 7']) {
      await keyboard.type(typed)
      await page.locator('input[data-settled=true]').waitFor()
      await page.getByRole('table', { name: 'Found' }).waitFor()
      await keyboard.press('Enter')
      await settled()
    }
    await page.getByText('1 line is in the way: Honey bucket, 15 kg').waitFor()
    // A server that does not answer is not one that found nothing.
    await page.route('**/api/desk/find', (route) => route.abort())
    await keyboard.type('smoker')
    await page.getByText('The server does not answer. Type on to ask again.').waitFor()
    expect(await page.getByText('Nothing is called so.').count()).toBe(0)
    await page.unroute('**/api/desk/find')
    await keyboard.press('Escape')
    expect(await page.getByRole('button', { name: /Place the order/ }).isEnabled()).toBe(false)
    expect(await violations(page)).toEqual([])
    await keyboard.press('Alt+m')
    await page.locator('[data-row="2"][data-field="quantity"]').and(page.locator('[value="12"]')).waitFor()
    // 228.00, 184.80 and 76.20 without tax.
    await settled()
    await reads(page.getByTestId('desk-total'), '€601.47')

    // The gift is left: nothing is free, and nothing changes.
    await page.getByRole('group', { name: 'The thirteenth jar' }).waitFor()
    await keyboard.press('Alt+1')
    await page.getByText('+ 2').or(page.getByText('The thirteenth jar').nth(1)).first().waitFor()
    await keyboard.press('Alt+1')
    await page
      .getByRole('group', { name: 'The thirteenth jar' })
      .getByRole('button', { name: 'Leave', pressed: true })
      .waitFor()
    await settled()
    await reads(page.getByTestId('desk-total'), '€601.47')

    // Frames for 20.00, since a box is dented: 28.00 less without tax.
    await page.locator('[data-row="0"][data-field="quantity"]').focus()
    await keyboard.press('Alt+p')
    await keyboard.type('20')
    await page.getByText('Say why the price is set by hand.').waitFor()
    await keyboard.press('Tab')
    await page.getByRole('textbox', { name: 'Reason for the price of line 1' }).focus()
    await keyboard.type('box is dented')
    await settled()
    await reads(page.getByTestId('desk-total'), '€567.03')
    await keyboard.press('Control+Enter')
    await page.waitForURL(/\/orders\/\d+/)
    await page.getByText('placed for them by Merchant').waitFor()
    await page.getByRole('button', { name: 'Why 20.00 for FR-BR-PF' }).click()
    await page.getByText('Set by Merchant: box is dented').waitFor()
  })
})

test('two colleagues and one list; and an order that one of them may not place alone', async () => {
  await withServer(async ({ url }) => {
    const orla = here.page
    await signIn(orla, url, 'Orla Duggan')
    await orla.goto(`${url}/shop/lists`)
    await orla.getByLabel('A new list').fill('Spring order')
    await orla.getByRole('button', { name: 'Make the list' }).click()
    await orla.waitForURL(/lists\/[0-9a-f-]{36}/)
    await orla.getByLabel(/^Add items/).fill('FR-BR-PF 30\nTL-JT-ST 2\nNO-SUCH 1')
    await orla.getByRole('button', { name: 'Add', exact: true }).click()
    await orla.getByText('Nothing here has the SKU NO-SUCH. The rest was added.').waitFor()
    expect(await violations(orla)).toEqual([])

    const cathal = await (await openWindow(here.browser)).newPage()
    await signIn(cathal, url, 'Cathal Roe')
    await cathal.goto(orla.url())
    const frames = cathal.getByRole('textbox', { name: 'Quantity of FR-BR-PF' })
    await frames.fill('40')
    await frames.press('Enter')
    await cathal.getByText('912.00').waitFor()
    // She still sees thirty.
    const hers = orla.getByRole('textbox', { name: 'Quantity of FR-BR-PF' })
    await hers.fill('20')
    await hers.press('Enter')
    await orla.getByText(/Cathal Roe made it 40 a moment ago/).waitFor()

    await cathal.getByRole('button', { name: 'Add all to cart' }).click()
    await cathal.waitForURL(/\/shop\/cart/)
    await cathal.goto(`${url}/shop/checkout`)
    await cathal.getByText('This is more than you order alone. Orla Duggan decides').waitFor()
    await cathal.getByLabel('Street', { exact: true }).fill('Quay 1')
    await cathal.getByRole('button', { name: 'Send for approval' }).click()
    await cathal.getByRole('heading', { name: 'Sent for approval' }).waitFor()

    await orla.goto(`${url}/shop/account`)
    expect(await violations(orla)).toEqual([])
    await orla.getByRole('link', { name: /Cathal Roe.*waits/ }).click()
    // 40 × 22.80 and 2 × 12.25 without tax, 23 % on it.
    await reads(orla.getByTestId('sum-Total'), '€1,151.90')
    await orla.getByRole('button', { name: 'Let it through and order' }).click()
    await orla.waitForURL(/\/shop\/orders\/\d+/)
    const merchant = await (await openWindow(here.browser)).newPage()
    await mailed(merchant, `${url}/outbox?words=cathal`, /Your order was let through/)
  })
})

test('on a telephone nothing of the buyer’s side is wider than it', async () => {
  await withServer(async ({ url }) => {
    const { page } = here
    await page.setViewportSize({ width: 390, height: 844 })
    await signIn(page, url, 'Orla Duggan')
    await orderQuickly(page, url, 'FR-BR-PF 12')
    const fits = async (path: string) => {
      await page.goto(`${url}${path}`)
      await page.locator('h1, input[aria-label="Name of the list"]').first().waitFor()
      expect([path, await page.evaluate(() => document.documentElement.scrollWidth)]).toEqual([path, 390])
    }
    await fits('/shop/cart')
    await page.getByRole('button', { name: 'Keep it as a list' }).click()
    await page.waitForURL(/lists\/[0-9a-f-]{36}/)
    await fits(new URL(page.url()).pathname)
    await page.goto(`${url}/shop/quotes/new?from=cart`)
    await page.getByRole('button', { name: 'Ask for a quote on 1 item' }).click()
    await page.waitForURL(/shop\/quotes\/\d+/)
    const quote = new URL(page.url()).pathname
    const merchant = await (await openWindow(here.browser)).newPage()
    await merchant.goto(`${url}${quote.replace('/shop', '')}`)
    await merchant.getByRole('textbox', { name: 'Offered price of line 1' }).fill('21')
    await reads(merchant.getByTestId('offer-total'), /\d/)
    await merchant.locator('table[aria-label=Offer][data-ready=true]').waitFor()
    await merchant.getByRole('button', { name: 'Send the offer' }).click()
    await reads(merchant.getByTestId('quote-state'), 'offered')
    for (const path of [
      quote,
      '/shop/quotes',
      '/shop/quotes/new',
      '/shop/lists',
      '/shop/account',
      '/shop/orders',
    ])
      await fits(path)
    expect(await violations(page)).toEqual([])
    await page.goto(`${url}${quote}`)
    await page.getByRole('button', { name: 'Accept and order' }).click()
    await page.getByRole('heading', { name: /Thank you\. Your order number is \d+/ }).waitFor()
    await fits(new URL(page.url()).pathname)
  })
})

test('a report opens the orders it is made of, and says so in a file', async () => {
  await withServer(async ({ url }) => {
    const { page } = here
    await signIn(page, url, 'Fennmoor Honey Farm')
    await orderQuickly(page, url, 'FR-BR-PF 12')
    await page.goto(`${url}/shop/checkout`)
    await page.getByRole('button', { name: 'Place order' }).click()
    await page.getByRole('heading', { name: /Thank you/ }).waitFor()
    await page.goto(`${url}/reports`)
    const row = (name: string) => page.getByRole('row').filter({ hasText: name }).locator('td').first()
    // Twelve at 25.90, which Fennmoor have for 21.65.
    await reads(row('At base prices'), '310.80')
    await reads(row('Contracts'), '−51.00')
    await reads(row('Paid'), '259.80')
    expect(await violations(page)).toEqual([])
    await page.getByRole('button', { name: 'Sales and margin' }).click()
    await page.getByLabel('By', { exact: true }).selectOption('list')
    await reads(row('Fennmoor agreed prices'), '1')
    const file = await page.request.get(`${url}/api/reports?report=sales&by=list`)
    expect(await file.text()).toContain('Fennmoor agreed prices,1,259.8,157.2,39.5')
    await page.getByRole('link', { name: '259.80' }).click()
    await page.getByText('with prices of Fennmoor agreed prices').waitFor()
    await page.getByRole('link', { name: /^1\d{4}$/ }).waitFor()
  })
})
