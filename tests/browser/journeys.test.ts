import type { Page } from 'playwright-core'
import { cell, eachTestInItsOwnWindow, openBoard, openWindow, reads, testUrl } from './browser'
import { withServer } from './server'
import { create, openWord, save, setWord, settled, word } from './sheet-words'

jest.setTimeout(240_000)

const here = eachTestInItsOwnWindow()

/** Does things as a merchant does, and counts them: a click, a text typed, a key pressed. */
function counting(page: Page) {
  let done = 0
  return {
    get count() {
      return done
    },
    async click(role: 'link' | 'button' | 'checkbox', name: string | RegExp) {
      done += 1
      await page
        .getByRole(role, { name, exact: typeof name === 'string' })
        .first()
        .click()
    },
    async type(label: string | RegExp, text: string) {
      done += 1
      const field = page.getByRole('textbox', { name: label }).first()
      await field.waitFor()
      await field.fill(text)
    },
    async press(key: string) {
      done += 1
      await page.keyboard.press(key)
    },
  }
}

test('from an empty store over an import to a contract price, in under 25 interactions after the import', async () => {
  await withServer(
    async ({ url }) => {
      const page = here.page
      await page.goto(url)
      await page.getByRole('textbox', { name: 'What the store is called' }).fill('Heron Hill Bees')
      await page.getByRole('combobox', { name: 'Country it sells from' }).selectOption({ label: 'Portugal' })
      await page.getByRole('button', { name: 'Open the store' }).click()
      await page.getByRole('heading', { name: 'From nothing to the first price' }).waitFor()
      await page.getByRole('link', { name: 'Import what you have' }).click()
      await page.locator('[data-ready=true]').waitFor()
      await page.setInputFiles('input[type=file]', {
        name: 'all.csv',
        mimeType: 'text/csv',
        buffer: Buffer.from(
          'SKU;Name;Category;Base price;Cost\nFR-1;Brood frame;Frames;2,59;1,31\nJR-1;Honey jar;Jars;0,80;0,35\n',
        ),
      })
      await page.getByRole('button', { name: 'Look at what changes' }).click()
      await page.getByRole('button', { name: /^Import \d/ }).click()
      await page.getByText('2 rows were imported as one change.').waitFor()

      const by = counting(page)
      await by.click('link', /^Buyers/)
      await by.click('link', 'New account')
      await settled(page)
      await by.type('Name', 'Larch Hill Apiary')
      await by.press('Enter')
      await page.getByRole('region', { name: 'Name', exact: true }).waitFor({ state: 'detached' })
      await settled(page)
      await by.click('button', 'Create')
      await page.getByRole('region', { name: 'History' }).waitFor()
      await settled(page)
      await by.click('link', 'Make a contract with them')
      await settled(page)
      await by.click('button', 'Create')
      await page.getByRole('region', { name: 'History' }).waitFor()
      await settled(page)
      await by.click('button', 'Put into force')
      await page.getByRole('button', { name: 'Suspend' }).waitFor()
      await settled(page)
      await by.click('button', 'Agree a price')
      await by.type(/^Product, SKU/, 'Frames')
      await by.press('Enter')
      await page.getByRole('button', { name: 'Remove Frames' }).waitFor()
      await by.press('Enter')
      await by.type('Rule', '15 % off base')
      await by.press('Enter')
      await page.getByRole('button', { name: /^Rule for Frames: 15 % off base/ }).waitFor()
      expect(await page.getByTestId('sheet').getByRole('alert').count()).toBe(0)
      expect(by.count).toBeLessThan(25)
      // 2.59 less 15 % is 2.2015.
      await openBoard(page, '?as=account:larch-hill-apiary', url)
      await reads(cell(page, 'Brood frame', 'account:larch-hill-apiary'), 'C2.20')
    },
    undefined,
    false,
  )
})

