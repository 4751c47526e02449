import { simulatedRates } from '@/demo/reference-rates'
import { findInPublished } from '@/core/finding/published'
import { currentInstant } from '@/server/clock'
import type { Steppe } from '@/server/engine/steppe'
import { readReferenceRates } from '@/server/rates/read-reference-rates'
import { declinePublished, knownService, refreshRates, takePublished } from '@/server/rates/rate-service'
import { liveView } from '@/server/views/view'
import type { Server } from 'node:http'
import type { AddressInfo } from 'node:net'
import { serveRates } from '../../scripts/rate-server'
import { demoSteppe } from './demo-steppe'

const demo = demoSteppe()
const NOW = currentInstant()
let steppe: Steppe
let server: Server
let mood: Parameters<typeof serveRates>[1]
let file = '/daily.xml'
beforeAll(async () => {
  steppe = demo.current
  server = await serveRates(
    0,
    () => mood(),
    () => later(0).getTime(),
  )
  pointAt('/daily.xml')
})
afterAll(() => {
  delete process.env['STEPPE_RATES']
  server.close()
})

let days = 0
const later = (more: number) => new Date(NOW.getTime() + (days + more) * 86_400_000)
function pointAt(path: string): void {
  file = path
  process.env['STEPPE_RATES'] = `http://127.0.0.1:${(server.address() as AddressInfo).port}${file}`
}
const rateOf = (currency: string) =>
  [...liveView(steppe).prepared.store['exchange-rate'].values()]
    .filter((rate) => rate.currency === currency)
    .sort((left, right) => (left.from < right.from ? 1 : -1))[0]
const found = async () =>
  findInPublished(
    { prepared: liveView(steppe).prepared, at: later(0).getTime() },
    await knownService(steppe),
  ).map(({ key }) => key)
const note = () => ({ author: 'Orla', at: later(0) })

test('nobody follows at first; who took one follows; a leap waits, can be left, and can be taken', async () => {
  mood = () => 'well'
  expect(await refreshRates(steppe, later(0))).toEqual({ problem: '', taken: [] })
  for (const currency of ['GBP', 'NOK'])
    expect(await takePublished(liveView(steppe), currency, note())).toMatchObject({ ok: true })
  expect(rateOf('NOK')).toMatchObject({ source: 'feed', per: 'EUR' })
  expect(rateOf('DKK')?.source).toBe('manual')

  days += 1
  expect((await refreshRates(steppe, later(0))).taken).toEqual(['GBP', 'NOK'])
  expect((await refreshRates(steppe, later(0))).taken).toEqual([])
  const before = rateOf('NOK')?.rate
  days += 5
  mood = () => 'leaping'
  expect((await refreshRates(steppe, later(0))).taken).toEqual(['GBP'])
  expect(rateOf('NOK')?.rate).toBe(before)
  expect(await found()).toEqual(['rate-leaps/currency/NOK'])
  await declinePublished(steppe, 'NOK')
  expect(await found()).toEqual([])
  // What somebody said of it stays when it is asked again.
  await refreshRates(steppe, later(0))
  expect((await knownService(steppe)).declined).toEqual(new Set(['NOK']))
  expect(await takePublished(liveView(steppe), 'NOK', note())).toMatchObject({ ok: true })
  expect(Number(rateOf('NOK')?.rate) / Number(before)).toBeGreaterThan(1.06)
})

test('a service that is late, wrong or down changes nothing, and says what is the matter', async () => {
  const before = [rateOf('GBP'), rateOf('NOK')]
  mood = () => 'down'
  expect(await refreshRates(steppe, later(0))).toEqual({ problem: 'it answers 503', taken: [] })
  expect((await knownService(steppe)).problem).toBe('it answers 503')
  mood = () => 'wrong'
  expect((await refreshRates(steppe, later(0))).problem).toMatch(/holds no rates|no file/)
  pointAt('/elsewhere')
  expect((await refreshRates(steppe, later(0))).problem).toBe('it answers 404')
  pointAt('/daily.xml')
  days += 12
  mood = () => 'late'
  expect(await refreshRates(steppe, later(0))).toEqual({ problem: '', taken: [] })
  mood = () => 'missing'
  pointAt('/hist-90d.xml')
  expect((await refreshRates(steppe, later(0))).taken).toEqual(['GBP'])
  expect(await found()).toEqual(['rate-missing/currency/NOK'])
  expect([before[1]?.rate]).toEqual([rateOf('NOK')?.rate])
})

test('nothing is asked where no service is named', async () => {
  delete process.env['STEPPE_RATES']
  const demoMode = process.env['STEPPE_DEMO']
  delete process.env['STEPPE_DEMO']
  expect(await refreshRates(steppe, later(0))).toEqual({ problem: 'no service is named', taken: [] })
  if (demoMode !== undefined) process.env['STEPPE_DEMO'] = demoMode
})

describe('files of rates', () => {
  const now = Date.parse('2026-11-25T18:00:00Z')
  const cube = (inner: string, time = '2026-11-25') =>
    `<gesmes:Envelope xmlns:gesmes="x" xmlns="y"><Cube><Cube time='${time}'>${inner}</Cube></Cube></gesmes:Envelope>`
  const fault = (text: string) => {
    const read = readReferenceRates(text, now)
    return read.ok ? null : read.fault
  }

  test('a day and ninety days are read back as they were written', () => {
    const daily = readReferenceRates(simulatedRates(now, 1, 'well'), now)
    expect(daily).toMatchObject({ ok: true, days: [{ day: '2026-11-25', per: 'EUR' }] })
    const ninety = readReferenceRates(simulatedRates(now, 64, 'well'), now)
    expect(ninety.ok && ninety.days.length).toBe(64)
    expect(ninety.ok && ninety.days.map(({ day }) => day)).not.toContain('2026-11-22')
  })

  test.each([
    ['not a word', 'no-xml'],
    ['<a><b></a>', 'no-xml'],
    ['<a/>', 'no-rates'],
    [cube(''), 'no-rates'],
    [cube("<Cube currency='USD' rate='1.08'/>", '2026-02-30'), 'bad-day'],
    [cube("<Cube currency='USD' rate='1.08'/>", '2026-11-26'), 'in-future'],
    [cube("<Cube currency='XYZ' rate='1.08'/>"), 'bad-currency'],
    [cube("<Cube currency='USD' rate='-1.08'/>"), 'bad-rate'],
    [cube("<Cube currency='USD' rate='0'/>"), 'bad-rate'],
    [cube("<Cube currency='USD' rate='1,08'/>"), 'bad-rate'],
    [cube("<Cube currency='USD' rate='1e3'/>"), 'bad-rate'],
    [cube("<Cube currency='USD' rate='N/A'/>"), 'bad-rate'],
    [cube("<Cube currency='USD' rate='1.08'/><Cube currency='USD' rate='1.09'/>"), 'twice'],
    [simulatedRates(now, 1, 'well').slice(0, 500), 'no-xml'],
    [
      `<!DOCTYPE x [<!ENTITY a "aaaa"><!ENTITY b "&a;&a;&a;">]>${cube("<Cube currency='USD' rate='&b;'/>")}`,
      'no-xml',
    ],
    [cube("<Cube currency='USD' rate='&#49;'/>"), 'bad-rate'],
  ])('a wrong file, %#', (text, code) => expect(fault(text)?.code).toBe(code))
})
