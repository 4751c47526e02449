import { eachTestInItsOwnWindow, reads } from './browser'
import { type TestServer, withServer } from './server'
import { orderQuickly } from './quick-order'
import { create, openWord, save, settled, setWord } from './sheet-words'
import type { Page } from 'playwright-core'

jest.setTimeout(150_000)
const own = eachTestInItsOwnWindow()

const fillCart = (page: Page, { url }: TestServer, list: string) => orderQuickly(page, url, list)

async function fillCheckout(page: Page): Promise<void> {
  for (const [name, text] of Object.entries({
    name: 'A. Keeper',
    street: '1 Lane',
    postcode: 'D01',
    city: 'Dublin',
    email: 'keeper@keeper.example',
    card: '4000000000000',
  }))
    await page.locator(`[name=${name}]`).fill(text)
}

const sum = (page: Page, label: string) => page.getByTestId(`sum-${label}`)

test('a set is built from nothing, tried in a cart beside it, gained, neared and lost in the shop', async () => {
  await withServer(async (server) => {
    const { page } = own
    await page.goto(`${server.url}/promotions/new`)
    await settled(page)
    await setWord(page, 'Name', 'Veil trio')
    await page.getByRole('button', { name: 'Set', exact: true }).click()
    await page.getByRole('button', { name: 'the cheapest is free' }).click()
    const picker = await openWord(page, 'What')
    await picker.getByRole('button', { name: 'Remove everything' }).click()
    // What is typed counts when the choosing is ended, with or without Enter.
    await picker.getByRole('textbox').first().fill('Gloves')
    await picker.getByRole('button', { name: /^Done/ }).click()
    await picker.waitFor({ state: 'detached' })
    await settled(page)
    const sample = page.getByRole('region', { name: 'Sample cart' })
    await sample.getByText('wins').waitFor()

    // What saves nothing says why; what is wrong is refused in place.
    const units = sample.getByRole('textbox', { name: /^Units of/ }).first()
    await units.fill('0')
    await units.press('Enter')
    await sample.getByText('Add a line').click()
    await sample.getByRole('textbox', { name: 'SKU to add' }).fill('NO-SUCH')
    await page.keyboard.press('Enter')
    await reads(sample.getByRole('alert'), 'There is no SKU “NO-SUCH”.')

    await setWord(page, 'State', 'switched on')
    await create(page)
    await page.getByTestId('sheet').getByText('promotion · switched on').waitFor()

    await fillCart(page, server, 'CL-NG-M 3')
    await page.getByText('Veil trio').first().waitFor()
    const saved = await sum(page, 'You save').innerText()
    expect(saved).toMatch(/^−\d/)
    const paid = await sum(page, 'Total').innerText()

    // One less: it is near, and says what it would save.
    await page.getByRole('button', { name: /^Less of/ }).click()
    await page.getByText(`1 more for “Veil trio”, saves €${saved.slice(1)}`).waitFor()
    expect(await sum(page, 'You save').count()).toBe(0)

    await page.goto(`${server.url}/promotions/veil-trio`)
    await settled(page)
    await page.getByRole('button', { name: 'Switch off' }).click()
    await page.getByTestId('sheet').getByText('promotion · switched off').waitFor()
    await fillCart(page, server, 'CL-NG-M 1')
    expect(await sum(page, 'You save').count()).toBe(0)
    expect(await sum(page, 'Total').innerText()).not.toBe(paid)
  })
})

