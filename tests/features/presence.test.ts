import { DatabaseGoneError, LatelyRead, Presence, saysGone } from '@/server/database/presence'

const refused = Object.assign(new Error('connect ECONNREFUSED'), { code: 'ECONNREFUSED' })
const wrapped = new Error('Failed query: select 1', { cause: refused })

beforeEach(() => jest.useFakeTimers())
afterEach(() => jest.useRealTimers())

test('a broken connection is told from a refusal of the database, however deep it is wrapped', () => {
  // Codes of classes 08 and 57: PostgreSQL manual, appendix A; the others: errno(3).
  for (const code of ['ECONNREFUSED', 'ECONNRESET', 'ETIMEDOUT', '57P01', '57P03', '08006'])
    expect(saysGone(new Error('x', { cause: Object.assign(new Error('y'), { code }) }))).toBe(true)
  expect(saysGone(new AggregateError([refused]))).toBe(true)
  expect(saysGone(new Error('Connection terminated unexpectedly'))).toBe(true)
  // A duplicate key, a wrong statement, a serialization failure, a cancelled statement.
  for (const code of ['23505', '42601', '40001', '57014'])
    expect(saysGone(Object.assign(new Error('x'), { code }))).toBe(false)
  expect(saysGone(new Error('the connection of the pipe is loose'))).toBe(false)
})

test('what is known is answered without waiting while it is gone, and read again when it is back', async () => {
  let isThere = false
  const presence = new Presence(() => (isThere ? Promise.resolve() : Promise.reject(refused)))
  const reading = jest.fn(() => (isThere ? Promise.resolve('read') : Promise.reject(wrapped)))
  const ask = () => presence.orKnown(reading, () => 'known')
  expect(await ask()).toBe('known')
  expect(presence.isGone).toBe(true)
  expect(await ask()).toBe('known')
  expect(reading).toHaveBeenCalledTimes(1)

  await jest.advanceTimersByTimeAsync(3_000)
  expect(presence.isGone).toBe(true)
  isThere = true
  await jest.advanceTimersByTimeAsync(1_000)
  expect(presence.isGone).toBe(false)
  expect(await ask()).toBe('read')
  presence.end()
})

test('any other error of reading is no absence', async () => {
  const presence = new Presence(() => Promise.resolve())
  const wrong = () => Promise.reject(Object.assign(new Error('no such table'), { code: '42P01' }))
  await expect(presence.orKnown(wrong, () => 'known')).rejects.toThrow('no such table')
  expect(presence.isGone).toBe(false)
})

test('whoever came lately is known for ten minutes, whoever did not is not', async () => {
  const presence = new Presence(() => Promise.reject(refused))
  const lately = new LatelyRead<string | null>()
  const gone = () => Promise.reject(wrapped)
  expect(await lately.read(presence, 'orla', () => Promise.resolve('Orla'))).toBe('Orla')
  expect(await lately.read(presence, 'leaver', () => Promise.resolve('Bram'))).toBe('Bram')
  // Somebody who was let go is nobody from then on.
  expect(await lately.read(presence, 'leaver', () => Promise.resolve(null))).toBeNull()

  expect(await lately.read(presence, 'orla', gone)).toBe('Orla')
  expect(await lately.read(presence, 'leaver', gone)).toBeNull()
  await expect(lately.read(presence, 'stranger', gone)).rejects.toThrow(DatabaseGoneError)
  await jest.advanceTimersByTimeAsync(600_001)
  await expect(lately.read(presence, 'orla', gone)).rejects.toThrow(DatabaseGoneError)
  presence.end()
})
