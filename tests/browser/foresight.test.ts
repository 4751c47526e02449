import type { Page } from 'playwright-core'
import { eachTestInItsOwnWindow, reads } from './browser'
import { withServer } from './server'

jest.setTimeout(240_000)

const here = eachTestInItsOwnWindow()

const history = (page: Page) => page.getByRole('region', { name: 'Price history' })

test('a branch is repriced by a rule: what breaks a promise is left out, and the rest is published', async () => {
  await withServer(async ({ url }) => {
    const { page } = here
    await page.goto(`${url}/reprice?of=Frames`)
    const rule = page.getByRole('textbox', { name: 'Rule' })
    await rule.fill('m100')
    await rule.press('Enter')
    await reads(page.getByRole('region', { name: 'Reprice' }).getByRole('alert'), /below 100 %/)
    await rule.fill('+4%')
    await rule.press('Enter')
    const table = page.getByRole('table', { name: 'New prices' })
    await reads(table.getByRole('row', { name: /Drone frames, 10/ }), /35\.36\+4\.0 %/)
    const rounding = page.getByRole('textbox', { name: 'Rounding' })
    await rounding.fill('ends .90')
    await rounding.press('Enter')
    await reads(table.getByRole('row', { name: /\bFR-MN\b/ }).first(), /25\.79\+4\.4 %/)
    await page.getByRole('button', { name: /^Put \d+ into a new draft$/ }).click()
    await page.waitForURL(/\/drafts\/reprice/)

    const publish = page.getByRole('form', { name: 'Publish' })
    await reads(publish.getByRole('alert'), '1 proof in the way')
    await page.getByRole('link', { name: /^All changes/ }).click()
    await page.getByRole('button', { name: /^Remove: Brood frames$/ }).click()
    await publish.getByRole('alert').waitFor({ state: 'detached' })
    await publish.getByRole('button', { name: 'Publish now' }).click()
    await page.waitForURL(/\/drafts(\?|$)/)
    await page.getByText('Draft “Reprice” published').waitFor()

    // What a buyer paid on a day in March, beside what they pay since.
    await page.goto(`${url}/price-history?sku=FR-MN&on=2026-03-15`)
    await reads(history(page).getByRole('alert'), /FR-MN is a product, sold as FR-MN-10, FR-MN-50/)
    await page.goto(`${url}/price-history?sku=FR-MN-10&on=2026-03-15`)
    await reads(
      page.getByRole('complementary', { name: 'On a day' }),
      /^€24\.80is what Guest paid on 15 March 2026/,
    )
    await reads(history(page).getByRole('row').nth(1), /€25\.90\+1\.10Draft “Reprice”/)
  })
})

test('a finding is mended in two clicks, and the draft no longer has it', async () => {
  await withServer(async ({ url }) => {
    const { page } = here
    await page.goto(`${url}/findings`)
    const loses = page.getByRole('region', { name: 'Loses money' })
    const first = loses.getByRole('listitem').first()
    const cause = (await first.getByRole('paragraph').getByRole('link').last().textContent()) ?? ''
    await first.getByRole('button').first().click()
    await page.getByText(/, in draft “Put right”/).waitFor()
    expect(cause).not.toBe('')
    expect(await loses.getByRole('link', { name: cause, exact: true }).count()).toBe(0)
    await page.goto(`${url}/findings`)
    await loses.getByRole('link', { name: cause, exact: true }).waitFor()
  })
})