test('a gift is left and taken, a code counts once it is right, and the order says the same figures', async () => {
  await withServer(async (server) => {
    const { page } = own
    await fillCart(page, server, 'PK-JR-340 12\nTL-JT-ST 2\nTL-TB 1')
    await reads(page.locator('section[aria-label=Promotions]'), /The thirteenth jar: worth €11\.56/)
    await page.getByText('Three hive tools for two').first().waitFor()
    await page.getByRole('button', { name: 'Leave' }).click()
    await page.getByText('worth €11.56, left').waitFor()
    await page.getByRole('button', { name: 'Take' }).click()
    await page.getByText('worth €11.56, taken').waitFor()
    await reads(page.locator('.cart-total').last(), /Free$/)

    const code = page.getByRole('textbox', { name: 'Code' })
    await code.fill('open sesame')
    await page.getByRole('button', { name: 'Use the code' }).click()
    await page.getByText('This code is not valid here and now.').waitFor()
    await code.fill('openday')
    await page.getByRole('button', { name: 'Use the code' }).click()
    await page.getByText(/Open-day voucher saves €/).waitFor()
    const total = await sum(page, 'Total').innerText()

    await page.getByRole('link', { name: 'Check out' }).click()
    await reads(sum(page, 'Total'), total)
    await fillCheckout(page)
    await page.getByRole('button', { name: 'Place order' }).click()
    await page.getByRole('heading', { name: /Your order number is/ }).waitFor()
    const order = page.getByRole('main')
    await order.getByText(total).first().waitFor()
    await order.getByText('The thirteenth jar').waitFor()
    await order.getByText('Three hive tools for two, Open-day voucher').first().waitFor()

    // It is counted: this buyer has used the voucher once, which is as often as they may.
    await page.goto(`${server.url}/promotions/open-day-voucher`)
    await page.getByText('of 200 uses').waitFor()
    await page.getByText('Guests', { exact: true }).waitFor()
    await page.getByText('What it gave away').waitFor()
    // The order can be tried again, line by line, without its gift.
    await settled(page)
    const sample = page.getByRole('region', { name: 'Sample cart' })
    await sample.getByRole('button', { name: 'Use a past order' }).click()
    await sample.getByRole('combobox', { name: 'Past order' }).selectOption({ index: 1 })
    await sample.getByRole('link', { name: /^Round honey jar/ }).waitFor()
    expect(await sample.getByRole('textbox', { name: /^Units of/ }).count()).toBe(3)
    await fillCart(page, server, 'TL-TB 1')
    await page.getByRole('textbox', { name: 'Code' }).fill('OPENDAY')
    await page.getByRole('button', { name: 'Use the code' }).click()
    await page.getByText('it has been used as often as it may').waitFor()
  })
})

test('a promotion switched off between cart and order is told before anything is ordered', async () => {
  await withServer(async (server) => {
    const { page } = own
    await fillCart(page, server, 'TL-JT-ST 2\nTL-TB 1')
    const total = await sum(page, 'Total').innerText()
    await page.getByRole('link', { name: 'Check out' }).click()
    await fillCheckout(page)

    const merchant = await page.context().newPage()
    await merchant.goto(`${server.url}/promotions/tools-three-for-two`)
    await settled(merchant)
    await merchant.getByRole('button', { name: 'Switch off' }).click()
    await merchant.getByTestId('sheet').getByText('promotion · switched off').waitFor()

    await page.getByRole('button', { name: 'Place order' }).click()
    await page
      .getByRole('alert')
      .getByText(/^The total has changed/)
      .waitFor()
    expect(await sum(page, 'You save').count()).toBe(0)
    expect(await sum(page, 'Total').innerText()).not.toBe(total)
    await merchant.goto(`${server.url}/shop/orders`)
    await merchant.getByText('You have not ordered anything yet.').waitFor()
  })
})

test('an evening promotion is seen by looking from the evening, and the trace of a cart names the winner', async () => {
  await withServer(async (server) => {
    const { page } = own
    await page.goto(`${server.url}/promotions/super-frames-by-five`)
    await settled(page)
    await page.getByText('It is for other times.').waitFor()
    await page.goto(`${server.url}/promotions/super-frames-by-five?on=2027-02-01T18:00Z`)
    await settled(page)
    const sample = page.getByRole('region', { name: 'Sample cart' })
    await sample.getByText(/^wins, −/).waitFor()
    // The frame mix comes first and takes what it can.
    await page.goto(`${server.url}/promotions/frame-mix?on=2027-02-01T18:00Z`)
    await settled(page)
    await sample
      .getByText(/^wins, −/)
      .first()
      .waitFor()
    await sample
      .getByText(/“Frame and foundation mix” comes first|more units? makes? it hold/)
      .first()
      .waitFor()
  })
})

