import { CannotOpenError, NewerDatabaseError, NotMigratedError } from '@/server/database/cannot-open'
import { MIGRATIONS } from '@/server/database/database'
import { openDatabase } from '@/server/database/open-database'
import { seedDemo } from '@/server/changes/seed-demo'
import { commit } from '@/server/changes/commit'
import { preparedAsOf } from '@/server/changes/history'
import { openSteppe, type Steppe } from '@/server/engine/steppe'
import { liveTarget, liveView } from '@/server/views/view'
import { sql } from 'drizzle-orm'
import {
  cpSync,
  mkdtempSync,
  readdirSync,
  readFileSync,
  renameSync,
  rmSync,
  truncateSync,
  writeFileSync,
} from 'node:fs'
import { createInterface } from 'node:readline'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { testInDirectory } from './in-directory'
import { edited } from './many-records'
import { program } from './program'
import { freshDirectory } from './temporary-directory'
import { fillForCommits } from './two-products'

const committer = program('committer')

/** The changes of the tables, and one more of a later version. */
function laterMigrations(statements: string): string {
  const folder = mkdtempSync(join(tmpdir(), 'steppe-migrations-'))
  cpSync(MIGRATIONS, folder, { recursive: true })
  const journal = join(folder, 'meta/_journal.json')
  const read = JSON.parse(readFileSync(journal, 'utf8')) as { entries: { idx: number; when: number }[] }
  const last = read.entries.at(-1) as { idx: number; when: number }
  const next = { ...last, idx: last.idx + 1, when: last.when + 1, tag: '9999_later' }
  writeFileSync(journal, JSON.stringify({ ...read, entries: [...read.entries, next] }))
  writeFileSync(join(folder, '9999_later.sql'), statements)
  return folder
}

async function filled(): Promise<ReturnType<typeof freshDirectory>> {
  const directory = freshDirectory()
  const steppe = await openSteppe(directory.path)
  await seedDemo(steppe)
  await steppe.close()
  return directory
}

test('a change of the tables that fails half way leaves nothing, and the version before still starts', async () => {
  const directory = await filled()
  const failing = laterMigrations(
    'create table later (id text);\n--> statement-breakpoint\nupdate product set code = null;',
  )
  const opening = openDatabase(directory.path, { migrations: failing })
  await expect(opening).rejects.toBeInstanceOf(NotMigratedError)
  await expect(opening).rejects.toThrow(/not-null.*the version before still starts/)

  const steppe = await openSteppe(directory.path)
  expect(liveView(steppe).prepared.store.product.size).toBe(116)
  const { rows } = await steppe.database.execute(sql`select to_regclass('later') is null as gone`)
  expect(rows).toEqual([{ gone: true }])
  await steppe.close()
  directory.remove()
  rmSync(failing, { recursive: true })
}, 60_000)

test('data that a later version has changed is refused, with what to do, and left as it is', async () => {
  const directory = await filled()
  const later = laterMigrations('create table later (id text);')
  await (await openDatabase(directory.path, { migrations: later })).close()
  await expect(openSteppe(directory.path)).rejects.toBeInstanceOf(NewerDatabaseError)
  const again = await openDatabase(directory.path, { migrations: later })
  const { rows } = await again.database.execute(sql`select count(*)::int as count from product`)
  expect(rows).toEqual([{ count: 116 }])
  await again.close()
  directory.remove()
  rmSync(later, { recursive: true })
}, 60_000)

testInDirectory(
  'a damaged directory is refused with the way out, and nothing more is written to it',
  async () => {
    const directory = await filled()
    const files = join(directory.path, 'database')
    const log = join(files, 'pg_wal')
    const damages: readonly ((copy: string) => void)[] = [
      (copy) => rmSync(join(copy, 'PG_VERSION')),
      (copy) => truncateSync(join(copy, 'global/pg_control'), 0),
      (copy) => writeFileSync(join(copy, 'global/pg_control'), Buffer.alloc(8_192, 7)),
      (copy) => rmSync(join(copy, 'global'), { recursive: true }),
      (copy) => {
        for (const each of readdirSync(log)) rmSync(join(copy, 'pg_wal', each), { recursive: true })
      },
    ]
    for (const damage of damages) {
      const copy = mkdtempSync(join(tmpdir(), 'steppe-damaged-'))
      cpSync(files, join(copy, 'database'), { recursive: true })
      damage(join(copy, 'database'))
      const opening = openSteppe(copy)
      await expect(opening).rejects.toBeInstanceOf(CannotOpenError)
      await expect(opening).rejects.toThrow(/damaged or not all there.*npm run restore/)
      rmSync(copy, { recursive: true })
    }
    directory.remove()
  },
  120_000,
)

