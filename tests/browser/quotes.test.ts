import type { Page } from 'playwright-core'
import { eachTestInItsOwnWindow, openWindow, reads } from './browser'
import { mailed } from './mailed'
import { withServer } from './server'
import { axe, violations } from './violations'

jest.setTimeout(180_000)

const here = eachTestInItsOwnWindow()

/** Signs in as somebody of an account, or as the account. */
async function signIn(page: Page, url: string, name: string): Promise<void> {
  await page.goto(`${url}/shop/sign-in`)
  await page.getByRole('button', { name: new RegExp(`^${name}`) }).click()
  await page.waitForURL(/\/shop$/)
}

const sum = (page: Page, label: string) =>
  page.locator('dl[aria-label=Sums] > div').filter({ hasText: label }).locator('dd')
const shopSum = (page: Page, label: string) =>
  page.locator('dl > div').filter({ hasText: label }).locator('dd')

test('a quote is asked for, priced line by line, answered, mailed, accepted, and a part of it sent back, to the cent', async () => {
  await withServer(async ({ url }) => {
    const buyer = here.page
    await signIn(buyer, url, 'Orla Duggan')
    await buyer.goto(`${url}/shop/quotes/new?line=48+FR-BR-PF&line=2+TL-JT-ST`)
    await reads(buyer.getByRole('row').filter({ hasText: 'Brood frames' }).locator('td').nth(4), '1,094.40')
    await buyer.getByRole('textbox', { name: 'Wished price of line 1' }).fill('21.00')
    await buyer.getByLabel('Message').fill('All at once, in May')
    const attach = buyer.getByLabel(/^Attach/)
    await attach.setInputFiles({ name: 'stand.exe', mimeType: 'text/plain', buffer: Buffer.from('MZ') })
    await buyer.getByText('“stand.exe” cannot be sent along').waitFor()
    await attach.setInputFiles({
      name: 'stand.pdf',
      mimeType: 'application/pdf',
      buffer: Buffer.from('%PDF-1.7 a stand'),
    })
    await buyer.getByRole('button', { name: 'Leave out stand.pdf' }).waitFor()
    await buyer.getByRole('button', { name: 'Ask for a quote on 2 items' }).click()
    await buyer.getByRole('heading', { name: 'Thank you. We answer soon' }).waitFor()
    const sent = await buyer.getByRole('link', { name: 'stand.pdf' }).getAttribute('href')
    expect((await buyer.request.get(`${url}${sent}`)).headers()['content-disposition']).toContain('stand.pdf')
    expect((await fetch(`${url}${sent}`)).status).toBe(404)
    const number = /quotes\/(\d+)/.exec(buyer.url())?.[1] ?? ''

    const merchant = await (await openWindow(here.browser)).newPage()
    await merchant.goto(`${url}/quotes`)
    await merchant.getByRole('link', { name: `Q-${number}` }).click()
    await merchant.getByText('wishes 21.00').waitFor()
    const [file] = await Promise.all([
      merchant.waitForEvent('download'),
      merchant.getByRole('link', { name: 'stand.pdf' }).click(),
    ])
    expect(file.suggestedFilename()).toBe('stand.pdf')
    // 48 × 22.80 and 2 × 12.25.
    await reads(sum(merchant, 'Offer'), '1,118.90')
    const price = merchant.getByRole('textbox', { name: 'Offered price of line 1' })
    // 13.10 ÷ 13.50 leaves 3 %: less than staff may give.
    await price.fill('13.50')
    await merchant.getByRole('button', { name: 'Ask for approval' }).waitFor()
    await price.fill('-6%')
    await merchant.getByText('= 21.45').waitFor()
    await price.press('Enter')
    await merchant.getByRole('textbox', { name: 'Offered price of line 2' }).fill('12')
    await reads(sum(merchant, 'Offer'), '1,053.60')
    // 23 % of 1,029.60 and of 24.00: 236.81 and 5.52.
    await reads(merchant.getByTestId('offer-total'), '1,295.93')
    await reads(sum(merchant, 'At their prices'), '1,118.90')
    await reads(merchant.getByTestId('offer-margin'), '39.1 %')
    expect(await violations(merchant)).toEqual([])
    // Something else is offered instead of the hive tools: it counts only where it is taken.
    await merchant.getByRole('textbox', { name: 'Quantity of line 2' }).focus()
    await merchant.getByLabel(/^instead of J-type/).check()
    await merchant.getByRole('textbox', { name: 'Add an item' }).fill('tl-jt-yl')
    await merchant.getByRole('button', { name: 'TL-JT-YL' }).waitFor()
    await merchant.getByRole('textbox', { name: 'Add an item' }).press('Enter')
    await merchant.getByText('or instead of line 2:').waitFor()
    await merchant.locator('table[aria-label=Offer][data-ready=true]').waitFor()
    await reads(merchant.getByTestId('offer-total'), '1,295.93')
    await merchant.getByRole('textbox', { name: 'Message with the offer' }).fill('Frames at 21.45, Orla.')
    await merchant.getByRole('button', { name: 'Send the offer' }).click()
    await reads(merchant.getByTestId('quote-state'), 'offered')

    // The mail as she reads it.
    const about = `${url}/outbox?words=Q-${number}`
    await (await mailed(merchant, about, /Our offer for quote/)).click()
    const mail = merchant.frameLocator('iframe')
    await mail.getByText('Frames at 21.45, Orla.').waitFor()
    await mail.getByText('€1,295.93', { exact: true }).waitFor()
    expect(await violations(merchant, axe(merchant).exclude('iframe'))).toEqual([])

    await buyer.goto(`${url}/shop/quotes/${number}`)
    await reads(buyer.getByTestId('quote-total'), '€1,295.93')
    await reads(shopSum(buyer, 'You save'), '€65.30')
    expect(await violations(buyer)).toEqual([])
    // She answers, and is answered with another price for the second line.
    await buyer.getByRole('button', { name: 'Answer' }).click()
    await buyer.getByLabel('What would settle it?').fill('Hive tools at 11.50?')
    await buyer.getByRole('button', { name: 'Send', exact: true }).click()
    await reads(buyer.getByTestId('quote-state').locator('b'), 'Waiting for our answer')
    await merchant.goto(`${url}/quotes/${number}`)
    await merchant.getByText('Hive tools at 11.50?').waitFor()
    await merchant.getByRole('textbox', { name: 'Offered price of line 2' }).fill('11.50')
    // 1,029.60 + 23.00 with 236.81 + 5.29.
    await reads(merchant.getByTestId('offer-total'), '1,294.70')
    await merchant.getByRole('button', { name: 'Send this offer' }).click()
    await merchant.getByText('J-type hive tool, stainless 12.00 → 11.50').waitFor()

    await buyer.goto(`${url}/shop/quotes/${number}`)
    await buyer.getByText('first 12.00').waitFor()
    await buyer.getByLabel('Your reference, if you have one').fill('PO 31')
    await buyer.getByRole('button', { name: 'Accept and order' }).click()
    const heading = buyer.getByRole('heading', { name: /Thank you\. Your order number is \d+/ })
    const order = /\d+/.exec(await heading.innerText())?.[0] ?? ''

    await merchant.goto(`${url}/orders/${order}`)
    await reads(sum(merchant, 'Total'), '€1,294.70')
    await merchant.getByRole('button', { name: 'Why 21.45 for FR-BR-PF' }).click()
    await reads(merchant.getByTestId('trace-steps').locator('li').last(), /Quote \d+ agreed\s*21\.45/)
    await merchant.getByRole('button', { name: 'Confirm', exact: true }).click()
    await merchant.getByRole('heading', { name: `Order ${order} · Confirmed` }).waitFor()
    await merchant.getByRole('button', { name: 'Send', exact: true }).click()
    await merchant.getByRole('button', { name: 'Mark as sent' }).click()
    await merchant.getByRole('heading', { name: `Order ${order} · Sent` }).waitFor()
    await merchant.getByRole('button', { name: 'Invoice', exact: true }).click()
    await merchant.getByRole('heading', { name: `Order ${order} · Invoiced` }).waitFor()
    await merchant.getByRole('button', { name: 'Take back', exact: true }).click()
    await merchant.getByRole('textbox', { name: 'How many of FR-BR-PF' }).fill('12')
    // A quarter of 1,029.60 and of 236.81.
    await reads(merchant.getByTestId('credit'), /€316\.60, of which €59\.20 tax/)
    await merchant.getByLabel(/^Reason/).fill('One apiary less')
    await merchant.getByRole('button', { name: 'Take it back' }).click()
    await reads(sum(merchant, 'To pay'), '€978.10')
  })
})

