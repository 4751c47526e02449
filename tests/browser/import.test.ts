import { eachTestInItsOwnWindow, testUrl } from './browser'
import type { Page } from 'playwright-core'

jest.setTimeout(90_000)

const own = eachTestInItsOwnWindow()

async function open(page: Page, path: string): Promise<void> {
  await page.goto(testUrl(path))
  await page.locator('[data-ready=true]').waitFor()
}

function file(name: string, text: string) {
  return { name, mimeType: 'text/csv', buffer: Buffer.from(text) }
}

test('products from a spreadsheet: matched, looked at, written as one change, taken back', async () => {
  const { page } = own
  await open(page, '/import')
  await page.setInputFiles('input[type=file]', file('broken.csv', 'SKU,Price\n'))
  await page.getByText('The file has headings but no rows under them.').waitFor()

  await page.setInputFiles(
    'input[type=file]',
    file(
      'winter.csv',
      'SKU;Name;Category;Base price;Mesh\nIMP-1;Hive strap;Hives;12,50;\nIMP-2;Gate;Hives;8,90;\nIMP-3;Pin;;3,00;\n',
    ),
  )
  await page.getByLabel('Mesh is').waitFor()
  await page.getByRole('button', { name: 'Look at what changes' }).click()
  await page.getByRole('cell', { name: 'Name Hive strap · Base price 12.50' }).waitFor()
  await page.getByRole('tab', { name: 'Wrong 1' }).click()
  await page.getByRole('cell', { name: 'A new product needs a category.' }).waitFor()
  const download = page.waitForEvent('download')
  await page.getByRole('link', { name: 'Download the wrong rows' }).click()
  expect((await download).suggestedFilename()).toBe('winter-wrong-rows.csv')

  // A row unticked stays out.
  await page.getByRole('tab', { name: 'New 2' }).click()
  await page.getByLabel('Take row 3, IMP-2').click()
  await page.getByRole('button', { name: 'Import 1 row' }).click()
  await page.getByText('1 row was imported as one change. 1 wrong row was left.').waitFor()
  await page.getByRole('link', { name: 'See the products' }).click()
  await page.getByRole('link', { name: 'Hive strap', exact: true }).waitFor()
  expect(await page.getByRole('link', { name: 'Gate', exact: true }).count()).toBe(0)

  await open(page, '/import')
  await page.getByRole('link', { name: 'winter.csv' }).first().click()
  await page.getByRole('button', { name: 'Take all of it back' }).click()
  await page.getByText('everything is as it was before').waitFor()
})

test('prices of a list from a spreadsheet, quantities and all', async () => {
  const { page } = own
  await page.goto(testUrl('/price-lists/club-level'))
  await page.getByRole('link', { name: 'Import prices from a spreadsheet' }).click()
  await page.locator('[data-ready=true]').waitFor()
  await page.setInputFiles(
    'input[type=file]',
    file('club.csv', 'SKU,From quantity,Price\nTL-JT-YL,0,9.10\nTL-JT-YL,10,8.40\nNO-SUCH,0,5\n'),
  )
  await page.getByRole('button', { name: 'Look at what changes' }).click()
  await page.getByRole('cell', { name: 'Club level 9.1; 10: 8.4' }).first().waitFor()
  await page.getByRole('tab', { name: 'Wrong 1' }).click()
  await page.getByRole('cell', { name: /There is no SKU “NO-SUCH”/ }).waitFor()
  await page.getByRole('button', { name: /^Import 2 rows/ }).click()
  await page.getByText('2 rows were imported').waitFor()
  await page.getByRole('button', { name: 'Take all of it back' }).click()
  await page.getByText('everything is as it was before').waitFor()
})
