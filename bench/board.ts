// `npm run bench:board`: the board over 5,000 variants, measured in a real browser, end to end; with `-- large` behind it
// over 100,000 variants and 1,000,000 lines.
import { openSteppe } from '@/server/engine/steppe'
import { launch, openBoard, openWindow } from '@tests/browser/browser'
import { type TestServer, withServer } from '@tests/browser/server'
import { fillStore } from './fill-store'
import { median, milliseconds } from './measure'

const LARGE = { variants: 100_000, lists: 1_000, accounts: 200, linesPerList: 1_000 }
const USUAL = { variants: 5_000, lists: 24, accounts: 20, linesPerList: 60 }
const SIZE = process.argv.includes('large') ? LARGE : USUAL
const EDITS = 15
const SCROLLS = 60
const JUMPS = 15
const SCRUBS = 15
const CHOICES = 15

async function fill(data: string): Promise<void> {
  const steppe = await openSteppe(data)
  await fillStore(steppe, SIZE, new Date())
  await steppe.close()
}

async function main(): Promise<void> {
  // As the start script sets it for the machine: a million lines are a large heap.
  process.env['NODE_OPTIONS'] = '--max-old-space-size=8192 --max-semi-space-size=64'
  await withServer(measureBoard, fill)
}

async function measureBoard(server: TestServer): Promise<void> {
  const browser = await launch()
  const window = await openWindow(browser)
  const page = await window.newPage()
  await openBoard(page, '', server.url)

  const target = page.locator('[role=row]').nth(2).locator('[data-cell=base]')
  const edits: number[] = []
  for (let edit = 0; edit < EDITS; edit += 1) {
    await target.dblclick()
    await target.locator('input').fill(`${100 + edit}.50`)
    // From the key that ends the edit to the new figure; the cells that follow it are drawn in the same turn.
    edits.push(
      await target.evaluate(
        (cell, expected) =>
          new Promise<number>((resolve) => {
            const start = performance.now()
            const watcher = new MutationObserver(() => {
              if (cell.textContent !== expected) return
              watcher.disconnect()
              resolve(performance.now() - start)
            })
            watcher.observe(cell, { childList: true, characterData: true, subtree: true })
            document.activeElement?.dispatchEvent(
              new KeyboardEvent('keydown', { key: 'Enter', bubbles: true }),
            )
          }),
        `${100 + edit}.50`,
      ),
    )
    await page.waitForTimeout(150)
  }

  const frames = await page.locator('[role=grid]').evaluate(async (grid, scrolls) => {
    const times: number[] = []
    for (let scroll = 0; scroll < scrolls; scroll += 1) {
      const start = performance.now()
      grid.scrollTop += 900
      await new Promise((resolve) => requestAnimationFrame(() => requestAnimationFrame(resolve)))
      times.push(performance.now() - start)
    }
    return times
  }, SCROLLS)

  // Far away, where no row has been read yet: until the last of them is there.
  const jumps = await page.locator('[role=grid]').evaluate(async (grid, count) => {
    const times: number[] = []
    for (let jump = 1; jump <= count; jump += 1) {
      const start = performance.now()
      grid.scrollTop = (grid.scrollHeight / (count + 1)) * jump
      await new Promise(requestAnimationFrame)
      do await new Promise(requestAnimationFrame)
      while ([...grid.querySelectorAll('[data-cell=name]')].some((cell) => cell.textContent === '…'))
      times.push(performance.now() - start)
      await new Promise((resolve) => setTimeout(resolve, 100))
    }
    return times
  }, JUMPS)

  // One step of a scrubbed quantity, from the key to the rows of the answer drawn.
  const scrubs = await page
    .getByRole('slider', { name: 'Move through quantities' })
    .evaluate(async (slider, count) => {
      const times: number[] = []
      // The browser keeps so many and no more, and scrolling has read hundreds of blocks.
      performance.clearResourceTimings()
      for (let step = 0; step < count; step += 1) {
        const quantity = Number(slider.getAttribute('aria-valuenow')) + 1
        const start = performance.now()
        slider.dispatchEvent(new KeyboardEvent('keydown', { key: 'ArrowRight', bubbles: true }))
        // A hand that rests lets go of the handle: then nobody answers a scrub any more.
        while (
          performance.now() - start < 5000 &&
          !performance
            .getEntriesByType('resource')
            .some(({ name }) => name.includes('/api/board?') && name.includes(`buying=${quantity}&`))
        )
          await new Promise(requestAnimationFrame)
        await new Promise(requestAnimationFrame)
        times.push(performance.now() - start)
        performance.clearResourceTimings()
        await new Promise((resolve) => setTimeout(resolve, 60))
      }
      return times
    }, SCRUBS)

  // The picker of what is shown: from a branch that is taken in or out to the foot that says what is matched by then.
  await page.getByRole('button', { name: /^Showing/ }).click()
  const picker = page.getByRole('region', { name: 'Showing' })
  await picker.getByRole('button', { name: 'Remove everything' }).click()
  const branches = picker.getByRole('checkbox', { name: /^Branch/ })
  await branches.first().waitFor()
  const choices: number[] = []
  for (let choice = 0; choice < CHOICES; choice += 1)
    choices.push(
      await branches.nth(choice % (await branches.count())).evaluate(async (box, count) => {
        const foot = document.querySelector('[data-testid=reach]')
        const before = foot?.textContent
        const start = performance.now()
        ;(box as HTMLInputElement).click()
        while (
          performance.now() - start < 5000 &&
          (foot?.textContent === before || /Counting/.test(foot?.textContent ?? ''))
        )
          await new Promise(requestAnimationFrame)
        const taken = performance.now() - start
        await new Promise((resolve) => setTimeout(resolve, count))
        return taken
      }, 150),
    )

  console.log(
    `Board of ${SIZE.variants} variants, ${SIZE.lists * SIZE.linesPerList} lines and 13 buyers, in Chromium, end to end`,
  )
  console.log(
    `an edit, Enter to changed cell   ${milliseconds(median(edits))} (slowest ${milliseconds(Math.max(...edits))})`,
  )
  console.log(
    `scrolling by a page, to drawn    ${milliseconds(median(frames))} (slowest ${milliseconds(Math.max(...frames))})`,
  )
  console.log(
    `a jump to rows not read yet      ${milliseconds(median(jumps))} (slowest ${milliseconds(Math.max(...jumps))})`,
  )
  console.log(
    `a step of a scrubbed quantity    ${milliseconds(median(scrubs))} (slowest ${milliseconds(Math.max(...scrubs))})`,
  )
  console.log(
    `the foot of the What picker      ${milliseconds(median(choices))} (slowest ${milliseconds(Math.max(...choices))})`,
  )
  await browser.close()
}

main().catch((error: unknown) => {
  console.error(error)
  process.exit(1)
})
