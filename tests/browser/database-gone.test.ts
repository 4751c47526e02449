import { type ChildProcess, spawn } from 'node:child_process'
import { existsSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { createInterface } from 'node:readline'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { cell, eachTestInItsOwnWindow, openBoard, reads, typeInto } from './browser'
import { startServer } from './server'

jest.setTimeout(180_000)

const here = eachTestInItsOwnWindow()
/** Debian's. Where there is none, the tests on a server say that they are left out. */
const testOnServer = existsSync('/usr/lib/postgresql') ? test : test.skip

/** A PostgreSQL server that does as it is told. */
async function holdPostgres() {
  const child: ChildProcess = spawn(process.execPath, ['tests/browser/held-postgres.mjs'], {
    stdio: ['pipe', 'pipe', 'inherit'],
  })
  const lines = createInterface({ input: child.stdout as NodeJS.ReadableStream })[Symbol.asyncIterator]()
  const said = async () => String((await lines.next()).value)
  const tell = async (word: 'stop' | 'start') => {
    child.stdin?.write(`${word}\n`)
    expect(await said()).toBe(word)
  }
  return {
    url: await said(),
    tell,
    remove: async () => {
      const ended = new Promise((resolve) => child.once('exit', resolve))
      child.stdin?.end()
      await ended
    },
  }
}

testOnServer(
  'while the database is gone prices are shown, nothing is saved and nothing typed is lost; it goes on by itself',
  async () => {
    const { page } = here
    const database = await holdPostgres()
    const data = mkdtempSync(join(tmpdir(), 'steppe-gone-'))
    writeFileSync(join(data, 'database-url'), database.url)
    const server = await startServer(data)
    try {
      await openBoard(page, '?find=FR-BR', server.url)
      const base = cell(page, 'Pine, flat-packed, 10', 'base')
      await reads(base, '25.90')
      await database.tell('stop')

      await typeInto(page, base, '27.10')
      const notice = page.getByRole('alert').filter({ hasText: 'The database does not answer' })
      await notice.waitFor({ timeout: 30_000 })
      // What was typed stands in its cell, and what is known is shown.
      await reads(base.locator('input'), '')
      expect(await base.locator('input').inputValue()).toBe('27.10')
      await page.goto(`${server.url}/board?find=FR-BR`)
      await reads(cell(page, 'Pine, flat-packed, 10', 'group:bee-farms'), 'L22.80')
      // What is published is left out, and the rate is there.
      await page.goto(`${server.url}/currencies/NOK`)
      await page.getByText('11.753, since 2 November 2026').waitFor()
      await page.goto(`${server.url}/shop/product/FR-BR`)
      await page.getByText('Nothing can be ordered or saved just now').waitFor()
      await page.getByText('25.90').first().waitFor()
      // Orders lie in it alone.
      await page.goto(`${server.url}/orders`)
      await page.getByRole('heading', { name: 'This page cannot be shown just now' }).waitFor()

      await database.tell('start')
      await page.getByRole('heading', { name: 'Orders' }).waitFor({ timeout: 30_000 })
      await openBoard(page, '?find=FR-BR', server.url)
      expect(await page.getByText('The database does not answer').count()).toBe(0)
      await typeInto(page, base, '27.10')
      await reads(cell(page, 'Pine, flat-packed, 10', 'group:bee-farms'), 'L23.85')
    } finally {
      await server.stop()
      await database.remove()
      rmSync(data, { recursive: true, force: true })
    }
  },
)