test('a buyer with a contract price is agreed in under 25 interactions, none of them refused', async () => {
  await withServer(async ({ url }) => {
    const page = here.page
    await openBoard(page, '', url)
    const by = counting(page)
    await by.click('link', /^Buyers/)
    await by.click('link', 'New account')
    await settled(page)
    await by.type('Name', 'Larch Hill Apiary')
    await by.press('Enter')
    await page.getByRole('region', { name: 'Name', exact: true }).waitFor({ state: 'detached' })
    await settled(page)
    await by.click('button', 'Create')
    await page.getByRole('region', { name: 'History' }).waitFor()
    await by.click('link', 'Make a contract with them')
    await settled(page)
    await by.click('button', 'Create')
    await page.getByRole('region', { name: 'History' }).waitFor()
    await settled(page)
    await by.click('button', 'Put into force')
    await page.getByRole('button', { name: 'Suspend' }).waitFor()
    await settled(page)
    await by.click('button', 'Agree a price')
    await by.type(/^Product, SKU/, 'Frames')
    const what = page.getByRole('region', { name: /^What a price is agreed for/ })
    await what.getByTestId('reach').waitFor()
    await by.press('Enter')
    await what.getByRole('button', { name: 'Remove Frames' }).waitFor()
    await by.press('Enter')
    await by.type('Rule', '15 % off base; from 10: 18 %')
    await reads(page.getByRole('region', { name: 'Rule for Frames' }), /5 of 15, lowest margin first/)
    await by.press('Enter')
    await page
      .getByRole('button', { name: /^Rule for Frames: 15 % off base; from 10: 18 % off base/ })
      .waitFor()
    expect(await page.getByTestId('sheet').getByRole('alert').count()).toBe(0)
    expect(by.count).toBeLessThan(25)

    // 25.90 less 15 % is 22.015, to the cent 22.02; for everybody else nothing has changed.
    await openBoard(page, '?as=account:larch-hill-apiary&find=FR-BR-PF', url)
    await reads(cell(page, 'Pine, flat-packed, 10', 'account:larch-hill-apiary'), 'C22.02')
    await reads(cell(page, 'Pine, flat-packed, 10', 'guest'), '25.90')
  })
})

test('a contract is renewed with 2 % on, and the running one stays as it was', async () => {
  await withServer(async ({ url }) => {
    const page = here.page
    await page.goto(`${url}/contracts/C-104`)
    await settled(page)
    await page.getByRole('button', { name: 'Renew', exact: true }).click()
    const dialog = page.getByRole('dialog', { name: /^Renew Fennmoor/ })
    const field = (label: RegExp) => dialog.getByLabel(label)
    expect(await field(/^From/).inputValue()).toBe('1 April 2027')
    expect(await field(/^Until/).inputValue()).toBe('31 March 2028')
    await field(/^Prices rise/).fill('two')
    await page.keyboard.press('Enter')
    await reads(dialog.getByRole('alert'), /“two” is not a percentage/)
    await field(/^Prices rise/).fill('2')
    await page.keyboard.press('Enter')
    await page.waitForURL(
      (address) => !address.pathname.endsWith('/C-104') && /contracts/.test(address.pathname),
    )
    await settled(page)
    await page.getByRole('heading', { name: /Fennmoor supply 2027\/28/ }).waitFor()
    await reads(word(page, 'From'), '1 April 2027')
    await page.goto(`${url}/contracts/C-104`)
    await settled(page)
    await reads(word(page, 'To'), '31 March 2027')
  })
})

test('a rate that starts on 1 January: as it stands until then, the new one from then on', async () => {
  await withServer(async ({ url }) => {
    const page = here.page
    await page.goto(`${url}/taxes?sku=FR-BR-PF&country=PT`)
    await page.locator('[data-ready=true]').waitFor()
    await page.getByRole('button', { name: 'Other rates for Portugal from a day' }).click()
    const form = page.getByRole('form', { name: 'Coming rates for Portugal' })
    await form.getByLabel('Portugal, from').fill('next year')
    await form.getByLabel('Standard, %').fill('22')
    await form.getByRole('button', { name: 'Schedule' }).click()
    await reads(page.getByRole('alert').first(), /“next year” is not a valid date/)
    await form.getByLabel('Portugal, from').fill('1 January 2027')
    await form.getByRole('button', { name: 'Schedule' }).click()
    await page.getByRole('rowheader', { name: 'Portugal, then' }).waitFor()
    await reads(page.getByRole('status'), /^23 % VAT on €25\.90/)
    await page.goto(`${url}/taxes?sku=FR-BR-PF&country=PT&on=2027-01-01T12:00Z`)
    await reads(page.getByRole('status'), /^22 % VAT on €25\.90/)
    await page.goto(`${url}/taxes?sku=FR-BR-PF&country=PT&on=2026-12-31T12:00Z`)
    await reads(page.getByRole('status'), /^23 % VAT on €25\.90/)
  })
})

test('a branch is hidden from guests: looked at before it is saved, then seen as a guest', async () => {
  await withServer(async ({ url }) => {
    const page = here.page
    await page.goto(`${url}/access-rules/treatments-signed-in`)
    await settled(page)
    await setWord(page, 'Effect', 'do not see')
    // Nothing is saved yet: the rule says what it would do, and guests still see the branch.
    await reads(page.getByTestId('sentence'), /Guests see but cannot buydo not see Treatments/)
    await reads(page.getByRole('row', { name: /^Treatments/ }), /^Treatments\s*10\s*10\s*0\s*all hidden/)
    const shop = await (await openWindow(here.browser)).newPage()
    await shop.goto(`${url}/shop/product/HH-OX`)
    await shop.getByRole('heading', { name: 'Oxalic treatment', level: 1 }).waitFor()
    await page.reload()
    await settled(page)
    await reads(word(page, 'Effect'), 'do not see')
    await save(page)
    await shop.goto(`${url}/shop/product/HH-OX`)
    await shop.getByRole('heading', { name: 'This page is not available to you' }).waitFor()
    await shop.context().close()
  })
})

