import { eachTestInItsOwnWindow, reads, testUrl } from './browser'
import { pasteQuickOrder } from './quick-order'
import { violations } from './violations'

jest.setTimeout(120_000)

const here = eachTestInItsOwnWindow()

test('five kinds of wrong line are put right where they stand, and what is ready goes into the cart', async () => {
  const { page } = here
  await page.goto(testUrl('/shop/sign-in'))
  await page.getByRole('button', { name: /Fennmoor Honey Farm/ }).click()
  await page.waitForURL(/\/shop$/)
  const list = 'FR-BR-PF\t20\nPK-BK-15\t30\nFR-BR-PX\t10\nQU-RK\t9\nTL-JT-ST\tthree\nQU-NB\t1'
  await pasteQuickOrder(page, testUrl(), list)
  await page.getByText('1 line ready').waitFor()
  await page.getByText('5 need a look').waitFor()
  await reads(page.getByTestId('quick-total'), '€420.00')
  expect(await violations(page)).toEqual([])

  await page.getByRole('button', { name: '36', exact: true }).click()
  await page.getByRole('button', { name: 'FR-BR-PF', exact: true }).click()
  await page.getByText('3 lines ready').waitFor()
  await page.getByRole('button', { name: '5', exact: true }).click()
  const words = page.getByRole('textbox', { name: 'Quantity of line 5', exact: true })
  expect(await words.inputValue()).toBe('three')
  await words.fill('3')
  await page.getByText('5 lines ready').waitFor()
  // Thirty frames now, twenty and ten: both at the price from 20 on.
  await reads(page.getByRole('row').filter({ hasText: 'Brood frames' }).nth(1).locator('td').last(), '210.00')

  // One stays to be looked at; the others are in the cart.
  await page.getByRole('button', { name: 'Add 5 lines to cart' }).click()
  await page.getByText('5 lines are in the cart. These need a look first.').waitFor()
  expect(await page.getByRole('textbox', { name: 'SKU of line 1', exact: true }).inputValue()).toBe('QU-NB')
  await page.getByRole('button', { name: 'QU-NB-PL', exact: true }).click()
  await page.getByRole('button', { name: 'Add 1 line to cart' }).click()
  await page.waitForURL(/\/shop\/cart/)
  await page.getByText('5 items').waitFor()
})

test('by keyboard alone, out of a file, and what is no list is refused with what would do', async () => {
  const { page } = here
  await page.setViewportSize({ width: 390, height: 844 })
  await page.goto(testUrl('/shop/quick'))
  await page.locator('table[data-ready=true]').waitFor()
  await page.getByRole('textbox', { name: 'SKU of line 1', exact: true }).focus()
  await page.keyboard.type('tl-jt-st')
  await page.keyboard.press('Enter')
  await page.keyboard.press('ControlOrMeta+a')
  await page.keyboard.type('2')
  await page.keyboard.press('Enter')
  await page.keyboard.type('fr-br-pf')
  await page.keyboard.press('Enter')
  await page.getByText('2 lines ready').waitFor()
  expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390)

  const file = page.getByLabel('Add the rows of a file (CSV or XLSX)')
  await file.setInputFiles({ name: 'list.pdf', mimeType: 'application/pdf', buffer: Buffer.from('%PDF-1.4') })
  await page.getByText('This is a PDF file. Save it as CSV or XLSX, and choose that.').waitFor()
  expect(await page.getByRole('textbox', { name: 'SKU of line 1', exact: true }).inputValue()).toBe(
    'tl-jt-st',
  )
  const csv = 'Name;Qty;SKU\nJar;24;PK-JR-340\nHive tool;1;TL-JT-YL\n'
  await file.setInputFiles({ name: 'list.csv', mimeType: 'text/csv', buffer: Buffer.from(csv) })
  await page.getByText('4 lines ready').waitFor()
  expect(await page.getByRole('textbox', { name: 'Quantity of line 3', exact: true }).inputValue()).toBe('24')
})
