import type { Page } from 'playwright-core'
import { eachTestInItsOwnWindow, openWindow, reads } from './browser'
import { orderQuickly } from './quick-order'
import { withServer } from './server'
import { violations } from './violations'

jest.setTimeout(180_000)

const here = eachTestInItsOwnWindow()

async function signIn(page: Page, url: string, name: string): Promise<void> {
  await page.goto(`${url}/shop/sign-in`)
  await page.getByRole('button', { name: new RegExp(name) }).click()
  await page.waitForURL(/\/shop$/)
}

async function order(page: Page, url: string, list: string, reference: string): Promise<string> {
  await orderQuickly(page, url, list)
  await page.getByRole('link', { name: 'Check out' }).click()
  await page.getByLabel(/^Your reference/).fill(reference)
  await page.getByRole('button', { name: 'Place order' }).click()
  const heading = page.getByRole('heading', { name: /Thank you\. Your order number is \d+/ })
  await heading.waitFor()
  return /\d+/.exec(await heading.innerText())?.[0] ?? ''
}

const sum = (page: Page, label: string) =>
  page.locator('dl[aria-label=Sums] > div').filter({ hasText: label }).locator('dd')

test('an order is sent in part, the rest cancelled, invoiced, and some of it taken back, to the cent', async () => {
  await withServer(async ({ url }) => {
    const shop = here.page
    await signIn(shop, url, 'Fennmoor Honey Farm')
    const number = await order(shop, url, 'FR-BR-PF 12\nTL-JT-ST 3', 'PO 2026/118')
    const merchant = await (await openWindow(here.browser)).newPage()
    await merchant.goto(`${url}/orders`)
    await merchant.getByRole('link', { name: number }).click()
    await merchant.getByText('as their PO 2026/118').waitFor()

    // 12 × 21.65 and, three for two, 2 × 12.25; 23 % of 284.30 is 65.389.
    await reads(sum(merchant, 'Goods, without tax'), '€284.30')
    await reads(sum(merchant, 'VAT 23 %'), '€65.39')
    await reads(sum(merchant, 'Total'), '€349.69')
    await merchant.getByRole('button', { name: 'Why 21.65 for FR-BR-PF' }).click()
    await reads(merchant.getByTestId('trace-steps').locator('li').last(), /21\.65/)
    await merchant.getByText('Fennmoor agreed prices').waitFor()

    expect(await violations(merchant)).toEqual([])
    await merchant.getByRole('button', { name: 'Confirm', exact: true }).click()
    await merchant.getByRole('heading', { name: `Order ${number} · Confirmed` }).waitFor()
    await merchant.getByRole('button', { name: 'Send', exact: true }).click()
    const frames = merchant.getByRole('textbox', { name: 'How many of FR-BR-PF' })
    expect(await violations(merchant)).toEqual([])
    await frames.fill('13')
    await merchant.getByRole('button', { name: 'Mark as sent' }).click()
    await reads(
      merchant.getByRole('form').getByRole('alert'),
      'FR-BR-PF: you have 13, and at most 12 are left.',
    )
    expect(await frames.inputValue()).toBe('13')
    await frames.fill('8')
    await merchant.getByLabel('Tracking number, if there is one').fill('TN 4471')
    await merchant.keyboard.press('Enter')
    await merchant.getByRole('heading', { name: `Order ${number} · Sent in part` }).waitFor()

    // 4 of 12 frames: 86.60 and a third of their 59.75 tax.
    await merchant.getByRole('button', { name: 'Cancel', exact: true }).click()
    await reads(merchant.getByTestId('credit'), /€106\.52, of which €19\.92 tax/)
    await merchant.getByRole('button', { name: 'Cancel the order' }).click()
    await reads(merchant.getByRole('form').getByRole('alert'), 'Give a reason: the buyer reads it.')
    await merchant.getByLabel(/^Reason/).fill('Not enough pine this winter')
    await merchant.keyboard.press('Enter')
    await merchant.getByRole('heading', { name: `Order ${number} · Sent` }).waitFor()
    await reads(sum(merchant, 'To pay'), '€243.17')
    await merchant.getByRole('button', { name: 'Invoice', exact: true }).click()
    await merchant.getByRole('heading', { name: `Order ${number} · Invoiced` }).waitFor()

    // One tool of three that cost 24.50 together: 8.17 and a third of 5.64 tax.
    await merchant.getByRole('button', { name: 'Take back', exact: true }).click()
    await merchant.getByRole('textbox', { name: 'How many of TL-JT-ST' }).fill('1')
    await reads(merchant.getByTestId('credit'), /^Refund: €10\.05, of which €1\.88 tax/)
    await merchant.getByLabel(/^Reason/).fill('Bent on arrival')
    await merchant.getByLabel('Put it back into stock').uncheck()
    await merchant.getByRole('button', { name: 'Take it back' }).click()
    await reads(sum(merchant, 'To pay'), '€233.12')
    await merchant.getByText(/Took back 1 × TL-JT-ST; credit note 1: Bent on arrival/).waitFor()

    // The buyer reads the same figures, on a phone as well, and can order it again.
    await shop.setViewportSize({ width: 390, height: 844 })
    await shop.reload()
    await shop.getByText('€233.12').waitFor()
    expect(await violations(shop)).toEqual([])
    await shop.getByText('Taken back, credit note 1: Bent on arrival').waitFor()
    expect(await shop.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390)
    await shop.getByRole('button', { name: 'Order the same again' }).click()
    await shop.getByRole('heading', { name: 'Cart' }).waitFor()
    await shop.getByText('2 items').waitFor()

    // Their sheet leads to it.
    await merchant.goto(`${url}/accounts/fennmoor`)
    await merchant.getByRole('link', { name: number }).click()
    await merchant.getByRole('heading', { name: `Order ${number} · Invoiced` }).waitFor()
    await merchant.context().close()
  })
})

test('two at one order: the second is told, and nobody else’s order is reached by its number', async () => {
  await withServer(async ({ url }) => {
    const shop = here.page
    await signIn(shop, url, 'Fennmoor Honey Farm')
    const number = await order(shop, url, 'FR-BR-PF 12', '')
    const [maeve, orla] = [
      await (await openWindow(here.browser)).newPage(),
      await (await openWindow(here.browser)).newPage(),
    ]
    for (const each of [maeve, orla]) {
      await each.goto(`${url}/orders/${number}`)
      await each.getByRole('button', { name: 'Add a note' }).click()
    }
    await maeve.getByRole('textbox', { name: 'Note' }).fill('Wants it on Monday')
    await maeve.keyboard.press('Enter')
    await maeve.getByText('Wants it on Monday').waitFor()
    await orla.getByRole('textbox', { name: 'Note' }).fill('Asked about Monday')
    await orla.keyboard.press('Enter')
    await orla.getByText(/Somebody did something with this order a moment ago/).waitFor()
    expect(await orla.getByRole('textbox', { name: 'Note' }).inputValue()).toBe('Asked about Monday')
    for (const each of [maeve, orla]) await each.context().close()

    // What staff write among themselves is not the buyer's.
    await shop.goto(`${url}/shop/orders/${number}`)
    await shop.getByRole('heading', { name: `Order ${number}` }).waitFor()
    expect(await shop.getByText('Wants it on Monday').count()).toBe(0)
    await signIn(shop, url, 'Tarnside Apiaries')
    const guessed = await shop.goto(`${url}/shop/orders/${number}`)
    expect(guessed?.status()).toBe(404)
    await shop.goto(`${url}/shop/orders`)
    await shop.getByText('You have not ordered anything yet.').waitFor()
  })
})
