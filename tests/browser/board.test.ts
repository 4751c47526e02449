import type { Page } from 'playwright-core'
import { cell, eachTestInItsOwnWindow, openBoard, openWindow, reads, testUrl, typeInto } from './browser'

jest.setTimeout(90_000)

const here = eachTestInItsOwnWindow()
let page: Page
beforeEach(() => {
  page = here.page
})

const FLAT = 'Pine, flat-packed, 10'

test('a base price moves what depends on it and nothing else; the trace says why; undo puts it back', async () => {
  // Rows are drawn only where they are seen: tall enough for both.
  await page.setViewportSize({ width: 1280, height: 1100 })
  await openBoard(page, '?in=frames-foundation')
  await reads(cell(page, FLAT, 'group:bee-farms'), 'L22.80')
  const organic = cell(page, 'organic, 10', 'group:distributors')
  await reads(organic, /^L17.60/)

  await typeInto(page, cell(page, 'Brood frames', 'base'), '+10%')
  await reads(cell(page, FLAT, 'base'), '28.49')
  await reads(cell(page, FLAT, 'guest'), '28.49')
  // 28.49 − 12 % = 25.0712, to the nearest 0.05
  await reads(cell(page, FLAT, 'group:bee-farms'), 'L25.05')
  // A variant with a base price of its own does not follow its product.
  await reads(cell(page, 'Cedar, assembled, 10', 'group:bee-farms'), 'L45.75')

  await typeInto(page, cell(page, 'organic, 10', 'base'), '25.00')
  await reads(cell(page, 'organic, 10', 'group:club'), 'L22.50')
  await reads(organic, /^L17.60/)

  await cell(page, FLAT, 'group:bee-farms').click()
  await reads(page.getByTestId('trace-amount'), '€25.05')
  await reads(
    page.getByTestId('trace-steps'),
    /Base price set on the product ?28\.49.*Bee farm level 12 % off base.*25\.0712.*To the nearest 0\.05 ?25\.05/,
  )
  await reads(page.getByTestId('trace-losers'), /Trade packaging by the pallet/)

  await page.keyboard.press('Control+z')
  await page.keyboard.press('Control+z')
  await reads(cell(page, FLAT, 'group:bee-farms'), 'L22.80')
  await reads(cell(page, 'organic, 10', 'group:club'), 'L21.40')
  await reads(page.getByTestId('trace-amount'), '€22.80')
  await page.keyboard.press('Control+Shift+z')
  await reads(cell(page, FLAT, 'group:bee-farms'), 'L25.05')
  await page.keyboard.press('Control+z')
  await reads(cell(page, FLAT, 'group:bee-farms'), 'L22.80')
})

test('a group’s price is edited in place, as a line of its list', async () => {
  await openBoard(page, '?find=EX-UF')
  const price = cell(page, 'Uncapping fork', 'group:bee-farms')
  await reads(price, 'L11.10')
  await typeInto(page, price, 'm50')
  await reads(price, 'L11.40')
  await price.click()
  await reads(page.getByTestId('trace-steps'), /Bee farm level fixed at €11\.40 for this variant/)
  await page.getByRole('button', { name: 'Undo' }).click()
  await reads(price, 'L11.10')
})

test('a wrong entry is refused with what is allowed, and nothing typed is lost', async () => {
  await openBoard(page, '?find=FR-BR')
  const base = cell(page, FLAT, 'base')
  await typeInto(page, base, '12,5x')
  await reads(base.getByRole('alert'), /“12,5x” is not a price\. Type 19\.90, \+5%, −5%/)
  expect(await base.locator('input').inputValue()).toBe('12,5x')
  await base.locator('input').fill('0')
  await base.locator('input').press('Enter')
  await reads(base.getByRole('alert'), /does not come to a price above zero/)
  await base.locator('input').press('Escape')
  await reads(base, '25.90')
})

test('a buyer without a list of their own has nothing to edit', async () => {
  await openBoard(page, '?find=FR-BR')
  const retail = cell(page, FLAT, 'group:retail')
  await retail.dblclick()
  expect(await retail.locator('input').count()).toBe(0)
})

