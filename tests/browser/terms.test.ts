import type { Page } from 'playwright-core'
import { eachTestInItsOwnWindow, openWindow, reads } from './browser'
import { withServer } from './server'
import { create, openWord, setWord, settled, word } from './sheet-words'

jest.setTimeout(240_000)

const here = eachTestInItsOwnWindow()

async function signIn(page: Page, url: string, name: string): Promise<void> {
  await page.goto(`${url}/shop/sign-in`)
  await page.getByRole('button', { name: new RegExp(name) }).click()
  await page.waitForURL(/\/shop$/)
}

async function put(page: Page, url: string, path: string, quantity?: string): Promise<void> {
  await page.goto(`${url}/shop/product/${path}`)
  await page.locator('[data-ready=true]').waitFor()
  if (quantity) await page.getByRole('textbox', { name: /^Quantity of/ }).fill(quantity)
  await page.getByRole('button', { name: /Add to cart/ }).click()
  await page.getByText('in the cart.').waitFor()
}

const sum = (page: Page, label: string) => page.getByTestId(`sum-${label}`)

test('taxes: a variant of another class, an address that moves, and an order whose figures are the answer’s', async () => {
  await withServer(async ({ url }) => {
    const page = here.page

    // A variant gets another class than its product.
    await page.goto(`${url}/variant-records/FR-BR-PF`)
    await settled(page)
    const picker = await openWord(page, 'Tax class')
    await picker.getByRole('textbox').fill('Redu')
    await picker.getByRole('checkbox', { name: 'Reduced' }).waitFor()
    await page.keyboard.press('Enter')
    await picker.waitFor({ state: 'detached' })
    await page.getByText('FR-BR-PF: tax class changed').waitFor()
    await page.goto(`${url}/taxes?sku=FR-BR-PF&country=IE`)
    await reads(page.getByRole('status'), /^13\.5 % VAT on €25\.90 = €3\.50, so they pay €29\.40/)

    // A rate typed over in the grid, a wrong one refused.
    const rate = page.getByLabel('VAT Reduced, Ireland', { exact: true })
    await rate.fill('135')
    await rate.press('Enter')
    await page
      .getByRole('alert')
      .getByText(/above 50 %/)
      .waitFor()
    await rate.fill('12')
    await rate.press('Enter')
    await reads(page.getByRole('status'), /^12 % VAT on €25\.90 = €3\.11/)

    // In the shop the cart names each tax, and the checkout moves with the address.
    await put(page, url, 'FR-BR?sku=FR-BR-PF', '2')
    await put(page, url, 'TL-SM')
    await page.goto(`${url}/shop/cart`)
    // Delivery follows the goods, so some of it stands under each rate.
    await page.locator('[data-testid^="sum-includes VAT 12 %"]').waitFor()
    await page.locator('[data-testid^="sum-includes VAT 23 %"]').waitFor()
    await page.getByRole('link', { name: 'Check out' }).click()
    await page.getByLabel('Name', { exact: true }).fill('Orla Quinn')
    await page.getByLabel('Street').fill('1 Lane')
    await page.getByLabel('City').fill('Graz')
    await page.getByRole('combobox', { name: /^Country/ }).selectOption({ label: 'Austria' })
    // The taxes of the address show before anything is ordered.
    await page.locator('[data-testid^="sum-includes VAT 10 %"]').waitFor()
    await page.getByLabel('E-mail').fill('orla')
    await page.getByLabel('Card number').fill('4444 3333 2222 1111')
    await page.getByRole('button', { name: 'Place order' }).click()
    await page
      .getByRole('alert')
      .getByText(/name@example.com/)
      .waitFor()
    expect(await page.getByLabel('City').inputValue()).toBe('Graz')
    await page.getByLabel('E-mail').fill('orla@example.com')
    await page.getByLabel(/^State/).fill('Styria')
    await page.getByRole('button', { name: 'Place order' }).click()
    await page
      .getByRole('alert')
      .getByText(/“Styria” is not the code of a state of Austria/)
      .waitFor()
    await page.getByLabel(/^State/).fill('')
    const total = (await sum(page, 'Total').textContent()) ?? ''
    await page.getByRole('button', { name: 'Place order' }).click()
    await page.getByRole('heading', { name: /Thank you/ }).waitFor()
    await page.getByText(total).first().waitFor()

    // The same cart asked from outside is the same to the cent.
    const sku = await page.getByTestId('order-sku').allTextContents()
    const asked = await fetch(`${url}/api/prices`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify([
        {
          id: 'order',
          as: { guest: true },
          deliverTo: { country: 'AT', city: 'Graz' },
          lines: [
            { sku: sku[0], quantity: '2' },
            { sku: sku[1], quantity: '1' },
          ],
        },
      ]),
    })
    const [answer] = (await asked.json()) as [{ total: { gross: string } }]
    expect(total).toBe(`€${answer.total.gross}`)
  })
})

