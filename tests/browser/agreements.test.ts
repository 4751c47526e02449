import { cell, eachTestInItsOwnWindow, openBoard, reads } from './browser'
import { withServer } from './server'
import { create as make, createRecord as create, openWord, save, setWord, settled, word } from './sheet-words'

jest.setTimeout(180_000)

const here = eachTestInItsOwnWindow()

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
      Country: 'Ireland',
    })
    await create(page, url, 'price-lists', {
      Name: 'Ridgeway agreed',
      Code: 'ridgeway-agreed',
      Purpose: 'contract',
      Rounding: 'ends .95',
    })
    const picker = await openWord(page, 'All other items')
    const rule = picker.getByRole('textbox', { name: 'Rule', exact: true })
    await rule.fill('-15%; 10: -18; fifty: -20%')
    await rule.press('Enter')
    await reads(picker.getByRole('alert').first(), /“fifty: -20%” is not a rule/)
    await rule.fill('15 % off base; from 10: 18 %; 50: -25%')
    await rule.press('Enter')
    await picker.waitFor({ state: 'detached' })
    await save(page)
    await reads(word(page, 'All other items'), /15 % off base; from 10: 18 % off base/)

    // A contract nobody is party to is refused, and what was typed stays, a reload included.
    await page.goto(`${url}/contracts/new`)
    await settled(page)
    await setWord(page, 'Name', 'Ridgeway supply')
    await setWord(page, 'Code', 'R-1')
    await setWord(page, 'Price lists', 'Ridgeway agreed')
    await page.getByRole('button', { name: 'Create' }).click()
    await page
      .getByRole('alert')
      .getByText(/a contract binds somebody/)
      .waitFor()
    await page.reload()
    await settled(page)
    await reads(word(page, 'Code'), 'R-1')
    const who = await openWord(page, 'Accounts')
    await who.getByRole('textbox').fill('no such farm')
    await page.keyboard.press('ArrowDown')
    await reads(who, /New account “no such farm”/)
    await who.getByRole('textbox').fill('Ridgeway Apiaries')
    await page.keyboard.press('Enter')
    await who.getByRole('button', { name: 'Remove Ridgeway Apiaries' }).waitFor()
    await page.keyboard.press('Enter')
    await who.waitFor({ state: 'detached' })
    await setWord(page, 'State', 'active')
    await make(page)

    // In the shop as them: 25.90 less 15 % is 22.015, ending .95; 18 % off from 10 on.
    await page.goto(`${url}/look-as-buyer?as=account:ridgeway&page=/shop/product/FR-BR`)
    await page.getByRole('button', { name: /Open the shop/ }).click()
    await reads(page.getByTestId('own-price').first(), '€21.95')
    await reads(page.getByTestId('break-table'), /1 to 921\.95.*10 to 4920\.95/)
    await page.getByRole('textbox', { name: /^Quantity of/ }).fill('12')
    await reads(page.getByTestId('own-price').first(), '€20.95')
    await reads(page.getByTestId('total'), '€251.40')

    // A second contract with a better rank: the trace says who won, and why the other did not.
    await create(page, url, 'price-lists', {
      Name: 'Ridgeway frames',
      Code: 'ridgeway-frames',
      Purpose: 'contract',
    })
    await setWord(page, 'All other items', '20.00')
    await save(page)
    await reads(word(page, 'All other items'), 'fixed 20')
    await page.goto(`${url}/contracts/R-1`)
    await setWord(page, 'Priority', '2')
    await save(page)
    await page.getByText('Ridgeway supply: priority changed').waitFor()
    await create(page, url, 'contracts', {
      Name: 'Ridgeway frame year',
      Code: 'R-2',
      Accounts: 'Ridgeway Apiaries',
      'Price lists': 'Ridgeway frames',
      State: 'active',
    })
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
    await create(page, url, 'price-lists', {
      Name: 'Tomorrow',
      Code: 'tomorrow',
      Purpose: 'promotional',
      Who: 'guests',
      When: `from ${day(tomorrow)}`,
      Rounding: '1',
    })
    await setWord(page, 'All other items', '-40%')
    await save(page)
    await reads(word(page, 'All other items'), '40 % off base')
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
    await settled(page)
    await page.getByRole('textbox', { name: 'New rate' }).fill('0')
    await page.getByRole('button', { name: 'Set the rate' }).click()
    await reads(page.getByRole('alert').first(), /must be above zero/)
    await page.getByRole('textbox', { name: 'New rate' }).fill('1,25')
    await page
      .getByRole('form', { name: 'New rate' })
      .getByText(/prices rise, by/)
      .waitFor()
    await page.getByRole('button', { name: 'Set the rate' }).click()
    await page.getByText('1.25, since').waitFor()
    await openBoard(page, `${gwen}FR-BR-PF`, url)
    await reads(cell(page, 'Pine, flat-packed, 10', 'account:gwen-pritchard'), own ?? '')
    await openBoard(page, `${gwen}HV-NAT-PF`, url)
    expect(await cell(page, 'Pine, flat-packed', 'account:gwen-pritchard').textContent()).not.toBe(converted)

    // What others need cannot be removed, and they are named.
    await page.goto(`${url}/groups/bee-farms`)
    await settled(page)
    await page.getByRole('button', { name: 'Remove', exact: true }).click()
    await page.getByText(/it cannot go, because .*(fennmoor|bee-farm-level)/).waitFor()
  })
})