testInDirectory(
  'two directories that are swapped under running servers stop both, and each holds all that was acknowledged in it',
  async () => {
    const directories = [freshDirectory(), freshDirectory()]
    for (const { path } of directories) await fillForCommits(path)
    const runs = directories.map(({ path }) => {
      const child = committer.start([path, '2'], ['ignore', 'pipe', 'pipe'])
      let said = ''
      child.stderr?.on('data', (part) => (said += String(part)))
      let last = 0
      const lines = createInterface({ input: child.stdout as NodeJS.ReadableStream })
      lines.on('line', (line) => (last = Number(line)))
      const ended = new Promise<number | null>((resolve) => child.once('exit', resolve))
      return { last: () => last, said: () => said, ended }
    })
    while (runs.some((run) => run.last() < 5)) await new Promise((resolve) => setTimeout(resolve, 20))
    const [left = '', right = ''] = directories.map(({ path }) => path)
    renameSync(left, `${left}-away`)
    renameSync(right, left)
    renameSync(`${left}-away`, right)
    for (const run of runs) {
      expect(await run.ended).toBe(1)
      expect(run.said()).toContain('The data is in the hands of another Steppe')
    }
    for (const [at, run] of runs.entries()) {
      const steppe = await openSteppe([right, left][at] as string)
      const stored = Number(steppe.prepared?.store.product.get('product-a')?.basePrice)
      expect(stored).toBe(Number(steppe.prepared?.store.product.get('product-b')?.basePrice))
      expect([run.last(), run.last() + 1]).toContain(stored)
      await steppe.close()
    }
    for (const directory of directories) directory.remove()
  },
  120_000,
)

test('a clock that jumps takes nothing out of its order: changes count as they were made, what was is what once was', async () => {
  const directory = await filled()
  const steppe = await openSteppe(directory.path)
  const id = 'product-BK-FY'
  const price = (of: Steppe['prepared']) => of?.store.product.get(id)?.basePrice
  const first = price(steppe.prepared)
  const at = (hour: string, day = '01') => new Date(`2026-12-${day}T${hour}:00Z`)
  const reprice = async (amount: string, hour: string, day?: string) => {
    const note = { author: 'Test', note: amount, at: at(hour, day) }
    const outcome = await commit(
      liveTarget(steppe),
      [edited(steppe, 'product', id, { basePrice: amount })],
      note,
    )
    expect(outcome).toMatchObject({ ok: true })
  }
  await reprice('31', '10:00')
  // An hour back, three days ahead, and right again.
  await reprice('32', '09:00')
  await reprice('33', '10:00', '04')
  await reprice('34', '11:00')
  expect(price(steppe.prepared)).toBe('34')
  const states = [first, '31', '32', '33', '34']
  for (const hour of ['08:00', '09:30', '10:30', '11:30'])
    expect(states).toContain(price(await preparedAsOf(steppe, at(hour))))
  expect(price(await preparedAsOf(steppe, at('08:00')))).toBe(first)
  expect(price(await preparedAsOf(steppe, at('10:00', '04')))).toBe('34')
  const numbers = await steppe.database.query.changeSets.findMany({ orderBy: (set, { asc }) => asc(set.id) })
  expect(numbers.slice(-4).map(({ note }) => note)).toEqual(['31', '32', '33', '34'])
  await steppe.close()
  const again = await openSteppe(directory.path)
  expect(price(again.prepared)).toBe('34')
  await again.close()
  directory.remove()
}, 60_000)
