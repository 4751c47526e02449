import { requestId } from '@/server/doors/outer-door'

const made = () => 'made'

test('a request keeps the name it came with, if that is a plain word, and gets one otherwise', () => {
  expect(requestId('6f1c2d90-aa31-4d6b-b1f3-2c5f6d0e9a11', made)).toBe('6f1c2d90-aa31-4d6b-b1f3-2c5f6d0e9a11')
  for (const other of [null, '', 'short', 'x'.repeat(65), 'two words here', 'new\nline-of-the-log'])
    expect(requestId(other, made)).toBe('made')
})