test('two windows: the second is told what changed meanwhile', async () => {
  const other = await openWindow(here.browser)
  const second = await other.newPage()
  await openBoard(page, '?find=TL-FG')
  await openBoard(second, '?find=TL-FG')
  await typeInto(page, cell(page, 'Frame grip', 'base'), '18.20')
  await reads(cell(page, 'Frame grip', 'base'), '18.20')

  await typeInto(second, cell(second, 'Frame grip', 'base'), '16.90')
  await reads(cell(second, 'Frame grip', 'base').getByRole('alert'), /you saw 17\.2, it is now 18\.2/)
  await page.getByRole('button', { name: 'Undo' }).click()
  await reads(cell(page, 'Frame grip', 'base'), '17.20')
  await other.close()
})

test('the vantage is a sentence: somebody else’s eyes, another quantity, another day', async () => {
  await openBoard(page, '?find=FR-BR')
  await page.getByRole('button', { name: /Looking as: Guest/ }).click()
  await page.getByRole('searchbox', { name: 'Find a buyer' }).fill('fennm')
  await page.getByRole('option', { name: /Fennmoor/ }).click()
  await page.waitForURL(/as=account/)
  await reads(cell(page, FLAT, 'account:fennmoor'), 'C21.65')

  await page.getByLabel('Quantity bought').fill('12')
  await page.getByLabel('Quantity bought').press('Enter')
  await page.waitForURL(/buying=12/)
  await cell(page, FLAT, 'account:fennmoor').click()
  await reads(page.getByText('12 of them'), '12 of them: €259.80')

  await page.getByRole('button', { name: /On today/ }).click()
  await page.getByRole('button', { name: /before “Autumn price round”/ }).click()
  await page.waitForURL(/on=2026-10-01/)
  await reads(cell(page, FLAT, 'base'), '24.90')
  // The past can be looked at and not changed.
  await cell(page, FLAT, 'base').dblclick()
  expect(await cell(page, FLAT, 'base').locator('input').count()).toBe(0)
})

test('the whole work by keyboard alone', async () => {
  await openBoard(page, '?find=FR-BR')
  const grid = page.getByRole('grid')
  // The first stop of the page leads past the vantage and the places.
  await page.keyboard.press('Tab')
  expect(await page.evaluate(() => document.activeElement?.textContent)).toBe('Skip to the work')
  await page.keyboard.press('Enter')
  for (
    let tabs = 0;
    tabs < 40 && !(await grid.evaluate((node) => node === document.activeElement));
    tabs += 1
  ) {
    await page.keyboard.press('Tab')
  }
  // From the product's name: down to its first variant, right to the base price, and a new price over it.
  for (const key of ['ArrowDown', 'ArrowRight', '2', '6', '.', '5', 'Enter']) await page.keyboard.press(key)
  await reads(cell(page, FLAT, 'base'), '26.50')
  for (const key of ['ArrowRight', 'ArrowRight', 't']) await page.keyboard.press(key)
  await reads(page.getByTestId('trace-amount'), '€26.50')
  await page.keyboard.press('Control+z')
  await reads(cell(page, FLAT, 'base'), '25.90')
  await page.keyboard.press('Escape')
  await page.getByRole('complementary', { name: /How this price/ }).waitFor({ state: 'detached' })

  await page.keyboard.press('Control+k')
  await page.keyboard.type('bee farm level')
  await page.getByRole('option', { name: /Bee farm level/ }).waitFor()
  await page.keyboard.press('Enter')
  await page.waitForURL(/price-lists\/bee-farm-level/)
  await page.keyboard.press('g')
  await page.keyboard.press('b')
  await page.waitForURL(/board/)
})

