import type { Locator, Page } from 'playwright-core'
import { cell, eachTestInItsOwnWindow, openBoard, reads } from './browser'

jest.setTimeout(90_000)

const here = eachTestInItsOwnWindow()
let page: Page
beforeEach(() => {
  page = here.page
})

async function dragOver(from: Locator, to: Locator): Promise<void> {
  const [start, end] = [await from.boundingBox(), await to.boundingBox()]
  if (!start || !end) throw new Error('no cells to drag over')
  await page.mouse.move(start.x + 10, start.y + 10)
  await page.mouse.down()
  await page.mouse.move(end.x + 10, end.y + 10, { steps: 6 })
  await page.mouse.up()
}

test('a range has its figures, goes to a spreadsheet and comes back changed, seen before it is written', async () => {
  await page.context().grantPermissions(['clipboard-read', 'clipboard-write'])
  await openBoard(page, '?find=FR-BR')
  const base = cell(page, 'Pine, flat-packed, 10', 'base')
  const farms = cell(page, 'Pine, flat-packed, 10', 'group:bee-farms')
  await dragOver(cell(page, 'Pine, flat-packed, 10', 'group:club'), farms)
  await page.getByText(/^.*prices · from .* mean .* mean margin/).waitFor()
  await page.keyboard.press('Control+c')
  const copied = await page.evaluate(() => navigator.clipboard.readText())
  expect(copied.split('\t')).toHaveLength(2)
  expect(copied.split('\t')[1]).toBe(
    await farms.textContent().then((text) => text?.replace(/[A-Z≈]/g, '').trim()),
  )

  const before = (await base.textContent())?.trim() as string
  await base.click()
  await page.evaluate(() => navigator.clipboard.writeText('nonsense'))
  await page.keyboard.press('Control+v')
  await page.getByText('0 figures change, 1 cannot be changed').waitFor()
  await page.keyboard.press('Escape')
  await base.click()
  await page.evaluate(() => navigator.clipboard.writeText('€ 77,70'))
  await page.keyboard.press('Control+v')
  await page.getByText('1 figure changes').waitFor()
  await reads(base, before)
  await page.getByRole('button', { name: 'Change it' }).click()
  await reads(base, '77.70')
  await page.keyboard.press('Control+z')
  await reads(base, before)
})

test('a range is changed by one rule, looked at first, and undone as one', async () => {
  await openBoard(page, '?find=FR-BR')
  const first = cell(page, 'Cedar, flat-packed, 10', 'base')
  const last = cell(page, 'Cedar, assembled, 10', 'base')
  const before = await Promise.all([first.textContent(), last.textContent()])
  await dragOver(first, last)
  const bar = page.getByRole('form', { name: 'Change the chosen prices' })
  await bar.getByRole('textbox').fill('more')
  await page.keyboard.press('Enter')
  await reads(bar.getByRole('alert'), /“more” is not a change of a price/)
  // 41.00 × 1.04 = 42.64 and 52.00 × 1.04 = 54.08, each to the nearest .90.
  await bar.getByRole('textbox').fill('+4% .90')
  await page.keyboard.press('Enter')
  const panel = page.getByRole('region', { name: 'Figures to change' })
  await reads(panel, /2 figures change.*41\.00 → 42\.90.*52\.00 → 53\.90/)
  await panel.getByRole('button', { name: 'Change these 2' }).click()
  await reads(first, '42.90')
  await reads(last, '53.90')
  await first.click()
  await page.keyboard.press('Control+z')
  await reads(first, before[0]?.trim() ?? '')
  await reads(last, before[1]?.trim() ?? '')
})

test('scrubbing a quantity shows its prices on the way, and stays where it is let go', async () => {
  await openBoard(page, '?find=foundation')
  const target = page.locator('[data-cell="group:bee-farms"]').filter({ hasText: /\d/ }).first()
  const one = await target.textContent()
  const handle = page.getByRole('slider', { name: 'Move through quantities' })
  const box = await handle.boundingBox()
  if (!box) throw new Error('no handle')
  await page.mouse.move(box.x + 5, box.y + 5)
  await page.mouse.down()
  await page.mouse.move(box.x + 5 + 60 * 5, box.y + 5, { steps: 12 })
  // Not let go yet: the address still says one piece.
  expect(page.url()).not.toContain('buying=')
  for (let tries = 0; (await target.textContent()) === one; tries += 1) {
    if (tries > 100) throw new Error('no price followed the quantity')
    await page.waitForTimeout(50)
  }
  await page.mouse.up()
  await page.waitForURL(/buying=61/)
  await page.getByLabel('Quantity bought').waitFor()
  expect(await page.getByLabel('Quantity bought').inputValue()).toBe('61')
})

test('days go by under the arrow keys, and the address follows when they rest', async () => {
  await openBoard(page, '')
  const days = page.getByRole('slider', { name: 'Move through days' })
  await days.focus()
  for (let step = 0; step < 13; step += 1) await page.keyboard.press('PageUp')
  await page.waitForURL(/on=20\d\d-/)
  const shown = await page.getByTestId('vantage').textContent()
  expect(shown).toMatch(/20\d\d, \d\d:\d\d/)
})

test('what is shown is any rule of the catalogue, and all its prices are changed by one rule', async () => {
  await openBoard(page, '')
  await page.getByRole('button', { name: /^Showing: everything/ }).click()
  const picker = page.getByRole('region', { name: 'Showing' })
  await picker.getByRole('textbox').first().fill('HV-COM')
  await page.keyboard.press('Enter')
  await reads(picker.getByTestId('reach'), /^3 variants of 1 product/)
  await page.keyboard.press('Enter')
  await picker.waitFor({ state: 'detached' })
  await page.getByRole('button', { name: 'Showing: Commercial hive. Change' }).waitFor()
  await page.getByText('1 product, 3 variants').waitFor()

  await page.getByRole('button', { name: 'Change prices of what is shown' }).click()
  const bar = page.getByRole('form', { name: 'Change the chosen prices' })
  await reads(bar, /Change the 3/)
  await bar.getByRole('textbox').fill('+10%')
  await page.keyboard.press('Enter')
  const panel = page.getByRole('region', { name: 'Figures to change' })
  // The variant that takes the product's price over follows it.
  await reads(panel, /3 figures change.*289\.00 → 317\.90.*336\.00 → 369\.60.*415\.00 → 456\.50/)
  await panel.getByRole('button', { name: 'Change these 3' }).click()
  await reads(cell(page, 'Pine, flat-packed', 'base'), '317.90')
  await page.keyboard.press('Control+z')
  await reads(cell(page, 'Pine, flat-packed', 'base'), '289.00')

  // The address alone shows the same; one that says what nobody knows leads back.
  await openBoard(page, '?of=Hivse')
  await page
    .getByRole('alert')
    .getByText(/“Hivse”/)
    .waitFor()
  await page.getByRole('button', { name: 'Show everything' }).click()
  await page.getByText('116 products, 295 variants').waitFor()
})
