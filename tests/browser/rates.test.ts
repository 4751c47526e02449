import type { Server } from 'node:http'
import type { AddressInfo } from 'node:net'
import { rmSync } from 'node:fs'
import { serveRates } from '../../scripts/rate-server'
import { eachTestInItsOwnWindow } from './browser'
import { filledDirectory, startServer, TEST_CLOCK } from './server'

const here = eachTestInItsOwnWindow()
let service: Server
let mood: 'well' | 'leaping' | 'down' = 'well'
let at = Date.parse(TEST_CLOCK)
beforeAll(async () => {
  service = await serveRates(
    0,
    () => mood,
    () => at,
  )
  process.env['STEPPE_RATES'] = `http://127.0.0.1:${(service.address() as AddressInfo).port}/daily.xml`
})
afterAll(() => {
  delete process.env['STEPPE_RATES']
  service.close()
})

test('rates are asked for and followed; one that leaps is held, found and decided on; a service that is down changes nothing', async () => {
  const data = await filledDirectory()
  const server = await startServer(data)
  const { page } = here
  const published = page.getByRole('region', { name: 'Published rate' })
  try {
    await page.goto(`${server.url}/currencies/NOK`)
    await published.getByText('Reference rate of 24 November 2026').waitFor()
    await published.getByRole('button', { name: 'Use it, and follow the reference rates' }).click()
    await published.getByText('In force.').waitFor()
    const [, rate = ''] = /= ([\d.]+) NOK/.exec(await published.innerText()) ?? []
    await page.getByText(`${rate}, since 25 November 2026`).waitFor()

    // The rates of the day itself are there in the afternoon.
    at += 6 * 3_600_000
    mood = 'leaping'
    await published.getByRole('button', { name: 'Ask now' }).click()
    await published.getByText('It moves by more than 5 %, so it waits for you.').waitFor()
    await page.getByText(`${rate}, since 25 November 2026`).waitFor()
    await page.goto(`${server.url}/findings?place=Currencies`)
    await page.getByText('published rate waits for you').waitFor()
    await page.getByRole('link', { name: 'NOK' }).first().click()
    await published.getByRole('button', { name: 'Leave the rate as it is' }).click()
    await published.getByText('You left the rate as it is.').waitFor()

    mood = 'down'
    await published.getByRole('button', { name: 'Ask now' }).click()
    await published.getByRole('alert').getByText('it answers 503. Nothing was changed.').waitFor()
    await published.getByRole('button', { name: 'Use this rate' }).click()
    await published.getByText('In force.').waitFor()
    expect(await published.innerText()).not.toContain(`= ${rate} NOK`)
  } finally {
    await server.stop()
    rmSync(data, { recursive: true, force: true })
  }
}, 120_000)