test('a guest may ask only for what is sold by quote, a refused quote is answered anew, and somebody else’s is not there', async () => {
  await withServer(async ({ url }) => {
    const guest = here.page
    await guest.goto(`${url}/shop/product/FR-BR`)
    await guest.getByRole('button', { name: /Add to cart/ }).waitFor()
    expect(await guest.getByRole('link', { name: 'Ask for a quote' }).count()).toBe(0)
    await guest.goto(`${url}/shop/quotes/new?line=5+FR-BR-PF`)
    await guest.getByText('We make no quotes on this. It can be bought at its price.').waitFor()

    await guest.goto(`${url}/shop/category/nuclei`)
    await guest.getByRole('link', { name: 'Ask for a quote' }).first().click()
    await guest.getByRole('button', { name: 'Ask for a quote on 1 item' }).click()
    await guest.getByText('Write it like name@example.com.').waitFor()
    for (const [label, value] of [
      [/^Name/, 'Ann Ryan'],
      [/^E-mail/, 'ann@example.com'],
      [/^Street/, 'Quay 1'],
      [/^City/, 'Sligo'],
    ] as const)
      await guest.getByLabel(label).fill(value)
    await guest.getByRole('button', { name: 'Ask for a quote on 1 item' }).click()
    await guest.getByRole('heading', { name: 'Thank you. We answer soon' }).waitFor()
    const number = /quotes\/(\d+)/.exec(guest.url())?.[1] ?? ''

    const merchant = await (await openWindow(here.browser)).newPage()
    await merchant.goto(`${url}/quotes/${number}`)
    await merchant.getByRole('button', { name: 'Refuse', exact: true }).click()
    await merchant.getByLabel('Why there is no offer; they read it').fill('Sold out until May.')
    await merchant.getByRole('button', { name: 'Refuse', exact: true }).click()
    await reads(merchant.getByTestId('quote-state'), 'refused')
    await guest.reload()
    await guest.getByText('Sold out until May.').waitFor()
    await guest.getByRole('button', { name: 'Write to us' }).click()
    await guest.getByLabel('What would settle it?').fill('May is fine.')
    await guest.getByRole('button', { name: 'Send', exact: true }).click()
    // Sent, not only pressed: what was typed stands among what was said.
    await guest.getByLabel('What would settle it?').waitFor({ state: 'detached' })
    await merchant.reload()
    await reads(merchant.getByTestId('quote-state'), 'answered')

    const other = await (await openWindow(here.browser)).newPage()
    await signIn(other, url, 'Fennmoor Honey Farm')
    for (const path of [`/shop/quotes/${number}`, `/shop/quotes/${number}/paper`])
      expect((await other.request.get(`${url}${path}`)).status()).toBe(404)
  })
})