test('an address nobody serves is refused with what to do, and what is ordered comes out of the stock', async () => {
  await withServer(async ({ url }) => {
    const page = here.page
    const document = (await (await fetch(`${url}/api/store`)).json()) as {
      regions: Record<string, unknown>[]
    }
    const regions = document.regions.map((region) => ({
      ...region,
      ...(region['code'] === 'elsewhere' && { isDefault: false, countries: ['CH'] }),
      ...(region['code'] === 'britain' && { status: 'archived' }),
    }))
    const body = JSON.stringify({ ...document, regions })
    expect(
      (
        await fetch(`${url}/api/store`, {
          method: 'PUT',
          body,
          headers: { 'content-type': 'application/json', 'if-match': '*' },
        })
      ).status,
    ).toBe(200)

    await signIn(page, url, 'Heatherlaw Honey')
    await put(page, url, 'PK-BK?sku=PK-BK-15', '24')
    await page.goto(`${url}/shop/checkout`)
    await page.getByLabel('Street').fill('1 Square')
    await page.getByRole('radio', { name: /by card/ }).check()
    // Cards ending so are declined, and then nothing is ordered.
    await page.getByLabel('Card number').fill('4444 3333 2222 0002')
    await page.getByRole('button', { name: 'Place order' }).click()
    await page
      .getByRole('alert')
      .getByText(/We do not deliver to United Kingdom yet/)
      .waitFor()
    expect(await page.getByLabel('Street').inputValue()).toBe('1 Square')
    await page.getByRole('combobox', { name: /^Country/ }).selectOption({ label: 'Ireland' })
    await page.getByRole('region', { name: 'Totals' }).and(page.locator('[aria-busy=false]')).waitFor()
    await page.getByRole('button', { name: 'Place order' }).click()
    await page.getByText('The card was declined. Nothing was ordered: try another card.').waitFor()
    await page.getByLabel('Card number').fill('4444 3333 2222 1111')
    await page.getByRole('button', { name: 'Place order' }).click()
    await page.getByRole('heading', { name: /Thank you/ }).waitFor()
    await page.goto(`${url}/shop/product/PK-BK?sku=PK-BK-15`)
    await page.getByText('456 in stock').waitFor()
  })
})

test('limits: a case of 12 typed 7 offers 12, and a least of a branch is met by two products together', async () => {
  await withServer(async ({ url }) => {
    const page = here.page
    await page.goto(`${url}/shop/product/PK-BK?sku=PK-BK-15`)
    await page.locator('[data-ready=true]').waitFor()
    expect(await page.getByRole('textbox', { name: /^Quantity of/ }).inputValue()).toBe('12')
    await page.getByRole('textbox', { name: /^Quantity of/ }).fill('7')
    await page.getByRole('button', { name: 'Change to 12' }).click()
    expect(await page.getByRole('textbox', { name: /^Quantity of/ }).inputValue()).toBe('12')
    await page.getByRole('textbox', { name: /^Quantity of/ }).fill('7')
    await page.getByRole('button', { name: /Add to cart/ }).click()
    await page.getByText('7 in the cart.').waitFor()
    await page.goto(`${url}/shop/cart`)
    await page
      .getByText(/Buckets come in stacks of 12\. You have 7\./)
      .first()
      .waitFor()
    expect(await page.getByRole('link', { name: 'Check out' }).count()).toBe(0)
    await page.getByRole('button', { name: 'Change to 12' }).click()
    await page.getByRole('link', { name: 'Check out' }).waitFor()

    // A limit nobody could keep is refused, and one for a branch together is made.
    await page.goto(`${url}/limits/new`)
    await settled(page)
    await setWord(page, 'Name', 'Ten frames')
    await setWord(page, 'At least', '10')
    await setWord(page, 'In multiples of', '4')
    const picker = await openWord(page, 'What')
    await picker.getByRole('button', { name: 'Remove everything' }).click()
    await picker.getByRole('textbox').first().fill('Frames')
    await page.keyboard.press('Enter')
    await reads(picker.getByTestId('reach'), /^15 variants of 6 products/)
    await picker.getByRole('button', { name: /^Done/ }).click()
    await picker.waitFor({ state: 'detached' })
    await setWord(page, 'Counts', 'everything it is for together')
    await page.getByRole('button', { name: 'Create' }).click()
    await page
      .getByRole('alert')
      .getByText(/10 is no multiple of 4; 12 would be/)
      .waitFor()
    await setWord(page, 'In multiples of', '')
    await create(page)
    await put(page, url, 'FR-BR?sku=FR-BR-PF', '4')
    await page.goto(`${url}/shop/cart`)
    await page
      .getByText(/Brood frames must come to at least 10\. This comes to 4/)
      .first()
      .waitFor()
    await put(page, url, 'FR-SU', '6')
    await page.goto(`${url}/shop/cart`)
    await page.getByRole('link', { name: 'Check out' }).waitFor()
  })
})

