import { ZERO } from '@/core/decimal/decimal'
import { RECORD_KINDS } from '@/core/issue/issue'
import { commit } from '@/server/changes/commit'
import { seedDemo } from '@/server/changes/seed-demo'
import { openSteppe, type Steppe } from '@/server/engine/steppe'
import { loadStore } from '@/server/records/record-tables'
import { keepSnapshot } from '@/server/snapshot/keep-snapshot'
import { snapshotFile } from '@/server/snapshot/read-kept'
import type { ChangeRequest } from '@/server/changes/weigh'
import { liveTarget } from '@/server/views/view'
import { sql } from 'drizzle-orm'
import { existsSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { countStock } from '@/server/stock/move-stock'
import { newProducts, repriced } from './many-records'
import { freshDirectory } from './temporary-directory'

const MANY = 40
const directory = freshDirectory()
const file = snapshotFile(directory.path)
const note = { author: 'Test', at: new Date('2026-12-01T10:00:00Z'), note: 'a change' }

async function opened(act: (steppe: Steppe) => Promise<void>): Promise<void> {
  const steppe = await openSteppe(directory.path)
  try {
    await act(steppe)
  } finally {
    await steppe.close()
  }
}

/** What is in memory is what the database holds, read record by record. */
async function isWhole(steppe: Steppe): Promise<void> {
  const { store, revisions } = await loadStore(steppe.database)
  for (const kind of RECORD_KINDS)
    expect(Object.fromEntries(steppe.prepared?.store[kind] ?? [])).toEqual(Object.fromEntries(store[kind]))
  expect(steppe.prepared?.store.outOfStock).toEqual(store.outOfStock)
  expect(steppe.revisions).toEqual(revisions)
}

async function made(steppe: Steppe, requests: Parameters<typeof commit>[1]): Promise<void> {
  const outcome = await commit(liveTarget(steppe), requests, note)
  if (!outcome.ok) throw new Error(outcome.code)
}

let whole = Buffer.alloc(0)

beforeAll(async () => {
  await opened(async (steppe) => {
    await seedDemo(steppe)
    await made(steppe, newProducts(MANY))
    expect(steppe.snapshotAge).toBeNull()
    await keepSnapshot(steppe, 0)
  })
  whole = readFileSync(file)
}, 60_000)
afterAll(() => directory.remove())
beforeEach(() => writeFileSync(file, whole))

test('a store that is read from its snapshot is what the database holds', async () => {
  await opened(async (steppe) => {
    expect(steppe.snapshotAge).toBe(0)
    await isWhole(steppe)
  })
})

test('what was changed, removed and sold out since is in it', async () => {
  await opened(async (steppe) => {
    await made(steppe, repriced(steppe, MANY, '2'))
    await made(steppe, repriced(steppe, MANY, '3'))
    await made(
      steppe,
      repriced(steppe, 1, '3').map((request): ChangeRequest => ({ ...request, after: null })),
    )
    const [variant = ''] = steppe.prepared?.store.variant.keys() ?? []
    await countStock(steppe.database, [{ variant, seen: null, counted: ZERO }], note)
  })
  await opened(async (steppe) => {
    expect(steppe.snapshotAge).toBe(MANY)
    expect(steppe.prepared?.store.outOfStock.size).toBeGreaterThan(0)
    await isWhole(steppe)
  })
})

test('one that is damaged, cut off or of another program is not believed', async () => {
  const text = whole.toString()
  const flipped = Buffer.from(whole)
  flipped[Math.floor(whole.length / 2)] = (flipped[Math.floor(whole.length / 2)] ?? 0) ^ 1
  const doubtful = [
    flipped,
    whole.subarray(0, whole.length / 2),
    whole.subarray(0, -2),
    Buffer.concat([whole, Buffer.from('{}\n')]),
    Buffer.from(text.replace('"version":1', '"version":2')),
    Buffer.from(text.replace(/"shape":"./, '"shape":"-')),
    Buffer.from(''),
    Buffer.from('null\n'),
  ]
  for (const bytes of doubtful) {
    writeFileSync(file, bytes)
    await opened(async (steppe) => {
      expect(steppe.snapshotAge).toBeNull()
      expect(steppe.prepared?.store.product.size).toBeGreaterThan(MANY)
    })
  }
})

test('one of another database is not believed, nor one beside which records were put or removed', async () => {
  await opened(async (steppe) => {
    // Not through the one door for writes, as somebody with a tool of the database would.
    await steppe.database.execute(sql`delete from price_line where id in (select id from price_line limit 1)`)
  })
  await opened(async (steppe) => {
    expect(steppe.snapshotAge).toBeNull()
    await isWhole(steppe)
    await keepSnapshot(steppe, 0)
  })
  await opened(async (steppe) => {
    expect(steppe.snapshotAge).toBe(0)
    await steppe.database.execute(sql`update change_set set author = 'Somebody else'`)
  })
  await opened(async (steppe) => expect(steppe.snapshotAge).toBeNull())
})

test('a small store keeps none, and a full disk is left its room', async () => {
  await opened(async (steppe) => {
    rmSync(file)
    const unread = { ...steppe, snapshotAge: null }
    await keepSnapshot(unread)
    await keepSnapshot({ ...unread, freeBytes: () => 1_000_000 }, 0)
    expect(existsSync(file)).toBe(false)
    await keepSnapshot(unread, 0)
    expect(existsSync(file)).toBe(true)
  })
})
