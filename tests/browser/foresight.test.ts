import type { Page } from 'playwright-core'
import { cell, eachTestInItsOwnWindow, openBoard, openWindow, reads } from './browser'
import { withServer } from './server'
import { save, setWord, settled } from './sheet-words'
import { startDraft } from './start-draft'

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

test('costs of a part of a branch rise: what falls below cost is told, and a row is left out', async () => {
  await withServer(async ({ url }) => {
    const { page } = here
    await page.goto(`${url}/reprice?of=Hives&field=cost&rule=%2B45%25`)
    const table = page.getByRole('table', { name: 'New prices' })
    const rows = page.getByText(/^\d+ rows/)
    const all = Number(/\d+/.exec((await rows.textContent()) ?? '')?.[0])
    await page.getByRole('combobox', { name: 'Which of it' }).selectOption({ label: 'with System National' })
    await page.waitForURL(/only=has/)
    await reads(rows, new RegExp(`^(?!${all} )\\d+ rows`))
    expect(await table.getByRole('row', { name: /Top-bar/ }).count()).toBe(0)
    await table
      .getByRole('checkbox', { name: /^Change / })
      .first()
      .uncheck()
    await page.getByText(', 1 left out').waitFor()
    await page.getByRole('button', { name: /^Put \d+ into a new draft$/ }).click()
    await page.waitForURL(/\/drafts\/reprice/)
    const before = page.getByRole('complementary', { name: 'Before it can be published' })
    await reads(before, /Below cost: \d+/)
    await page
      .getByRole('navigation', { name: 'Parts of the review' })
      .getByRole('link', { name: /^Contracts [1-9]/ })
      .click()
    await page.getByRole('list', { name: 'Contracts' }).getByRole('link').first().waitFor()
  })
})

test('a temporary decrease: at once by its switch, and in a draft when that is published', async () => {
  await withServer(async ({ url }) => {
    const { page } = here
    const guest = await (await openWindow(here.browser)).newPage()
    const price = async (text: RegExp) => {
      await openBoard(guest, '?find=HV-NAT-PF', url)
      await reads(cell(guest, 'Pine, flat-packed', 'guest'), text)
    }
    await page.goto(`${url}/adjustments/timber-surcharge`)
    await settled(page)
    await setWord(page, 'Moves prices by', '5 % less')
    await save(page)
    await price(/^268\.00$/)
    await page.getByRole('button', { name: 'Switch on' }).click()
    await page.getByRole('button', { name: 'Switch off' }).waitFor()
    // 268.00 less 5 %.
    await price(/^A254\.60$/)
    await page.getByRole('button', { name: 'Switch off' }).click()
    await page.getByRole('button', { name: 'Switch on' }).waitFor()
    await price(/^268\.00$/)

    await startDraft(page, 'Sale')
    await page.getByRole('button', { name: 'Switch on' }).click()
    await page.getByRole('button', { name: 'Switch off' }).waitFor()
    await price(/^268\.00$/)
    await page.goto(`${url}/drafts/sale?draft=sale`)
    const publish = page.getByRole('form', { name: 'Publish' })
    await reads(publish.getByRole('alert'), '1 proof in the way')
    await publish.getByRole('textbox', { name: 'Why proofs are overridden' }).fill('a week only')
    await publish.getByRole('button', { name: 'Publish now' }).click()
    await page.waitForURL(/\/drafts(\?|$)/)
    await price(/^A254\.60$/)
    await page.getByRole('button', { name: /^Undo: Draft “Sale”/ }).click()
    await page.getByText('undone since').first().waitFor()
    await price(/^268\.00$/)
    await guest.context().close()
  })
})
