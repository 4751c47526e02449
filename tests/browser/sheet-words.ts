import type { Locator, Page } from 'playwright-core'

/** A word of a sheet's sentence, by what it is. */
export function word(page: Page, label: string): Locator {
  const sheet = page.getByTestId('sheet')
  return sheet.getByRole('button', { name: new RegExp(`^${escaped(label)}: .*Change$`) })
}

function escaped(text: string): string {
  return text.replace(/[.*+?^${}()|[\]\\]/g, '\\$&')
}

/** The control of a word once it is open. */
export async function openWord(page: Page, label: string): Promise<Locator> {
  const strip = page.getByRole('region', { name: label, exact: true })
  if ((await strip.count()) === 0) await word(page, label).click()
  await strip.getByRole('button', { name: /^Done/ }).waitFor()
  return strip
}

/** Changes a word as a merchant does: opens it, types or chooses, and keeps it. */
export async function setWord(page: Page, label: string, value: string): Promise<void> {
  const strip = await openWord(page, label)
  const radio = strip.getByRole('radio', { name: value })
  if ((await radio.count()) > 0) {
    await radio.check()
    await strip.getByRole('button', { name: /^Done/ }).click()
  } else {
    const field = strip.locator('input:not([type=checkbox]), textarea').first()
    // One name after another can be typed, until Enter on an empty field. Asked first: the strip may be gone after Enter.
    const isList = /^(Find: |Name, group|Channel or)/.test((await field.getAttribute('aria-label')) ?? '')
    await field.fill(value)
    await field.press('Enter')
    for (let tries = 0; isList && value !== '' && tries < 100 && (await strip.count()) > 0; tries += 1) {
      if ((await field.inputValue({ timeout: 200 }).catch(() => null)) === '') {
        // Where only one can be chosen, the strip closes by itself.
        await field.press('Enter', { timeout: 1_000 }).catch(() => undefined)
        break
      }
      await page.waitForTimeout(50)
    }
  }
  await strip.waitFor({ state: 'detached' })
  await settled(page)
}

/** Waits until the sheet shows what was typed last. */
export async function settled(page: Page): Promise<void> {
  await page.locator('[data-testid=sheet][aria-busy=false][data-ready=true]').waitFor()
}

/** Fills a new record word by word and makes it. */
export async function createRecord(
  page: Page,
  url: string,
  section: string,
  words: Readonly<Record<string, string>>,
): Promise<void> {
  await page.goto(`${url}/${section}/new`)
  await settled(page)
  for (const [label, value] of Object.entries(words)) await setWord(page, label, value)
  await create(page)
}

export async function create(page: Page): Promise<void> {
  await page.getByRole('button', { name: 'Create' }).click()
  await page.getByRole('region', { name: 'History' }).waitFor()
  await settled(page)
}

/** Saves what is typed on the sheet of a rule. */
export async function save(page: Page): Promise<void> {
  await page.getByRole('button', { name: 'Save', exact: true }).click()
  await page.getByRole('button', { name: 'Save', exact: true }).waitFor({ state: 'detached' })
  await settled(page)
}
