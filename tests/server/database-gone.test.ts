import { commit } from '@/server/changes/commit'
import { followOthers, untilUpToDate } from '@/server/changes/follow'
import { seedDemo } from '@/server/changes/seed-demo'
import { openSteppe, type Steppe } from '@/server/engine/steppe'
import { answerQuestions } from '@/server/exchange/price-questions'
import { liveTarget, liveView } from '@/server/views/view'
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { startPostgres } from '../../scripts/postgres.mjs'
import { edited } from './many-records'
import { isOnServer } from './temporary-directory'

const onServer = isOnServer ? describe : describe.skip
const NOTE = { author: 'Test', note: 'dearer', at: new Date('2026-11-25T09:00:00Z') }

onServer('a database server that stops and comes back', () => {
  const directory = mkdtempSync(join(tmpdir(), 'steppe-test-'))
  let server: Awaited<ReturnType<typeof startPostgres>>
  let steppe: Steppe
  let other: Steppe
  beforeAll(async () => {
    server = await startPostgres()
    writeFileSync(join(directory, 'database-url'), server.url)
    steppe = await openSteppe(directory)
    await seedDemo(steppe)
    other = await openSteppe(directory)
    await Promise.all([followOthers(steppe), followOthers(other)])
  }, 120_000)
  afterAll(async () => {
    await Promise.all([steppe.close(), other.close()])
    await server.remove()
    rmSync(directory, { recursive: true, force: true })
  }, 60_000)

  const id = 'product-BK-FY'
  const price = (of: Steppe) => liveView(of).prepared.store.product.get(id)?.basePrice
  const answer = () => {
    const { prepared } = liveView(steppe)
    const sku = [...prepared.store.variant.values()].find(({ product }) => product === id)?.sku
    return answerQuestions(prepared, [{ id: '1', as: { guest: true }, sku }], NOTE.at.getTime())
  }
  const reprice = (amount: string) =>
    commit(liveTarget(steppe), [edited(steppe, 'product', id, { basePrice: amount })], NOTE)

  test('what is known goes on being answered, nothing is half written, and writing goes on when it is back', async () => {
    expect(await reprice('31')).toMatchObject({ ok: true })
    const told = answer()
    await server.stop()
    await untilUpToDate(steppe)
    expect(answer()).toEqual(told)
    await expect(reprice('32')).rejects.toThrow()
    expect(price(steppe)).toBe('31')

    await server.start()
    expect(await reprice('33')).toMatchObject({ ok: true })
    expect(answer()).not.toEqual(told)
    // The other one hears again by itself what is written: nobody asks it to look.
    while (price(other) !== '33') await new Promise((resolve) => setTimeout(resolve, 50))
    expect(other.lastChangeSet).toBe(steppe.lastChangeSet)
  }, 60_000)
})