test('a second currency is made, given a rate, and paid in by a region', async () => {
  await withServer(async ({ url }) => {
    const page = here.page
    await page.goto(`${url}/currencies/new`)
    await settled(page)
    const picker = await openWord(page, 'Currency')
    await picker.getByRole('textbox').fill('swiss')
    await picker.getByRole('checkbox', { name: 'Swiss Franc' }).waitFor()
    await page.keyboard.press('Enter')
    await picker.waitFor({ state: 'detached' })
    await settled(page)
    await create(page)
    await page.getByText('It has no rate yet').waitFor()
    await page.getByRole('textbox', { name: 'New rate' }).fill('0,9412')
    await page.getByRole('button', { name: 'Set the rate' }).click()
    await page.getByText('0.9412, since').waitFor()
    await page.goto(`${url}/regions/new`)
    await settled(page)
    await setWord(page, 'Name', 'Switzerland')
    await setWord(page, 'Countries', 'Switzerland')
    await setWord(page, 'Pays in', 'Swiss')
    await create(page)
    await openBoard(page, '?to=CH&find=FR-BR-PF', url)
    // 25.90 × 0.9412 = 24.37708
    await reads(cell(page, 'Pine, flat-packed, 10', 'guest'), '≈24.38')
  })
})

test('two people change one record: both values stand there, and nothing is lost', async () => {
  await withServer(async ({ url }) => {
    const page = here.page
    await page.goto(`${url}/adjustments/november-week`)
    await settled(page)
    await setWord(page, 'Moves prices by', '12 % less')
    const other = await (await openWindow(here.browser)).newPage()
    await other.goto(`${url}/adjustments/november-week`)
    await settled(other)
    await setWord(other, 'Moves prices by', '8 % less')
    await save(other)
    await page.getByRole('button', { name: 'Save', exact: true }).click()
    await page.getByRole('button', { name: 'Keep theirs, “-8%”' }).waitFor()
    await page.getByRole('button', { name: 'Put mine, “12 % less”' }).click()
    await page.getByRole('button', { name: 'Save', exact: true }).waitFor({ state: 'detached' })
    await settled(page)
    await reads(word(page, 'Moves prices by'), '12 % less')
    await other.context().close()
  })
})

test('a product is left out of an adjustment by its tick, and those who would pay more are added', async () => {
  await withServer(async ({ url }) => {
    const page = here.page
    await page.goto(`${url}/adjustments/november-week`)
    await settled(page)
    const tick = page.getByRole('checkbox', { name: 'Gaiters is in it' })
    await tick.click()
    await reads(word(page, 'What'), 'Suits and gloves, but not Gaiters')
    await page.getByText('49 prices fall, of 10 products.').waitFor()
    expect(await tick.isChecked()).toBe(false)
    await page.getByRole('button', { name: 'Add Schools' }).click()
    await reads(word(page, 'Who'), 'guests, Retail and Schools')
    await save(page)
    await page.goto(`${url}/adjustments/november-week`)
    await settled(page)
    await tick.click()
    await reads(word(page, 'What'), 'Suits and gloves')
    await save(page)
    await page.getByText('51 prices fall, of 11 products.').waitFor()
  })
})

test.each([
  ['a contract', '/contracts/C-104'],
  ['an access rule', '/access-rules/treatments-signed-in'],
  ['a price list', '/price-lists/bee-farm-level'],
  ['taxes', '/taxes?sku=FR-BR-PF&country=IE'],
])('%s is whole on a small screen, enlarged to 125 %%', async (_name, path) => {
  const { page } = here
  // 1,024 × 640 enlarged to 125 % leaves 819 × 512.
  await page.setViewportSize({ width: 819, height: 512 })
  await page.goto(testUrl(path))
  await page.locator('[data-ready=true]').first().waitFor()
  const [wanted, there] = await page.evaluate(() => [
    document.documentElement.scrollWidth,
    document.documentElement.clientWidth,
  ])
  expect(wanted).toBeLessThanOrEqual(there ?? 0)
  const words = page.getByRole('button', { name: /Change$/ })
  for (const box of await words.evaluateAll((all) => all.map((each) => each.getBoundingClientRect().right)))
    expect(box).toBeLessThanOrEqual(819)
})
