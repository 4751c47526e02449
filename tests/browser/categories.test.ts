import { eachTestInItsOwnWindow, reads } from './browser'
import { withServer } from './server'

jest.setTimeout(120_000)

const here = eachTestInItsOwnWindow()

test('a branch is moved by mouse and by keys, with what that would change before it is made', async () => {
  await withServer(async ({ url }) => {
    const { page } = here
    const row = (name: string) => page.getByRole('row', { name, exact: true })
    const level = (name: string) => row(name).getAttribute('aria-level')
    const isReady = () => page.locator('[data-ready=true]').first().waitFor()
    const isWeighed = async (pattern: RegExp) => {
      await page.waitForURL(pattern)
      await isReady()
    }
    await page.goto(`${url}/categories`)
    await isReady()
    const side = page.getByRole('complementary', { name: 'What the move would change' })

    // By mouse, into another branch, and put back.
    await row('Gloves').dragTo(row('Extraction'), {
      sourcePosition: { x: 60, y: 10 },
      targetPosition: { x: 60, y: 12 },
    })
    await isWeighed(/move=gloves&into=extraction/)
    await side.getByText('If Gloves moves here').waitFor()
    await row('Gloves, where it stands').waitFor()
    await side.getByRole('button', { name: /^Put back/ }).click()
    await isWeighed(/\/categories$/)
    await row('Gloves, where it stands').waitFor({ state: 'detached' })

    // By keys alone: to the row, and out one level.
    await row('Queens and nuclei').focus()
    await page.keyboard.press('ArrowDown')
    await page.keyboard.press('ArrowRight')
    await page.keyboard.press('ArrowDown')
    await page.keyboard.press('ArrowDown')
    await page.keyboard.press('Alt+ArrowLeft')
    await isWeighed(/move=nuclei&into=queens&before=queen-rearing/)
    await page.keyboard.press('Alt+ArrowDown')
    await isWeighed(/move=nuclei&into=queens&before=-/)
    await reads(side.getByTestId('moved-prices'), '17 fall, 1 rises')

    // A reload loses nothing; taking the lines along keeps every price.
    await page.reload()
    await isReady()
    // Both its ends are in sight, though the branch it leaves begins closed.
    await row('Nuclei, where it stands').waitFor()
    await side.getByRole('checkbox', { name: /^Keep today’s prices/ }).check()
    await reads(side.getByTestId('moved-prices'), 'no price moves')
    await side.getByRole('button', { name: /^Move/ }).click()
    await isWeighed(/\/categories$/)
    await row('Nuclei, where it stands').waitFor({ state: 'detached' })
    expect(await level('Nuclei')).toBe('2')

    // A name is changed in place, and an empty one is refused.
    await row('Nuclei').click({ position: { x: 240, y: 10 } })
    await page.keyboard.press('F2')
    const field = page.getByRole('textbox', { name: 'Name' })
    await field.fill('')
    await page.keyboard.press('Enter')
    await page.getByRole('alert').filter({ hasText: /name/i }).waitFor()
    await field.fill('Colonies')
    await page.keyboard.press('Enter')
    await row('Colonies').waitFor()
  })
})
