import type { Page } from 'playwright-core'
import { cell, eachTestInItsOwnWindow, openBoard, reads } from './browser'
import { withServer } from './server'

jest.setTimeout(180_000)

const here = eachTestInItsOwnWindow()

/** Fills a form for a new record and opens the record's sheet. */
async function create(page: Page, url: string, section: string, fields: Readonly<Record<string, string>>) {
  await page.goto(`${url}/${section}/new`)
  for (const [label, value] of Object.entries(fields)) {
    if (label === 'Who') {
      await chooseWho(page, value)
      continue
    }
    const field = page.getByLabel(label, { exact: true })
    if ((await field.evaluate((element) => element.tagName)) === 'SELECT')
      await field.selectOption({ label: value })
    else await field.fill(value)
  }
  await page.getByRole('button', { name: 'Create' }).click()
  await page.getByTestId('fields').waitFor()
}

/** Says by keys alone whom a new record is for. */
async function chooseWho(page: Page, word: string): Promise<void> {
  await page.getByRole('button', { name: /^Who: / }).focus()
  await page.keyboard.press('Enter')
  const field = page.getByRole('textbox', { name: 'Name, group, tag or e-mail' })
  await field.waitFor()
  await page.keyboard.press('Backspace')
  await field.fill(word)
  await page.keyboard.press('Enter')
  await page.keyboard.press('Enter')
  await field.waitFor({ state: 'detached' })
}

/** Types over a field of a record's sheet. */
async function change(page: Page, label: string, value: string): Promise<void> {
  const field = page.getByTestId('fields').getByLabel(label, { exact: true })
  await field.fill(value)
  await field.press('Enter')
}

const day = (instant: Date) => instant.toISOString().slice(0, 10)

