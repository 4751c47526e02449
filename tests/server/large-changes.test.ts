import { commit } from '@/server/changes/commit'
import {
  formerlyKnownAs,
  latestChangesOf,
  latestChangeSets,
  preparedAsOf,
  undo,
} from '@/server/changes/history'
import { openSteppe, type Steppe } from '@/server/engine/steppe'
import { loadStore } from '@/server/records/record-tables'
import { seedDemo } from '@/server/changes/seed-demo'
import { createInterface } from 'node:readline'
import { edited, newProducts, newRecord, repriced } from './many-records'
import { program } from './program'
import { freshDirectory } from './temporary-directory'
import { liveTarget, liveView, revisionOf } from '@/server/views/view'

const MANY = 1_200
const note = { author: 'Test', note: 'many', at: new Date('2026-12-01T10:00:00Z') }
const directory = freshDirectory()
const writer = program('large-writer')
let steppe: Steppe

beforeAll(async () => {
  steppe = await openSteppe(directory.path)
  await seedDemo(steppe)
  expect(await commit(liveTarget(steppe), newProducts(MANY), note)).toMatchObject({ ok: true })
}, 120_000)
afterAll(async () => {
  await steppe.close()
  directory.remove()
})

const store = () => liveView(steppe).prepared.store
const priceOf = (id: string) => Number(store().product.get(id)?.basePrice)

/** What a server that starts now would know is what this one knows. */
async function isOnDisk(): Promise<void> {
  const loaded = await loadStore(steppe.database)
  expect(loaded.store.product).toEqual(new Map(store().product))
  expect(loaded.store.category).toEqual(new Map(store().category))
  expect(loaded.revisions).toEqual(steppe.revisions)
}

/** Acts once, as soon as the first rows are written; gives what came of the large change and of it. */
async function during<Result>(price: string, act: () => Promise<Result>) {
  let acted: Promise<Result> | null = null
  const large = await commit(liveTarget(steppe), repriced(steppe, MANY, price), note, (stage, done) => {
    if (stage === 'writing' && done >= MANY + 500) acted ??= act()
  })
  return { large, acted: await (acted as Promise<Result> | null) }
}

test('others write what a large change does not touch, and read the store without it until it is whole', async () => {
  const seen: unknown[] = []
  const { large, acted } = await during('2', async () => {
    const small = await commit(
      liveTarget(steppe),
      [edited(steppe, 'category', 'category-hives', { name: 'Hive' })],
      note,
    )
    seen.push(steppe.underWay !== null, priceOf('many-7'))
    seen.push(await formerlyKnownAs(steppe, 'product', 'many-7'))
    seen.push((await latestChangesOf(liveView(steppe), 'product', 'many-7', 5)).length)
    seen.push((await latestChangeSets(steppe, 1))[0]?.id)
    return small
  })
  expect(large).toMatchObject({ ok: true })
  expect(acted).toMatchObject({ ok: true })
  expect(seen).toEqual([true, 1, null, 1, acted?.ok && acted.changeSet])
  expect(large.ok && acted?.ok && large.changeSet > acted.changeSet).toBe(true)
  expect([priceOf('many-7'), store().category.get('category-hives')?.name]).toEqual([2, 'Hive'])
  expect(await formerlyKnownAs(steppe, 'product', 'many-7')).toBe('many-7')
  await isOnDisk()
})

test('who wants one of its records waits, and is told that it has changed', async () => {
  const { acted } = await during('3', () =>
    commit(liveTarget(steppe), [edited(steppe, 'product', 'many-1199', { name: 'Mine' })], note),
  )
  expect(acted).toMatchObject({ ok: false, code: 'stale', conflicts: [{ label: 'many-1199-at-3' }] })
  expect(priceOf('many-1199')).toBe(3)
})

test('what cannot stand beside it is refused', async () => {
  const { acted } = await during('4', () =>
    commit(
      liveTarget(steppe),
      [newRecord('product', 'other', { code: 'many-9-at-4', categories: ['category-hives'] })],
      note,
    ),
  )
  expect(acted).toMatchObject({ ok: false, code: 'invalid', issues: [{ code: 'duplicate' }] })
  await isOnDisk()
})

