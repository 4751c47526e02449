import { withoutValues } from '@/server/operations/log'
import { DrizzleQueryError } from 'drizzle-orm'

test('what went wrong in the database is told without the values that were sent there', () => {
  const error = new DrizzleQueryError('select * from staff where word = $1', ['a secret'], new Error('gone'))
  const told = JSON.stringify(withoutValues(error))
  expect(told).toContain('select * from staff')
  expect(told).toContain('gone')
  expect(told).not.toContain('a secret')
})
