import { startingAnswer } from '@/server/doors/starting-page'

const reading = { step: 'reading', done: 340_000, of: 1_100_000 } as const

test('the merchant is told how far a start is, on a page that comes again by itself', () => {
  const { body, headers } = startingAnswer(reading, 'merchant', true)
  expect(body).toContain('The store is being read: 340,000 of 1,100,000 records.')
  expect(body).toContain('<progress value="340000" max="1100000">')
  expect(body).toContain('<meta http-equiv="refresh" content="1">')
  expect(headers).toMatchObject({ 'retry-after': '1', 'cache-control': 'no-store' })
  expect(startingAnswer({ ...reading, of: null }, 'merchant', true).body).toContain('340,000 records.')
  for (const step of ['opening', 'preparing', 'filling'] as const)
    expect(startingAnswer({ step, done: 0, of: null }, 'merchant', true).body).toContain(
      '<progress></progress>',
    )
})

test('a visitor of the shop learns nothing of the store, a program gets an error it can read', () => {
  const { body } = startingAnswer(reading, 'shop', true)
  expect(body).toContain('This shop opens in a moment')
  expect(body).not.toMatch(/\d,\d{3}|records|database/)
  const detail = 'The server is starting; ask again in a moment.'
  expect(JSON.parse(startingAnswer(reading, 'merchant', false).body)).toEqual({
    ...{ type: 'about:blank', title: 'Service Unavailable', status: 503, code: 'starting', detail },
    error: { code: 'starting', message: detail },
  })
})