test('access: guests without prices, a passcode, nothing but two branches for a contract', async () => {
  await withServer(async ({ url }) => {
    const page = here.page
    const shop = await (await openWindow(here.browser)).newPage()
    const gate = async (name: string) => {
      await page.goto(`${url}/channels/web`)
      await settled(page)
      await setWord(page, 'Gate', name)
      await reads(word(page, 'Gate'), name)
    }

    await gate('open, prices after signing in')
    await shop.goto(`${url}/shop/product/FR-BR`)
    await shop.getByText('Sign in for the price').first().waitFor()
    await shop.getByText('Sign in to buy this.').waitFor()
    expect(await shop.getByRole('button', { name: /Add to cart/ }).count()).toBe(0)

    await gate('open with a passcode only')
    await page.goto(`${url}/passcodes/new`)
    await settled(page)
    await setWord(page, 'Name', 'Circle')
    await setWord(page, 'Passcode', 'look-inside')
    await page.getByRole('button', { name: 'Create' }).click()
    await page
      .getByRole('alert')
      .getByText(/is already in use|is already used by/)
      .waitFor()
    await setWord(page, 'Passcode', 'heather-hum')
    await create(page)
    await shop.goto(`${url}/shop/category/frames`)
    await shop.getByRole('heading', { name: 'Please enter your passcode' }).waitFor()
    await shop.getByLabel('Passcode').fill('heather-hug')
    await shop.getByRole('button', { name: 'Enter' }).click()
    await shop.getByRole('alert').waitFor()
    await shop.waitForLoadState('networkidle')
    await shop.getByLabel('Passcode').fill('Heather-Hum')
    await shop.getByRole('button', { name: 'Enter' }).click()
    // It leads to the page that was wanted, and can be left.
    await shop.getByText('You are using the passcode for Circle.').waitFor()
    await shop.getByRole('heading', { name: 'Frames', level: 1 }).waitFor()
    await gate('open to everyone')

    // The assortment of a contract: nothing but two branches.
    await page.goto(`${url}/assortments?of=contract&code=C-104`)
    await page.locator('[data-ready=true]').waitFor()
    await page.getByLabel('Starts from').selectOption('nothing')
    await reads(page.getByTestId('inside'), /^0 of/)
    await page.getByLabel('Frames and foundation is').selectOption('in')
    await page.getByLabel('Jars is', { exact: true }).selectOption('in')
    await reads(page.getByTestId('inside'), /^([1-9]\d) of/)
    await signIn(shop, url, 'Fennmoor Honey Farm')
    const nav = shop.getByRole('navigation', { name: 'Departments' })
    await reads(nav, 'Frames and foundationJars and packaging')
    await shop.goto(`${url}/shop/product/TL-SM`)
    await shop.getByRole('heading', { name: 'This page is not available to you' }).waitFor()
    await shop.goto(`${url}/shop/search?words=smoker`)
    await shop.getByRole('heading', { name: /^0 found/ }).waitFor()
    await signIn(shop, url, 'Tarnside Apiaries')
    await shop.goto(`${url}/shop/product/TL-SM`)
    await shop.getByRole('button', { name: /Add to cart/ }).waitFor()
    await shop.context().close()
  })
})
