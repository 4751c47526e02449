import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import type { Browser } from 'playwright-core'
import { cell, launch, openBoard, openWindow, reads, typeInto } from './browser'
import { startServer } from './server'

jest.setTimeout(120_000)

let browser: Browser
beforeAll(async () => {
  browser = await launch()
})
afterAll(() => browser.close())

test('after a restart everything is there', async () => {
  const data = mkdtempSync(join(tmpdir(), 'steppe-restart-'))
  const window = await openWindow(browser)
  const page = await window.newPage()

  const first = await startServer(data)
  await openBoard(page, '?find=FR-BR', first.url)
  await typeInto(page, cell(page, 'Pine, flat-packed, 10', 'base'), '27.10')
  await reads(cell(page, 'Pine, flat-packed, 10', 'group:bee-farms'), 'L23.85')
  await first.stop()

  const second = await startServer(data)
  await openBoard(page, '?find=FR-BR', second.url)
  await reads(cell(page, 'Pine, flat-packed, 10', 'base'), '27.10')
  await reads(cell(page, 'Pine, flat-packed, 10', 'group:bee-farms'), 'L23.85')
  await page.goto(`${second.url}/products/FR-BR`)
  await page.getByText('Base price of FR-BR-PF: 27.10').waitFor()
  await second.stop()
  await window.close()
  rmSync(data, { recursive: true, force: true })
})
