import { undo } from '@/server/changes/history'
import { seedDemo } from '@/server/changes/seed-demo'
import { openSteppe, type Steppe } from '@/server/engine/steppe'
import { noteImport } from '@/server/imports/import-rows'
import {
  cancelImport,
  leaveOut,
  openImport,
  resumeImports,
  startReading,
  startWriting,
} from '@/server/imports/import-job'
import { type ImportJob, importJobs } from '@/server/imports/import-state'
import { toDocument } from '@/server/exchange/store-document'
import { demoSteppe } from './demo-steppe'
import { freshDirectory } from './temporary-directory'
import { liveView } from '@/server/views/view'

const demo = demoSteppe()
let steppe: Steppe
beforeAll(() => {
  steppe = demo.current
})

const NEW_ROWS = 3_000

function file(rows: number, price: string): Uint8Array {
  const lines = Array.from({ length: rows }, (_, at) => `NEW-${at},Thing ${at},Stock clearance,${price}`)
  return new TextEncoder().encode(`SKU,Name,Category,Price\n${lines.join('\n')}\nBAD,,,x\n`)
}

async function open(bytes: Uint8Array): Promise<ImportJob> {
  const opened = await openImport(steppe, { kind: 'products' }, { name: 'new.csv', bytes })
  if (!opened.ok) throw new Error(opened.problem.code)
  startReading(steppe, opened.job, opened.job.matching, opened.job.mark)
  return settled(opened.job)
}

async function settled(job: ImportJob): Promise<ImportJob> {
  while (['reading', 'checking', 'writing'].includes(job.state.step))
    await new Promise((go) => setImmediate(go))
  return job
}

test('an import is one change set; taking it back leaves the store as it was', async () => {
  const before = JSON.stringify(toDocument(liveView(steppe).prepared.store))
  const job = await open(file(NEW_ROWS, '9.90'))
  expect(job.state).toEqual({ step: 'preview', notice: null })
  startWriting(steppe, job, 'Merchant')
  await settled(job)
  const changeSet = steppe.lastChangeSet
  expect(job.state).toEqual({ step: 'done', changeSet, rows: NEW_ROWS })
  expect(
    [...liveView(steppe).prepared.store.variant.values()].filter(({ sku }) => sku.startsWith('NEW-')),
  ).toHaveLength(NEW_ROWS)

  const taken = await undo(liveView(steppe), changeSet, { author: 'Merchant', note: 'back', at: new Date() })
  expect(taken.ok).toBe(true)
  expect(JSON.stringify(toDocument(liveView(steppe).prepared.store))).toBe(before)
}, 60_000)

test('stopped while it is written, an import leaves nothing behind', async () => {
  const before = steppe.lastChangeSet
  const job = await open(file(NEW_ROWS, '8.80'))
  startWriting(steppe, job, 'Merchant')
  while (job.state.step !== 'writing') await new Promise((go) => setImmediate(go))
  await cancelImport(steppe, job)
  await settled(job)
  expect(job.state).toEqual({ step: 'preview', notice: 'cancelled' })
  expect(steppe.lastChangeSet).toBe(before)
  const rows = await steppe.database.query.variants.findMany({
    where: (variant, { like }) => like(variant.sku, 'NEW-%'),
  })
  expect(rows).toEqual([])
}, 60_000)

test('after a restart a preview is there again, with what was left out; what was being written is written, once', async () => {
  const price = (of: Steppe, sku: string) =>
    [...liveView(of).prepared.store.variant.values()].find((each) => each.sku === sku)?.basePrice
  const directory = freshDirectory()
  let own = await openSteppe(directory.path)
  await seedDemo(own)
  const skus = [...liveView(own).prepared.store.variant.values()].slice(0, 3).map(({ sku }) => sku)
  const bytes = new TextEncoder().encode(`SKU,Price\n${skus.map((sku) => `${sku},77.10`).join('\n')}\n`)
  const start = async () => {
    const opened = await openImport(own, { kind: 'products' }, { name: 'prices.csv', bytes })
    if (!opened.ok) throw new Error(opened.problem.code)
    startReading(own, opened.job, opened.job.matching, opened.job.mark)
    return settled(opened.job)
  }
  const restart = async () => {
    await own.close()
    importJobs().clear()
    own = await openSteppe(directory.path)
    await resumeImports(own)
    for (const job of importJobs().values()) await settled(job)
  }
  const looked = await start()
  await leaveOut(own, looked, [2], true)
  await restart()
  const again = importJobs().get(looked.id) as ImportJob
  expect(again.state).toEqual({ step: 'preview', notice: null })
  expect([...again.leftOut]).toEqual([2])

  // The server dies when somebody has just said that it shall be written.
  await noteImport(own.database, looked, { step: 'writing', author: 'Merchant' })
  await restart()
  const written = own.lastChangeSet
  expect(importJobs().get(looked.id)?.state).toEqual({ step: 'done', changeSet: written, rows: 2 })
  expect(skus.map((sku) => price(own, sku) === '77.1')).toEqual([false, true, true])
  await restart()
  expect(own.lastChangeSet).toBe(written)
  expect(importJobs().get(looked.id)?.state).toMatchObject({ step: 'done', changeSet: written })

  // One that was stopped stays stopped.
  const stopped = await start()
  startWriting(own, stopped, 'Merchant')
  await cancelImport(own, stopped)
  await settled(stopped)
  await restart()
  expect(importJobs().get(stopped.id)?.state.step).toBe('preview')
  expect(own.lastChangeSet).toBe(written)
  await own.close()
  directory.remove()
}, 60_000)

test('a store changed since the preview is looked at again before anything is written', async () => {
  const [product] = [...liveView(steppe).prepared.store.product.values()]
  const variant = [...liveView(steppe).prepared.store.variant.values()].find(
    (each) => each.product === product?.id,
  )
  const preview = await open(new TextEncoder().encode(`SKU,Price\n${variant?.sku},123.45\n`))
  const other = await open(new TextEncoder().encode(`SKU,Price\n${variant?.sku},99.99\n`))
  startWriting(steppe, other, 'Somebody else')
  expect((await settled(other)).state.step).toBe('done')
  startWriting(steppe, preview, 'Merchant')
  expect((await settled(preview)).state).toEqual({ step: 'preview', notice: 'store-changed' })
  startWriting(steppe, preview, 'Merchant')
  expect((await settled(preview)).state.step).toBe('done')
})