test('what was changed while it was read is taken along', async () => {
  let small: ReturnType<typeof commit> | null = null
  const large = await commit(liveTarget(steppe), repriced(steppe, MANY, '5'), note, (stage) => {
    if (stage === 'checking')
      small ??= commit(
        liveTarget(steppe),
        [edited(steppe, 'category', 'category-hives', { name: 'Hives' })],
        note,
      )
  })
  expect([large.ok, (await (small as ReturnType<typeof commit> | null))?.ok]).toEqual([true, true])
  expect([priceOf('many-0'), store().category.get('category-hives')?.name]).toEqual([5, 'Hives'])
  await isOnDisk()
})

test('stopped on its way it leaves nothing, and others keep what they wrote', async () => {
  const before = new Map(steppe.revisions)
  for (const when of [0, 700, MANY + 700]) {
    const stopped = commit(liveTarget(steppe), repriced(steppe, MANY, '6'), note, (stage, done) => {
      if (stage === 'writing' && done >= when) throw new Error('stop')
    })
    await expect(stopped).rejects.toThrow('stop')
    expect(steppe.underWay).toBeNull()
    expect(priceOf('many-3')).toBe(5)
    expect(steppe.revisions).toEqual(before)
    await isOnDisk()
  }
  expect(await latestChangesOf(liveView(steppe), 'product', 'many-3', 9)).toHaveLength(5)
})

test('is undone as a whole, and a day before it shows the store without it', async () => {
  const at = new Date('2026-12-02T10:00:00Z')
  const large = await commit(liveTarget(steppe), repriced(steppe, MANY, '7'), { ...note, at })
  if (!large.ok) throw new Error(large.code)
  const past = await preparedAsOf(steppe, new Date('2026-12-01T18:00:00Z'))
  expect(Number(past.store.product.get('many-3')?.basePrice)).toBe(5)
  expect(await undo(liveView(steppe), large.changeSet, note)).toMatchObject({ ok: true })
  expect(priceOf('many-3')).toBe(5)
  await isOnDisk()
})

test('a tree larger than one slice is made from its top and removed from its leaves', async () => {
  const ids = Array.from({ length: 1_100 }, (_, at) => `branch-${String(at).padStart(4, '0')}`)
  // The first one listed is a leaf: 44 branches hang on each other, 25 of these beside each other.
  const parentOf = (at: number) => ((at + 1) % 44 === 0 ? null : (ids[at + 1] as string))
  const made = ids.map((id, at) => newRecord('category', id, { parent: parentOf(at) }))
  expect(await commit(liveTarget(steppe), made, note)).toMatchObject({ ok: true })
  await isOnDisk()
  const removed = ids.map((id) => edited(steppe, 'category', id, null)).reverse()
  expect(await commit(liveTarget(steppe), removed, note)).toMatchObject({ ok: true })
  await isOnDisk()
})

test('a server killed in the middle of one comes back without it', async () => {
  const known = new Map(store().product)
  const revisions = new Map(steppe.revisions)
  await steppe.close()
  for (const when of [0, 1_000, MANY + 1, MANY + 1_000]) {
    const child = writer.start([directory.path, String(MANY), '8'], ['ignore', 'pipe', 'inherit'])
    const ended = new Promise((resolve) => child.once('exit', resolve))
    for await (const line of createInterface({ input: child.stdout as NodeJS.ReadableStream }))
      if (Number(line) >= when) child.kill('SIGKILL')
    await ended
    steppe = await openSteppe(directory.path)
    expect(new Map(store().product)).toEqual(known)
    expect(steppe.revisions).toEqual(revisions)
    expect(revisionOf(liveTarget(steppe), 'product', 'many-0')).toBe(revisions.get('product/many-0'))
    await steppe.close()
  }
  steppe = await openSteppe(directory.path)
}, 120_000)
