import { backTo } from '@/features/sign-in/back'

test('signing in leads to a page of this server, and nowhere else', () => {
  for (const path of ['/board', '/products/FR-BR?as=guest', '/orders/12#steps'])
    expect(backTo(path)).toBe(path)
  const elsewhere = [
    'https://example.org/board',
    '//example.org',
    '/\\example.org',
    '/board\\..\\x',
    'javascript:alert(1)',
    '/board with spaces',
    '/sign-in?back=/board',
    '/api/store',
    '',
    `/${'a'.repeat(2_000)}`,
  ]
  for (const path of elsewhere) expect(backTo(path)).toBe('/board')
})
