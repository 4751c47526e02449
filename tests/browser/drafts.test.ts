import type { Page } from 'playwright-core'
import { cell, eachTestInItsOwnWindow, openBoard, openWindow, reads, typeInto } from './browser'
import { withServer } from './server'
import { startDraft } from './start-draft'

jest.setTimeout(240_000)

const here = eachTestInItsOwnWindow()

const bar = (page: Page) => page.getByRole('region', { name: 'Draft', exact: true })
test('a price is raised in a draft, seen by nobody else, proved, published and taken back to the cent', async () => {
  await withServer(async ({ url }) => {
    const { page } = here
    await openBoard(page, '?find=FR-BR&as=account%3Afennmoor', url)
    await startDraft(page, 'Spring')
    await page.locator('[data-ready=true]').waitFor()
    const base = page.locator('[data-cell=base][data-row="0"]')
    await typeInto(page, base, '26.90')
    await reads(base, /live 25\.90, in the draft 26\.90/)
    await reads(cell(page, 'Pine, flat-packed, 10', 'account:fennmoor'), /21\.65.*22\.45/)
    await reads(bar(page), /1 change.*16 prices move.*1 proof breaks/)
    await cell(page, 'Pine, flat-packed, 10', 'account:fennmoor').click()
    await reads(page.getByTestId('trace-live'), /they pay €21\.65, so \+0\.80 or \+3\.7 %/)

    // Buyers see nothing of it, and the shop can be looked at through it.
    const other = await (await openWindow(here.browser)).newPage()
    await other.goto(`${url}/shop/product/FR-BR`)
    await other.getByText('€31.86').first().waitFor()
    await page.goto(`${url}/board?draft=spring`)
    await page.getByRole('button', { name: 'Shop window' }).click()
    await page.getByText('would see it with draft “Spring”').waitFor()
    await page.goto(`${url}/shop/product/FR-BR`)
    await page.getByText('€33.09').first().waitFor()

    // The review: who pays what, price by price, and what it breaks.
    await page.goto(`${url}/drafts/spring?draft=spring`)
    await page.getByText('16 prices move').waitFor()
    await page.getByRole('link', { name: 'Fennmoor Honey Farm Bee farms' }).click()
    const prices = page.getByRole('table', { name: 'Prices, worst first' })
    await prices.getByRole('link').first().click()
    await page.getByRole('table', { name: /^FR-BR-PF, Live and Draft/ }).waitFor()
    const publish = page.getByRole('form', { name: 'Publish' })
    await reads(publish.getByRole('alert'), '1 proof in the way')
    expect(await publish.getByRole('button', { name: 'Publish now' }).isDisabled()).toBe(true)

    // The promise to Fennmoor is kept by a price of their own, in the draft too.
    await openBoard(page, '?find=FR-BR&as=account%3Afennmoor&draft=spring', url)
    await typeInto(page, cell(page, 'Pine, flat-packed, 10', 'account:fennmoor'), '21.65')
    await reads(bar(page), /2 changes.*15 prices move/)
    await page.goto(`${url}/proofs?draft=spring`)
    await page.getByText(/In draft “Spring”, 7 hold/).waitFor()

    await page.goto(`${url}/drafts/spring?draft=spring`)
    await publish.getByRole('textbox', { name: 'Why', exact: true }).fill('timber round')
    await publish.getByRole('button', { name: 'Publish now' }).click()
    await page.waitForURL(/\/drafts(\?|$)/)
    await other.reload()
    await other.getByText('€33.09').first().waitFor()
    await page.getByRole('button', { name: 'Undo: Draft “Spring”: timber round' }).click()
    await page.getByText('undone since').first().waitFor()
    await other.reload()
    await other.getByText('€31.86').first().waitFor()
  })
})

test('live moves under a draft: the conflict is settled, and the draft is published by itself at its time', async () => {
  await withServer(async ({ url }) => {
    const { page } = here
    await openBoard(page, '?find=TL-SM', url)
    await startDraft(page, 'Tools')
    const base = () => page.locator('[data-cell=base][data-row="0"]')
    await typeInto(page, base(), '36.90')
    await reads(base(), /in the draft 36\.90/)
    // Somebody else changes the same price live.
    const other = await (await openWindow(here.browser)).newPage()
    await openBoard(other, '?find=TL-SM', url)
    await typeInto(other, other.locator('[data-cell=base][data-row="0"]'), '35.50')
    await reads(other.locator('[data-cell=base][data-row="0"]'), '35.50')

    await page.goto(`${url}/drafts/tools?draft=tools`)
    const conflict = page.getByRole('region', { name: /^Conflict:/ })
    await reads(conflict, /Live has moved on.*35\.50 is live.*36\.90 says the draft/)
    const publish = page.getByRole('form', { name: 'Publish' })
    expect(await publish.getByRole('button', { name: 'Publish now' }).isDisabled()).toBe(true)
    await conflict.getByRole('textbox').fill('zero')
    await conflict.getByRole('button', { name: 'Settle' }).click()
    await reads(conflict.getByRole('alert'), /“zero”/)
    await conflict.getByRole('textbox').fill('36.40')
    await conflict.getByRole('button', { name: 'Settle' }).click()
    await conflict.waitFor({ state: 'detached' })

    // In the past it cannot be published; in a moment it is, by itself.
    const when = publish.getByRole('textbox', { name: /^When/ }).or(publish.getByLabel(/^When/))
    await when.fill('2026-01-01T00:00')
    await publish.getByRole('button', { name: 'Publish then' }).click()
    await reads(publish.getByRole('alert'), /That time is over/)
    // The server believes to have started at ten.
    const soon = await other.getByRole('button', { name: /^On today, / }).textContent()
    const [hour = 10, minute = 0] = (soon?.match(/\d+/g) ?? []).map(Number)
    const at = new Date(Date.UTC(2026, 10, 25, hour, minute + 1))
    await when.fill(at.toISOString().slice(0, 16))
    await publish.getByRole('button', { name: 'Publish then' }).click()
    await page.getByText('It is published by itself on').waitFor()
    const live = other.locator('[data-cell=base][data-row="0"]')
    for (let tries = 0; tries < 60; tries += 1) {
      await openBoard(other, '?find=TL-SM', url)
      if ((await live.textContent())?.trim() === '36.40') break
      await new Promise((resolve) => setTimeout(resolve, 2_000))
    }
    await reads(live, '36.40')
    await page.goto(`${url}/drafts`)
    await page.getByText('Draft “Tools” published').waitFor()
  })
})