test('agreements from nothing to the shop: a contract, a dated list, a rate, two contracts that overlap', async () => {
  await withServer(async ({ url }) => {
    const page = here.page

    // A new account with a contract: 15 % off base ending .95, more from 10 and 50 on.
    await create(page, url, 'accounts', {
      Name: 'Ridgeway Apiaries',
      Code: 'ridgeway',
      Groups: 'Bee farms',
      'Signs in as': 'bees@ridgeway.example',
      City: 'Trim',
    })
    await create(page, url, 'list-records', {
      Name: 'Ridgeway agreed',
      Code: 'ridgeway-agreed',
      Purpose: 'contract',
      Rounding: 'ends .95',
    })
    await page.goto(`${url}/price-lists/ridgeway-agreed`)
    await page.getByRole('button', { name: /For all other items/ }).click()
    const rule = page.getByRole('textbox', { name: /For all other items/ })
    await rule.fill('-15%; 10: -18; fifty: -20%')
    await rule.press('Enter')
    await reads(page.getByRole('alert').first(), /“fifty: -20%” is not a rule/)
    await rule.fill('-15%; 10: -18%; 50: -25%')
    await rule.press('Enter')
    await page
      .getByTestId('list-sentence')
      .getByText(/15 % off base; from 10 18 % off base/)
      .waitFor()

    // A contract nobody is party to is refused, and what was typed stays.
    await page.goto(`${url}/contracts/new`)
    await page.getByLabel('Name', { exact: true }).fill('Ridgeway supply')
    await page.getByLabel('Code', { exact: true }).fill('R-1')
    await page.getByLabel('Price lists', { exact: true }).fill('Ridgeway agreed')
    await page.getByRole('button', { name: 'Create' }).click()
    await page
      .getByRole('alert')
      .getByText(/a contract binds somebody/)
      .waitFor()
    expect(await page.getByLabel('Code', { exact: true }).inputValue()).toBe('R-1')
    await page.getByLabel('Accounts', { exact: true }).fill('Ridgway Apiaries')
    await page.getByRole('button', { name: 'Create' }).click()
    await page
      .getByRole('alert')
      .getByText(/Did you mean Ridgeway Apiaries/)
      .waitFor()
    await page.getByLabel('Accounts', { exact: true }).fill('Ridgeway Apiaries')
    await page.getByLabel('State', { exact: true }).selectOption({ label: 'active' })
    await page.getByRole('button', { name: 'Create' }).click()
    await page.getByTestId('fields').waitFor()

    // In the shop as them: 25.90 less 15 % is 22.015, ending .95; 18 % off from 10 on.
    await page.goto(`${url}/look-as-buyer?as=account:ridgeway&page=/shop/product/FR-BR`)
    await page.getByRole('button', { name: /Open the shop/ }).click()
    await reads(page.getByTestId('own-price').first(), '€21.95')
    await reads(page.getByTestId('break-table'), /1 to 921\.95.*10 to 4920\.95/)
    await page.getByRole('textbox', { name: /^Quantity of/ }).fill('12')
    await reads(page.getByTestId('own-price').first(), '€20.95')
    await reads(page.getByTestId('total'), '€251.40')

    // A second contract with a better rank: the trace says who won, and why the other did not.
    await create(page, url, 'list-records', {
      Name: 'Ridgeway frames',
      Code: 'ridgeway-frames',
      Purpose: 'contract',
    })
    await page.goto(`${url}/price-lists/ridgeway-frames`)
    await page.getByRole('button', { name: /For all other items/ }).click()
    await page.getByRole('textbox', { name: /For all other items/ }).fill('20.00')
    await page.keyboard.press('Enter')
    await page
      .getByTestId('list-sentence')
      .getByText(/fixed at €20\.00/)
      .waitFor()
    await page.goto(`${url}/contracts/R-1`)
    await change(page, 'Rank', '2')
    await page.getByText('Ridgeway supply: rank changed').waitFor()
    await create(page, url, 'contracts', {
      Name: 'Ridgeway frame year',
      Code: 'R-2',
      Accounts: 'Ridgeway Apiaries',
      'Price lists': 'Ridgeway frames',
      State: 'active',
    })
    await page.getByRole('link', { name: 'What does Ridgeway Apiaries pay?' }).click()
    await page.waitForURL(/\/board\?as=account%3Aridgeway/)
    await openBoard(page, '?as=account:ridgeway&find=FR-BR', url)
    await cell(page, 'Pine, flat-packed, 10', 'account:ridgeway').click()
    await reads(
      page.getByTestId('trace-steps'),
      /Ridgeway frames fixed at €20\.00, its price for all other items through contract R-2/,
    )
    await reads(
      page.getByTestId('trace-losers'),
      /Ridgeway agreed its contract has rank 2, the deciding one has rank 1 · would give €21\.95/,
    )

    // A list that starts tomorrow is seen by moving the vantage's date.
    const tomorrow = new Date(Date.now() + 86_400_000)
    const later = new Date(Date.now() + 2 * 86_400_000)
    await create(page, url, 'list-records', {
      Name: 'Tomorrow',
      Code: 'tomorrow',
      Purpose: 'promotional',
      Who: 'guests',
      From: day(tomorrow),
      Rounding: '1',
    })
    await page.goto(`${url}/price-lists/tomorrow`)
    await page.getByRole('button', { name: /For all other items/ }).click()
    await page.getByRole('textbox', { name: /For all other items/ }).fill('-40%')
    await page.keyboard.press('Enter')
    await page
      .getByTestId('list-sentence')
      .getByText(/40 % off base/)
      .waitFor()
    await openBoard(page, '?find=FR-BR', url)
    await reads(cell(page, 'Pine, flat-packed, 10', 'guest'), '25.90')
    await openBoard(page, `?find=FR-BR&on=${day(later)}T12:00Z`, url)
    await reads(cell(page, 'Pine, flat-packed, 10', 'guest'), 'L16.00')

    // A rate moves what is converted, and not what has an amount of its own.
    const gwen = '?as=account:gwen-pritchard&find='
    await openBoard(page, `${gwen}HV-NAT-PF`, url)
    const converted = await cell(page, 'Pine, flat-packed', 'account:gwen-pritchard').textContent()
    await openBoard(page, `${gwen}FR-BR-PF`, url)
    const own = await cell(page, 'Pine, flat-packed, 10', 'account:gwen-pritchard').textContent()
    await page.goto(`${url}/currencies/GBP`)
    await page.getByLabel('Rate from now on').fill('0')
    await page.getByRole('button', { name: 'Set' }).click()
    await reads(page.getByRole('alert').first(), /must be above zero/)
    await page.getByLabel('Rate from now on').fill('1.25')
    await page.getByRole('button', { name: 'Set' }).click()
    await page.getByText('1 EUR = 1.25 GBP').first().waitFor()
    await openBoard(page, `${gwen}FR-BR-PF`, url)
    await reads(cell(page, 'Pine, flat-packed, 10', 'account:gwen-pritchard'), own ?? '')
    await openBoard(page, `${gwen}HV-NAT-PF`, url)
    expect(await cell(page, 'Pine, flat-packed', 'account:gwen-pritchard').textContent()).not.toBe(converted)

    // What others need cannot be removed, and they are named.
    await page.goto(`${url}/groups/bee-farms`)
    await page.getByRole('button', { name: 'Remove' }).click()
    await page.getByText(/it cannot go, because .*(fennmoor|bee-farm-level)/).waitFor()
  })
})
