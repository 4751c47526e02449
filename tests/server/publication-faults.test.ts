import { RECORD_DEFAULTS } from '@/core/store/record-defaults'
import { commit } from '@/server/changes/commit'
import type { ChangeRequest } from '@/server/changes/weigh'
import { openDrafts } from '@/server/drafts/draft-rows'
import { openSteppe } from '@/server/engine/steppe'
import { liveTarget, liveView } from '@/server/views/view'
import { getView } from '@/server/views/views'
import { createInterface } from 'node:readline'
import { program } from './program'
import { freshDirectory } from './temporary-directory'

const directory = freshDirectory()
const publisher = program('publisher')
afterAll(() => directory.remove())

/** More of them in `npm run soak`. */
const KILLS = Number(process.env['STEPPE_KILLS'] ?? 20)

const product = (id: string) =>
  ({
    kind: 'product',
    id,
    seen: null,
    after: { ...RECORD_DEFAULTS.product, id, code: id, name: id, categories: ['all'], basePrice: '1' },
  }) as unknown as ChangeRequest

/** Lets a publisher work for some milliseconds after its first sign of life, kills it, and gives the last number it said. */
async function killAfter(milliseconds: number, from: number): Promise<number> {
  const child = publisher.start([directory.path, String(from)], ['ignore', 'pipe', 'inherit'])
  const ended = new Promise((resolve) => child.once('exit', resolve))
  let last = from - 1
  for await (const line of createInterface({ input: child.stdout as NodeJS.ReadableStream })) {
    if (last === from - 1) setTimeout(() => child.kill('SIGKILL'), milliseconds)
    last = Number(line)
  }
  await ended
  return last
}

test('a publication is all there or not at all, and there once, wherever the server is killed', async () => {
  const first = await openSteppe(directory.path)
  const settings = { ...RECORD_DEFAULTS.settings, id: 'settings', currency: 'EUR', priceDigits: 2 }
  const category = { ...RECORD_DEFAULTS.category, id: 'all', code: 'all', name: 'All' }
  const made = await commit(
    liveTarget(first),
    [
      { kind: 'settings', id: 'settings', seen: null, after: settings },
      { kind: 'category', id: 'all', seen: null, after: category },
      product('product-a'),
      product('product-b'),
    ] as unknown as ChangeRequest[],
    { author: 'Test', note: 'set up', at: new Date(0) },
  )
  expect(made).toMatchObject({ ok: true })
  await first.close()

  let next = 2
  for (let kill = 0; kill < KILLS; kill += 1) {
    const acknowledged = await killAfter((kill * 7) % 41, next)
    const steppe = await openSteppe(directory.path)
    const { product: products } = liveView(steppe).prepared.store
    const live = Number(products.get('product-a')?.basePrice)
    expect(Number(products.get('product-b')?.basePrice)).toBe(live)
    expect(live).toBeGreaterThanOrEqual(acknowledged)
    expect(live).toBeLessThanOrEqual(acknowledged + 1)
    // Every published draft is one change set of its own, and every change set but the first one draft.
    const published = (await steppe.database.query.drafts.findMany()).filter(
      ({ state }) => state === 'published',
    )
    expect(published).toHaveLength(steppe.lastChangeSet - 1)
    expect(new Set(published.map(({ changeSet }) => changeSet)).size).toBe(published.length)
    // What is still open can be looked through: it holds whole edits, none of them half.
    for (const { code } of await openDrafts(steppe.database)) {
      const { draft } = await getView(steppe, { kind: 'draft', code })
      expect(draft?.conflicts.every(({ because }) => because.code === 'fields')).toBe(true)
    }
    await steppe.close()
    next = live + 1
  }
}, 600_000)