test('typing into the filter keeps the keyboard there, and an edit can be undone after looking elsewhere', async () => {
  await openBoard(page, '?find=FR-BR')
  await typeInto(page, cell(page, FLAT, 'base'), '26.40')
  await reads(cell(page, FLAT, 'base'), '26.40')

  const search = page.getByRole('searchbox', { name: /Only names/ })
  await search.fill('')
  await search.pressSequentially('wax', { delay: 120 })
  await page.waitForURL(/find=wax/)
  await page.locator('[role=row]', { hasText: 'Wax foundation, brood' }).waitFor()
  await search.pressSequentially(' super', { delay: 120 })
  await page.waitForURL(/find=wax\+super/)
  expect(await search.inputValue()).toBe('wax super')

  await page.getByRole('button', { name: 'Undo' }).click()
  await page.getByText('Undone.').waitFor()
  await search.fill('FR-BR')
  await page.waitForURL(/find=FR-BR/)
  await reads(cell(page, FLAT, 'base'), '25.90')
})

test('typing over a guest’s price says what would have to change', async () => {
  await openBoard(page, '?find=FR-BR')
  await cell(page, 'Pine, flat-packed, 10', 'guest').click()
  await page.keyboard.press('2')
  await reads(
    page.getByRole('alert').filter({ hasText: 'Guests' }),
    /no price list of their own.*Change the base price/,
  )
  await cell(page, 'Pine, flat-packed, 10', 'base').click()
  await page.getByText('Guests have no price list').waitFor({ state: 'detached' })
})

test('going back to the board shows what was changed meanwhile on a sheet', async () => {
  await openBoard(page, '?find=TL-BR')
  await reads(cell(page, 'nylon', 'base'), '7.90')
  await page.getByRole('link', { name: 'nylon' }).click()
  await page.getByRole('heading', { name: /Bee brush/ }).waitFor()
  await typeInto(page, cell(page, 'TL-BR-NY', 'basePrice'), '8.30')
  await reads(cell(page, 'TL-BR-NY', 'price'), '8.30')
  await page.goBack()
  await reads(cell(page, 'nylon', 'base'), '8.30')
  await page.goForward()
  await typeInto(page, cell(page, 'TL-BR-NY', 'basePrice'), '')
  await reads(cell(page, 'TL-BR-NY', 'price'), '7.90')
})

test('closed products show the range of the measure chosen', async () => {
  await openBoard(page, '?find=FR-BR')
  await page.getByRole('button', { name: 'Close all' }).click()
  const frames = page
    .locator('[role=row]', { hasText: 'Brood frames' })
    .locator('[data-cell="group:bee-farms"]')
  await reads(frames, '22.80 – 45.75')
  await page.getByRole('radio', { name: 'Margin' }).click()
  await reads(frames, '23.2 – 42.5 %')
  await page.getByRole('radio', { name: 'To base' }).click()
  await reads(frames, '−12.0 %')
})

test('a filter that matches nothing says so', async () => {
  await page.goto(testUrl('/board?find=zzzz'))
  await page.getByText('Nothing in the catalogue matches').waitFor()
})

test('a price typed for one buyer asks before it reaches others, and goes to them alone by Enter', async () => {
  await openBoard(page, '?as=account:tarnside&find=FR-BR')
  const mine = cell(page, FLAT, 'account:tarnside')
  const farms = cell(page, FLAT, 'group:bee-farms')
  const before = (await farms.textContent()) ?? ''
  await typeInto(page, mine, '20.00')
  await reads(mine.getByRole('alert'), /Bee farm level sets prices for 7 buyers: Tarnside Apiaries, /)
  // Nothing is made by looking at it, or by going away.
  await page.keyboard.press('Escape')
  await mine.getByRole('alert').waitFor({ state: 'detached' })
  await typeInto(page, mine, '20.00')
  await mine.getByRole('alert').waitFor()
  await page.keyboard.press('Enter')
  await reads(mine, /20\.00/)
  await reads(farms, before)
  await page.getByRole('button', { name: 'Undo' }).click()
  await reads(mine, before)

  await typeInto(page, mine, '21.00')
  await mine.getByRole('button', { name: 'All 7' }).click()
  await reads(farms, /21\.00/)
  await page.getByRole('button', { name: 'Undo' }).click()
  await reads(farms, before)
})
