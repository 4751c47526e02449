import { readdirSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import { allowedHosts, judge, type Knock, securityHeaders, sideOf } from '@/server/doors/outer-door'

const HOSTS = allowedHosts('prices.example, Desk.Example:8443')

function knock(path: string, headers: Record<string, string> = {}, method = 'GET'): Knock {
  const all: Record<string, string> = { host: 'localhost:3000', ...headers }
  return { method, path, header: (name) => all[name] ?? null }
}

function verdict(...input: Parameters<typeof knock>) {
  return judge(knock(...input), HOSTS)?.code ?? 'in'
}

describe('the outer door', () => {
  test('answers to its own names on any port, and to those it was given', () => {
    for (const host of ['localhost', '127.0.0.1:4000', '[::1]:3000', 'prices.example', 'desk.example:8443'])
      expect(verdict('/', { host })).toBe('in')
  })

  test('turns away a name another site pointed at this machine', () => {
    expect(verdict('/', { host: 'attacker.example' })).toBe('unknown-host')
    expect(verdict('/', { host: 'localhost.attacker.example' })).toBe('unknown-host')
    expect(verdict('/', { 'x-forwarded-host': 'attacker.example' })).toBe('unknown-host')
    expect(judge({ method: 'GET', path: '/', header: () => null }, HOSTS)?.status).toBe(421)
  })

  test('refuses what another site’s page writes, and lets it read nothing it could not read anyway', () => {
    const foreign = { origin: 'https://attacker.example', 'content-type': 'application/json' }
    expect(verdict('/api/store', foreign, 'PUT')).toBe('foreign-site')
    expect(verdict('/api/store', { 'sec-fetch-site': 'cross-site' }, 'PUT')).toBe('foreign-site')
    expect(verdict('/api/store', { 'sec-fetch-site': 'same-site' }, 'PUT')).toBe('foreign-site')
    expect(verdict('/', { origin: 'null' }, 'POST')).toBe('foreign-site')
    expect(verdict('/', { origin: 'http://localhost:9999' }, 'POST')).toBe('foreign-site')
  })

  test('lets in the own pages and programs that are no browsers', () => {
    const own = { origin: 'http://localhost:3000', 'sec-fetch-site': 'same-origin' }
    expect(verdict('/board', own, 'POST')).toBe('in')
    expect(verdict('/api/prices', { 'content-type': 'application/json' }, 'POST')).toBe('in')
    expect(verdict('/api/prices', {}, 'POST')).toBe('in')
  })

  test.each(['text/plain', 'application/x-www-form-urlencoded', 'multipart/form-data; boundary=x'])(
    'takes no %s at the interface, as any page can send it unasked',
    (type) => {
      expect(verdict('/api/prices', { 'content-type': type }, 'POST')).toBe('not-json')
      expect(verdict('/look-as-buyer', { 'content-type': type }, 'POST')).toBe('in')
    },
  )

  test('an address whose percent signs mean nothing is refused before anything reads it', () => {
    expect(verdict('/products/%')).toBe('malformed-address')
    expect(verdict('/products/%E0%A4%A')).toBe('malformed-address')
    expect(verdict('/products/a%00b')).toBe('malformed-address')
    expect(verdict('/products/a%20b')).toBe('in')
  })

  test('an action no page ever had is refused', () => {
    expect(verdict('/', { 'next-action': 'x' }, 'POST')).toBe('malformed-address')
    expect(verdict('/', { 'next-action': 'a'.repeat(42) }, 'POST')).toBe('in')
  })

  test('knows the shop’s side from the merchant’s by the whole of the first name', () => {
    expect(['/shop', '/shop/cart', '/api/shop/products'].map(sideOf)).toEqual(['shop', 'shop', 'shop'])
    expect(['/', '/shopping', '/api/store', '/products/shop'].map(sideOf)).toEqual(Array(4).fill('merchant'))
  })

  test('every action of the merchant’s asks whose side it was called from before anything else', () => {
    const files = readdirSync('src/features', { recursive: true, encoding: 'utf8' })
      .filter((name) => name.endsWith('.ts') && !name.startsWith('shop/'))
      .map((name) => ({ name, text: readFileSync(join('src/features', name), 'utf8') }))
      .filter(({ text }) => text.startsWith("'use server'"))
    expect(files.length).toBeGreaterThan(5)
    const asksLate = files.flatMap(({ name, text }) =>
      text
        .split(/^export async function /m)
        .slice(1)
        .filter((action) => !/^[^]*?> \{\n {2}await asMerchant\(\)\n/.test(action.split('\n}\n')[0] ?? ''))
        .map((action) => `${name}: ${/\w+/.exec(action)?.[0]}`),
    )
    expect(asksLate).toEqual([])
  })

  test('only the scripts of the very page run', () => {
    const policy = securityHeaders('abc')['content-security-policy'] ?? ''
    expect(policy).toContain("script-src 'self' 'nonce-abc';")
    expect(policy).not.toContain('unsafe-eval')
    expect(policy).toContain("frame-ancestors 'none'")
  })
})
