// `npm run bench:start`: how long the first page of a server takes over 100,000 variants and 1,000,000 lines, without and with the
// snapshot of an earlier start, beside reading the same rows in the same run; `-- usual` over 5,000 variants.
import { schema } from '@/server/database/database'
import { openDatabase } from '@/server/database/open-database'
import { openSteppe } from '@/server/engine/steppe'
import { loadStore } from '@/server/records/record-tables'
import { forgetSnapshot, snapshotFile } from '@/server/snapshot/read-kept'
import { freePort } from '../scripts/postgres.mjs'
import { sql } from 'drizzle-orm'
import { type ChildProcess, spawn } from 'node:child_process'
import { existsSync, mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { fillStore } from './fill-store'
import { median } from './measure'

const SIZE = process.argv.includes('usual')
  ? { variants: 5_000, lists: 24, accounts: 20, linesPerList: 60 }
  : { variants: 100_000, lists: 1_000, accounts: 200, linesPerList: 1_000 }
const ROUNDS = Number(process.env['STEPPE_BENCH_ROUNDS'] ?? 3)
const { variants, priceLines, products } = schema

interface RowsRead {
  /** Seconds that reading the rows takes plainly, once the database is open. */
  readonly plainly: number
  /** The same in blocks of JSON, as the application reads them, with records made of them. */
  readonly inBlocks: number
}

async function readRows(data: string): Promise<RowsRead> {
  const opened = await openDatabase(data)
  const start = performance.now()
  for (const table of [variants, priceLines, products])
    await opened.database.execute(sql`select * from ${table}`)
  const between = performance.now()
  await loadStore(opened.database)
  const end = performance.now()
  await opened.close()
  return { plainly: (between - start) / 1_000, inBlocks: (end - between) / 1_000 }
}

interface Started {
  /** Seconds until the first page. */
  readonly took: number
  /** Seconds until the first word of how far it is. */
  readonly told: number
  /** How often it said so. */
  readonly times: number
}

async function start(data: string, untilKept: boolean): Promise<Started> {
  const port = await freePort()
  const began = performance.now()
  const seconds = () => (performance.now() - began) / 1_000
  const child: ChildProcess = spawn(
    process.execPath,
    [join(process.cwd(), 'node_modules/.bin/next'), 'start', '-H', '127.0.0.1', '-p', String(port)],
    {
      env: {
        ...process.env,
        NODE_ENV: 'production',
        NEXT_MANUAL_SIG_HANDLE: '1',
        STEPPE_SIGN_IN: 'off',
        STEPPE_DATA: data,
        NODE_OPTIONS: '--max-old-space-size=8192 --max-semi-space-size=64',
      },
      stdio: ['ignore', 'ignore', 'inherit'],
    },
  )
  let told = Number.NaN
  let times = 0
  for (;;) {
    const status = await fetch(`http://127.0.0.1:${port}/board`, { headers: { accept: 'text/html' } }).then(
      async (response) => {
        await response.text()
        return response.status
      },
      () => 0,
    )
    if (status === 200) break
    if (status === 503) {
      if (times === 0) told = seconds()
      times += 1
    }
    await new Promise((resolve) => setTimeout(resolve, 20))
  }
  const took = seconds()
  while (untilKept && !existsSync(snapshotFile(data)))
    await new Promise((resolve) => setTimeout(resolve, 200))
  const ended = new Promise((resolve) => child.once('exit', resolve))
  child.kill('SIGTERM')
  await ended
  return { took, told, times }
}

const kept = process.env['STEPPE_BENCH_DATA']
const data = kept ?? mkdtempSync(join(tmpdir(), 'steppe-'))
if (!kept || !existsSync(join(data, 'database'))) {
  const steppe = await openSteppe(data)
  await fillStore(steppe, SIZE, new Date())
  await steppe.close()
}
const ratios: { first: number; second: number; secondToBlocks: number }[] = []
for (let round = 0; round < ROUNDS; round += 1) {
  const rows = await readRows(data)
  forgetSnapshot(data)
  const first = await start(data, true)
  const second = await start(data, false)
  ratios.push({
    first: first.took / rows.plainly,
    second: second.took / rows.plainly,
    secondToBlocks: second.took / rows.inBlocks,
  })
  const words = ({ took, told, times }: Started) =>
    `${took.toFixed(1)} s (told after ${told.toFixed(1)} s, ${times} times)`
  console.log(
    `rows ${rows.plainly.toFixed(1)} s (in blocks ${rows.inBlocks.toFixed(1)} s), first page ${words(first)}, from the snapshot ${words(second)}`,
  )
}
console.log(
  `first page, in readings of the rows           ${median(ratios.map(({ first }) => first)).toFixed(2)} (≤ 5)`,
)
console.log(
  `from the snapshot, in readings of the rows    ${median(ratios.map(({ second }) => second)).toFixed(2)} (≤ 1.5)`,
)
console.log(
  `the same, in readings in blocks              ${median(ratios.map(({ secondToBlocks }) => secondToBlocks)).toFixed(2)}`,
)
if (!kept) rmSync(data, { recursive: true, force: true })