test('each part of an offer is chosen in a field of its own', async () => {
  await withServer(async (server) => {
    const { page } = own
    await page.goto(`${server.url}/promotions/frame-mix`)
    await settled(page)
    const picker = await openWord(page, 'Offer')
    const sentence = picker.getByRole('textbox', { name: 'Offer', exact: true })
    await picker.getByRole('button', { name: 'Add a part' }).click()
    await picker.getByRole('button', { name: 'anything the promotion is for' }).last().click()
    const what = picker.getByRole('region', { name: 'Part 2 of the set' })
    await what.getByRole('button', { name: 'Remove everything' }).click()
    await what.getByRole('textbox').first().fill('Wax foundation')
    await page.keyboard.press('Enter')
    await what.getByRole('button', { name: /^Done/ }).click()
    await what.waitFor({ state: 'detached' })
    await picker.getByRole('textbox', { name: 'Price in DKK' }).fill('450')
    expect(await sentence.inputValue()).toBe('any 3 + 1 of Wax foundation: at 60 (GBP 52, DKK 450)')
    // A price above what the parts cost is refused here, with what is right.
    await picker.getByRole('textbox', { name: 'Price', exact: true }).fill('9000')
    await picker.getByRole('button', { name: /^Done/ }).click()
    await settled(page)
    await page.getByText('9000 saves nothing: the dearest set of these costs').waitFor()
    await setWord(page, 'Offer', 'any 3 + 1 of Wax foundation: at 60 (GBP 52, DKK 450)')
    await save(page)
    await page.goto(`${server.url}/promotions/jar-thirteenth`)
    await settled(page)
    const gift = await openWord(page, 'Offer')
    await gift.getByRole('button', { name: 'something else' }).click()
    await gift.getByRole('textbox', { name: 'SKU of the gift' }).fill('Frame nails')
    await gift
      .getByRole('button', { name: /Frame nails/ })
      .first()
      .click()
    expect(await gift.getByRole('textbox', { name: 'Offer', exact: true }).inputValue()).toMatch(
      /^buy 12: 1, 48: 5 of [A-Z0-9-]+ free$/,
    )
  })
})

test('a promotion on prices stands on cards, on the product and on the board, until it is over', async () => {
  await withServer(async (server) => {
    const { page } = own
    await page.goto(`${server.url}/shop/category/full-suits`)
    const card = page.getByRole('listitem').filter({ hasText: 'Full suit, round veil' })
    await reads(card.getByTestId('badge'), /Suits in winter\s*until 31 Jan 2027/)
    const own85 = await card.getByTestId('own-price').innerText()
    const before = await card.getByTestId('was-price').innerText()
    expect(own85).not.toBe(before)
    await card.getByRole('link').click()
    await page
      .getByRole('list', { name: 'Promotions' })
      .getByText(/Saves €.* on this one/)
      .waitFor()
    await page.getByRole('button', { name: /Add to cart/ }).click()
    await page.getByText('1 in the cart.').waitFor()
    await page.goto(`${server.url}/shop/cart`)
    await page.getByText('Suits in winter').first().waitFor()

    await page.goto(`${server.url}/board?find=round veil`)
    await page.getByRole('radio', { name: 'Promoted' }).click()
    await page.getByRole('gridcell', { name: /^P/ }).first().waitFor()
    await page.goto(`${server.url}/board?find=round veil&on=2027-02-02T10:00Z`)
    await page.getByRole('radio', { name: 'Promoted' }).click()
    await page.getByRole('gridcell', { name: /^L|^A/ }).first().waitFor()
    expect(await page.getByRole('gridcell', { name: /^P/ }).count()).toBe(0)
  })
})
