// `npm run bench:board`: the board over 5,000 variants, measured in a real browser, end to end; with `-- large` behind it
// over 100,000 variants and 1,000,000 lines.
import { RECORD_KINDS } from '@/core/issue/issue'
import { type ChangeRequest, commit } from '@/server/changes/commit'
import { openSteppe } from '@/server/engine/steppe'
import { launch, openBoard, openWindow } from '@tests/browser/browser'
import { existsSync, mkdirSync } from 'node:fs'
import { startServer, type TestServer } from '@tests/browser/server'
import { largeStore } from './large-store'
import { median, milliseconds } from './measure'

const LARGE = { variants: 100_000, lists: 1_000, accounts: 200, linesPerList: 1_000 }
const USUAL = { variants: 5_000, lists: 24, accounts: 20, linesPerList: 60 }
const SIZE = process.argv.includes('large') ? LARGE : USUAL
const EDITS = 15
const SCROLLS = 60
const JUMPS = 15
const SCRUBS = 15

async function fill(data: string): Promise<void> {
  const steppe = await openSteppe(data)
  const store = largeStore(SIZE)
  const requests = RECORD_KINDS.flatMap((kind) =>
    [...store[kind].values()].map((after) => ({ kind, id: after.id, seen: null, after })),
  )
  const outcome = await commit(steppe, requests as unknown as ChangeRequest[], {
    author: 'Bench',
    note: 'fill',
    at: new Date(),
  })
  if (!outcome.ok) throw new Error(JSON.stringify(outcome).slice(0, 400))
  await steppe.close()
}

async function main(): Promise<void> {
  // As the start script sets it for the machine: a million lines are a large heap.
  process.env['NODE_OPTIONS'] = '--max-old-space-size=8192 --max-semi-space-size=64'
  const data = process.env.DATA as string
  if (!existsSync(data)) { mkdirSync(data); await fill(data) }
  const server = await startServer(data)
  try { await measureBoard(server) } finally { await server.stop() }
}

async function measureBoard(server: TestServer): Promise<void> {
  const browser = await launch()
  const window = await openWindow(browser)
  const page = await window.newPage()
  await openBoard(page, '', server.url)


  const out = await page
    .getByRole('slider', { name: 'Move through quantities' })
    .evaluate(async (slider, count) => {
      const times: object[] = []
      for (let quantity = 2; quantity < 2 + count; quantity += 1) {
        const start = performance.now()
        slider.dispatchEvent(new KeyboardEvent('keydown', { key: 'ArrowRight', bubbles: true }))
        const dispatched = performance.now()
        let e: PerformanceResourceTiming | undefined
        while (
          !(e = performance
            .getEntriesByType('resource')
            .find(({ name }) => name.includes('/api/board?') && name.includes(`buying=${quantity}&`)) as PerformanceResourceTiming)
        )
          await new Promise(requestAnimationFrame)
        const seen = performance.now()
        await new Promise(requestAnimationFrame)
        const drawn = performance.now()
        times.push({ key: dispatched - start, fetch: e.startTime - start, ttfb: e.responseStart - e.requestStart, wait: e.requestStart - e.startTime, end: e.responseEnd - start, size: e.decodedBodySize, seen: seen - start, drawn: drawn - start })
        performance.clearResourceTimings()
        await new Promise((resolve) => setTimeout(resolve, 300))
      }
      return times
    }, 15)
  for (const o of out) console.log(Object.entries(o).map(([k, v]) => `${k} ${Number(v).toFixed(0)}`).join('  '))
  await browser.close()
}

main().catch((error: unknown) => {
  console.error(error)
  process.exit(1)
})
