/** Wrong requests by the thousand, the same ones for the same seed. */

export interface WrongRequest {
  readonly method: string
  readonly path: string
  readonly headers: Readonly<Record<string, string>>
  readonly body: string | null
}

/** Numbers from 0 up to below 1 that follow from a seed (mulberry32, public domain). */
export function numbers(seed: number): () => number {
  let state = seed >>> 0
  return () => {
    state = (state + 0x6d2b79f5) >>> 0
    let mixed = Math.imul(state ^ (state >>> 15), 1 | state)
    mixed = (mixed + Math.imul(mixed ^ (mixed >>> 7), 61 | mixed)) ^ mixed
    return ((mixed ^ (mixed >>> 14)) >>> 0) / 2 ** 32
  }
}

export const NASTY_TEXTS = [
  '',
  ' ',
  '\u0000',
  'a\u0000b',
  '\ud800',
  '../../etc/passwd',
  '%',
  '%00',
  '%E0%A4%A',
  '"><script>alert(1)</script>',
  "'; drop table product; --",
  '=cmd|calc',
  '__proto__',
  'constructor',
  '٣',
  '１２',
  'é'.normalize('NFD'),
  '🐝'.repeat(50),
  'x'.repeat(5_000),
  '-1',
  '0',
  '1e9',
  '1e400',
  'NaN',
  'Infinity',
  '9'.repeat(400),
  '0.0000000000000000000001',
  '2027-02-30',
  '0000-01-01T00:00Z',
  '2027-13-01T00:00:00Z',
  'null',
  'undefined',
] as const

const PATHS = [
  '/board',
  '/compare',
  '/products',
  '/products/FR-BR',
  '/price-lists',
  '/price-lists/bee-farm-level',
  '/accounts',
  '/contracts/C-104',
  '/taxes',
  '/limits',
  '/limits-in-force',
  '/promotion-clashes',
  '/access',
  '/assortments',
  '/settings/store',
  '/import',
  '/import/none',
  '/look-as-buyer',
  '/shop',
  '/shop/product/FR-BR',
  '/shop/category/jars',
  '/shop/search',
  '/shop/cart',
  '/shop/checkout',
  '/shop/quick',
  '/shop/gate',
  '/shop/orders',
  '/shop/orders/10001',
  '/orders',
  '/orders/10001',
  '/nowhere',
] as const
const APIS = [
  '/api/board',
  '/api/trace',
  '/api/items',
  '/api/find',
  '/api/prices',
  '/api/reprice',
  '/api/imports',
  '/api/imports/none/wrong',
  '/api/products',
  '/api/shop/price',
  '/api/shop/products',
  '/api/shop/suggestions',
  '/api/nowhere',
] as const
const FIELDS = [
  'as',
  'buying',
  'via',
  'to',
  'paying',
  'on',
  'find',
  'in',
  'only',
  'columns',
  'sku',
  'quantity',
  'words',
  'from',
  'count',
  'extra',
  'page',
  'name',
  'into',
  'list',
] as const
const KEYS = [
  'id',
  'as',
  'sku',
  'quantity',
  'extras',
  'deliverTo',
  'currency',
  'at',
  'lines',
  'past',
  'channel',
  'passcode',
  '__proto__',
  'toString',
] as const

/** So many wrong requests. */
export function wrongRequests(count: number, seed = 7): readonly WrongRequest[] {
  const next = numbers(seed)
  const one = <Item>(items: readonly Item[]): Item => items[Math.floor(next() * items.length)] as Item
  const chance = (share: number) => next() < share

  const value = (depth: number): unknown => {
    const kind = next()
    if (depth > 3 || kind < 0.35) return one(NASTY_TEXTS)
    if (kind < 0.5) return one([0, -1, 1.5, 1e308, 2 ** 53, null, true, false])
    if (kind < 0.7) return Array.from({ length: Math.floor(next() * 4) }, () => value(depth + 1))
    return Object.fromEntries(
      Array.from({ length: Math.floor(next() * 5) }, () => [one(KEYS), value(depth + 1)]),
    )
  }
  /** A question that is right but for one or two fields. */
  const question = (): unknown => ({
    ...{ id: 'q', as: { guest: true }, sku: 'FR-BR-PF', quantity: '1' },
    ...(chance(0.3) && { lines: [{ sku: 'FR-BR-PF', quantity: one(NASTY_TEXTS) }], sku: undefined }),
    [one(KEYS)]: value(0),
    ...(chance(0.5) && { [one(KEYS)]: value(0) }),
  })
  const body = (): string => {
    const kind = next()
    if (kind < 0.1) return one(['', '{', '[', 'null', '"', '[1,', '\ufeff[]', '[]]', '{"a":1e999}'])
    if (kind < 0.15) return '['.repeat(500)
    if (kind < 0.2) return `${'{"a":'.repeat(80)}1${'}'.repeat(80)}`
    if (kind < 0.6) return JSON.stringify([question(), question()])
    return JSON.stringify(value(0)) ?? 'null'
  }
  const query = () => {
    const fields = Array.from({ length: Math.floor(next() * 4) }, () => {
      const text = one(NASTY_TEXTS)
      return `${one(FIELDS)}=${chance(0.8) ? encodeURIComponent(text.toWellFormed()) : text.replace(/[^\x21-\x7e]/g, '')}`
    })
    return fields.length > 0 ? `?${fields.join('&')}` : ''
  }
  const path = (): string => {
    if (chance(0.15)) return `${one(PATHS)}/${encodeURIComponent(one(NASTY_TEXTS).toWellFormed())}`
    return chance(0.5) ? one(APIS) : one(PATHS)
  }
  const headers = (): Record<string, string> => ({
    ...(chance(0.7) && { 'content-type': one(['application/json', 'text/csv', 'text/plain', 'nonsense']) }),
    ...(chance(0.1) && { origin: one(['https://elsewhere.example', 'null', 'nonsense']) }),
    ...(chance(0.1) && { host: one(['elsewhere.example', 'localhost:1', '']) }),
    ...(chance(0.1) && { 'x-forwarded-host': 'elsewhere.example' }),
    ...(chance(0.2) && { cookie: `steppe-shop=${one(['', 'account:fennmoor', 'x'.repeat(43), '%00'])}` }),
    ...(chance(0.1) && { 'next-action': one(['', 'x', 'a'.repeat(42)]) }),
    ...(chance(0.1) && { rsc: '1' }),
    ...(chance(0.1) && { 'if-match': one(['"0"', '"999"', 'nonsense']) }),
  })
  return Array.from({ length: count }, () => {
    const method = one(['GET', 'GET', 'GET', 'POST', 'POST', 'PUT', 'DELETE', 'PATCH'])
    return {
      method,
      path: `${path()}${query()}`.replace(/[^\x21-\x7e]/g, ''),
      headers: headers(),
      body: method === 'GET' || method === 'DELETE' ? null : body(),
    }
  })
}
