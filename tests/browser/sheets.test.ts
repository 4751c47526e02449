import type { Page } from 'playwright-core'
import { cell, eachTestInItsOwnWindow, reads, testUrl, typeInto } from './browser'

jest.setTimeout(90_000)

const here = eachTestInItsOwnWindow()
let page: Page
beforeEach(() => {
  page = here.page
})

test('a product sheet: inherited and own values, taken over again when emptied', async () => {
  await page.goto(testUrl('/products'))
  await page.getByRole('searchbox').fill('brood frames')
  await page.getByRole('link', { name: 'Brood frames' }).click()
  await page.getByRole('heading', { name: /Brood frames/ }).waitFor()
  const cost = cell(page, 'FR-BR-PF', 'cost')
  await reads(cost, '13.10')
  await typeInto(page, cost, '13.75')
  await reads(cost, '13.75')
  await reads(cell(page, 'FR-BR-PF', 'margin'), '46.9 %')
  await typeInto(page, cost, '')
  await reads(cost, '13.10')
  await typeInto(page, cost, '14')
  await reads(cost, '14.00')
  await page.getByRole('button', { name: 'Take back: Cost of FR-BR-PF: 14' }).click()
  await reads(cost, '13.10')
  // What was changed again since cannot be taken back, and the reason is given.
  await page.getByRole('button', { name: 'Take back: Cost of FR-BR-PF: 13.75' }).click()
  await page.getByText(/FR-BR-PF was changed meanwhile/).waitFor()
  await reads(cost, '13.10')
  await typeInto(page, cell(page, 'For all variants', 'basePrice'), '1.005')
  await reads(
    cell(page, 'For all variants', 'basePrice').getByRole('alert'),
    /more digits than a price may have/,
  )
})

test('a price list: lines with their effect, a new line, what is refused', async () => {
  await page.goto(testUrl('/price-lists/bee-farm-level'))
  await reads(cell(page, 'everything else', 'rule'), '−12 %')
  const form = page.getByRole('form', { name: 'Add a line' })
  const add = async (what: string, rule: string) => {
    await form.getByLabel('What the line is for').fill(what)
    await form.getByLabel('Its rule').fill(rule)
    await form.getByRole('button', { name: 'Add' }).click()
  }
  await add('TL-JT-YX', '-20%')
  await reads(form.getByRole('alert'), /no SKU, product or category “TL-JT-YX”\. Did you mean TL-JT-YL\?/)
  expect(await form.getByLabel('What the line is for').inputValue()).toBe('TL-JT-YX')
  await add('TL-JT-YL', '-100%')
  await reads(form.getByRole('alert'), /would leave nothing/)
  await add('TL-JT-YL', '-20%')
  await reads(cell(page, 'TL-JT-YL', 'price'), '9.20')
  await add('TL-JT-YL', '9')
  await reads(form.getByRole('alert'), /has a line for “TL-JT-YL” already/)
  await reads(cell(page, 'TL-JT-YL', 'when'), 'always')
  await typeInto(page, cell(page, 'TL-JT-YL', 'when'), 'Mon; some day')
  await reads(cell(page, 'TL-JT-YL', 'when').getByRole('alert'), /“some day” says nothing of when/)
  await page.keyboard.press('Escape')
  await typeInto(page, cell(page, 'TL-JT-YL', 'when'), 'from 2031-03-01; Mon; Sat 10:00-12:00')
  await reads(cell(page, 'TL-JT-YL', 'when'), 'from 1 Mar 2031, Mon, Sat 10:00–12:00')
  await reads(cell(page, 'TL-JT-YL', 'variants'), 'never')
  await typeInto(page, cell(page, 'TL-JT-YL', 'rule'), '')
  await cell(page, 'TL-JT-YL', 'rule').waitFor({ state: 'detached' })
})

test('whom a list is for is chosen by mouse and by keys, and must be somebody', async () => {
  await page.goto(testUrl('/price-lists/school-level'))
  const word = page.getByRole('button', { name: /^Who the list is for: / })
  const picker = page.getByRole('region', { name: 'Who the list is for' })
  const row = (name: RegExp) => picker.getByRole('checkbox', { name })
  await word.click()
  await picker.getByTestId('reach').waitFor()
  await row(/^Schools/).click()
  await picker.getByRole('button', { name: /^Done/ }).click()
  await reads(picker.getByRole('alert'), /Choose at least one/)
  await row(/^Schools/).click()
  await row(/^Club members/).click()
  const [member] = await picker
    .getByRole('checkbox', { name: /in through something else/ })
    .evaluateAll((rows) => rows.map((each) => each.getAttribute('aria-label')?.split(',')[0] ?? ''))
  await row(new RegExp(`^${member}`)).focus()
  await page.keyboard.press('-')
  await row(new RegExp(`^${member}, left out`)).waitFor()
  // The sentence follows before anything is kept.
  await reads(word, new RegExp(`Schools and Club members, but not ${member}`))
  await page.keyboard.press('Escape')
  await reads(word, 'Schools')

  // The same by typing: words, and Enter on the empty field keeps them.
  await word.focus()
  await page.keyboard.press('Enter')
  const field = picker.getByRole('textbox')
  await field.waitFor()
  await field.fill('club')
  await page.keyboard.press('Enter')
  await field.fill(`not ${member}`)
  await page.keyboard.press('Enter')
  await field.fill('nobody at all')
  await page.keyboard.press('Enter')
  await reads(picker.getByRole('alert'), 'No results for “nobody at all”.')
  await field.fill('')
  await page.keyboard.press('Enter')
  await picker.waitFor({ state: 'detached' })
  await reads(
    page.getByTestId('list-sentence'),
    new RegExp(`^For Schools and Club members, but not ${member}`),
  )
  await word.click()
  await field.waitFor()
  await page.keyboard.press('Backspace')
  await page.keyboard.press('Backspace')
  await reads(picker.getByTestId('reach'), /Reaches 3 accounts/)
  await page.keyboard.press('Enter')
  await picker.waitFor({ state: 'detached' })
  await reads(page.getByTestId('list-sentence'), /^For Schools/)
})

test('a list is switched on and off, and its rounding changed', async () => {
  await page.goto(testUrl('/price-lists/spring-clear-out'))
  await page.getByRole('button', { name: 'switched off' }).click()
  await page.getByRole('button', { name: 'switched on' }).waitFor()
  await page.getByRole('button', { name: /Rounding of computed prices/ }).click()
  const dialog = page.getByRole('dialog', { name: 'Rounding of computed prices' })
  await dialog.getByLabel('Endings').fill('0.95, 0.45')
  await dialog.getByRole('button', { name: 'Save' }).click()
  await reads(dialog.getByRole('alert'), /must rise and stay below 1/)
  await dialog.getByLabel('Endings').fill('0.45, 0.90')
  await dialog.getByRole('button', { name: 'Save' }).click()
  await page.getByRole('button', { name: /to the nearest \.45 or \.90/ }).click()
  await dialog.getByLabel('Endings').fill('0.90')
  await dialog.getByRole('button', { name: 'Save' }).click()
  await page.getByRole('button', { name: /to the nearest \.90\. Change/ }).waitFor()
  await page.getByRole('button', { name: 'switched on' }).click()
  await page.getByRole('button', { name: 'switched off' }).waitFor()
})
