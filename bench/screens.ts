// `npm run bench:screens`: every page and interface over 100,000 variants and 1,000,000 lines, beside a page with nothing
// on it in the same run, and how long each holds up whoever else asks; with `-- usual` over 5,000 variants.
import { commit } from '@/server/changes/commit'
import type { ChangeRequest } from '@/server/changes/weigh'
import { openSteppe } from '@/server/engine/steppe'
import { startServer } from '@tests/browser/server'
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { fillStore } from './fill-store'
import { median } from './measure'
import { liveTarget } from '@/server/views/view'

const SIZE = process.argv.includes('usual')
  ? { variants: 5_000, lists: 24, accounts: 20, linesPerList: 60 }
  : { variants: 100_000, lists: 1_000, accounts: 200, linesPerList: 1_000 }
const REPEATS = 5
/** Wanted of a page, in empty pages. */
const MOST = 10

/** Nothing is asked of the store but who is there. */
const EMPTY = '/shop/contact'

interface Asked {
  readonly path: string
  readonly body?: unknown
  readonly method?: string
}

const unknownItems = Array.from({ length: 50 }, (_, at) => ({
  id: String(at),
  sku: `X-V${at}`,
  as: { guest: true },
}))

const SCREENS: readonly Asked[] = [
  '/board',
  '/board?as=account:a7&buying=20',
  '/board?on=2027-02-01T00:00Z',
  '/board?on=2026-11-02T12:00Z',
  '/compare?left=guest&right=account:a7',
  '/products',
  '/products/P40',
  '/categories',
  '/categories/c3',
  '/price-lists',
  '/price-lists/L7',
  '/accounts',
  '/accounts/a7',
  '/groups',
  '/groups/g1',
  '/contracts',
  '/settings/settings',
  '/taxes',
  '/access',
  '/assortments',
  '/limits-in-force',
  '/promotion-clashes',
  '/import',
  '/shop',
  '/shop/category/c3',
  '/shop/search?words=product',
  '/shop/product/P40',
  '/shop/cart',
  '/shop/quick',
  '/api/find?words=product+40',
  '/api/items?words=40',
  '/api/shop/products',
  '/api/shop/suggestions?words=prod',
  '/api/store',
]
  .map((path): Asked => ({ path }))
  .concat([
    { path: '/api/prices', method: 'POST', body: unknownItems },
    {
      path: '/api/prices',
      method: 'POST',
      body: Array.from({ length: 1_000 }, (_, at) => ({
        id: String(at),
        sku: `V${at * 90}`,
        as: { account: `a${at % 200}` },
      })),
    },
  ])

async function fill(data: string): Promise<void> {
  const steppe = await openSteppe(data)
  await fillStore(steppe, SIZE, new Date('2026-11-01T10:00:00Z'))
  // A day is looked back to over changes made since, as in a store that is worked in.
  for (let day = 3; day < 23; day += 1) {
    const before = steppe.prepared?.store.product.get('p0')
    const change = { kind: 'product', id: 'p0', seen: null, after: { ...before, basePrice: `${day}.00` } }
    const at = new Date(`2026-11-${String(day).padStart(2, '0')}T10:00:00Z`)
    await commit(liveTarget(steppe), [change] as unknown as ChangeRequest[], {
      author: 'Bench',
      note: 'edit',
      at,
    })
  }
  await steppe.close()
}

interface Measured {
  readonly status: number
  readonly first: number
  readonly warm: number
  readonly bytes: number
  /** The longest that somebody else waited for an empty page meanwhile. */
  readonly held: number
}

async function time(url: string, { path, method = 'GET', body }: Asked) {
  const start = performance.now()
  const response = await fetch(url + path, {
    method,
    redirect: 'follow',
    ...(body === undefined
      ? {}
      : { body: JSON.stringify(body), headers: { 'content-type': 'application/json' } }),
  })
  const { byteLength } = await response.arrayBuffer()
  return { status: response.status, bytes: byteLength, took: performance.now() - start }
}

async function measure(url: string, asked: Asked): Promise<Measured> {
  let isDone = false
  let held = 0
  const others = (async () => {
    while (!isDone) held = Math.max(held, (await time(url, { path: '/icon.svg' })).took)
  })()
  const first = await time(url, asked)
  isDone = true
  await others
  const warm: number[] = []
  for (let repeat = 0; repeat < REPEATS; repeat += 1) warm.push((await time(url, asked)).took)
  return { status: first.status, bytes: first.bytes, first: first.took, warm: median(warm), held }
}

async function main(): Promise<void> {
  process.env['NODE_OPTIONS'] = '--max-old-space-size=8192 --max-semi-space-size=64'
  const kept = process.env['STEPPE_BENCH_DATA']
  const data = kept ?? mkdtempSync(join(tmpdir(), 'steppe-'))
  if (!kept || process.argv.includes('fill')) await fill(data)
  const server = await startServer(data)
  for (let round = 0; round < 10; round += 1) await time(server.url, { path: EMPTY })
  const empty = (await measure(server.url, { path: EMPTY })).warm
  console.log(`an empty page: ${empty.toFixed(1)} ms\n`)
  console.log('page'.padEnd(46), 'status', '  first', '   warm', ' × empty', '  held', '      kB')
  for (const asked of SCREENS) {
    const { status, first, warm, held, bytes } = await measure(server.url, asked)
    const ratio = warm / empty
    console.log(
      `${asked.method ?? ''} ${asked.path}`.trim().padEnd(46),
      String(status).padStart(6),
      first.toFixed(0).padStart(7),
      warm.toFixed(1).padStart(7),
      ratio.toFixed(1).padStart(8),
      held.toFixed(0).padStart(6),
      (bytes / 1024).toFixed(0).padStart(8),
      ratio > MOST ? 'over' : '',
    )
  }
  await server.stop()
  if (!kept) rmSync(data, { recursive: true, force: true })
}

void main()
