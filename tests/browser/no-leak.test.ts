import { decimal } from '@/core/decimal/decimal'
import { ask } from '@/core/engine/ask'
import { prepare } from '@/core/engine/prepare'
import { buyerContext } from '@/core/engine/context/buyer-context'
import { readDocument, toDocument } from '@/server/exchange/store-document'
import { demoStore } from '@tests/fixtures/demo-store'
import { TEST_CLOCK, withServer } from './server'
import { accountCookie, passcodeCookie } from './shop-cookie'

jest.setTimeout(600_000)

/** A cost or a margin in anything that is sent, however often its quotes are escaped. */
const COST = /["'](cost|costs|margin|landedCost)\\*["']\s*:/

type Section = Record<string, unknown>

const branch = (code: string) => ({
  include: [{ kind: 'category', category: `category-${code}`, descendants: true }],
  exclude: [],
})
const only = (...include: Section[]) => ({ include, exclude: [] })
const nothingBut = (...codes: string[]) => ({
  start: 'nothing',
  include: codes.map((code) => ({ kind: 'category', category: `category-${code}` })),
  exclude: [],
})

/** The demo with something hidden from everybody, and names and prices nothing else has. */
function guardedStore() {
  const document = toDocument(demoStore()) as Record<string, Section[]>
  const rule = (code: string, effect: string, scope: Section, audience: Section) => ({
    code,
    name: code,
    effect,
    scope,
    audience,
  })
  const guests = only({ kind: 'guests' })
  const everyone = only({ kind: 'everyone' })
  const guarded = {
    ...document,
    accessRules: [
      rule('hide-queens', 'hide', branch('queens'), everyone),
      rule('farms-queens', 'show', branch('queens'), only({ kind: 'group', group: 'group-farms' })),
      rule('guests-suits', 'no-price', branch('clothing'), guests),
      rule('circle', 'show', branch('clothing'), only({ kind: 'passcode', passcode: 'passcode-press' })),
      rule('quote-extractors', 'quote', branch('extractors'), only({ kind: 'group', group: 'group-club' })),
    ],
    passcodes: document['passcodes']!.map((each) => ({ ...each, isReview: false })),
    contracts: document['contracts']!.map((each) =>
      each['code'] === 'C-104' ? { ...each, assortment: nothingBut('frames-foundation', 'jars') } : each,
    ),
  }
  const read = readDocument(guarded)
  if (!read.ok) throw new Error(JSON.stringify(read.errors))
  return { document: guarded, store: read.store }
}

/** Somebody in the shop: how they come by their cookie, and who they are to the engine. */
const BUYERS = [
  { name: 'a guest', cookieAt: () => Promise.resolve(''), buyer: { kind: 'guest' }, passcode: null },
  {
    name: 'a guest with a passcode',
    cookieAt: (url: string) => passcodeCookie(url, 'look-inside'),
    buyer: { kind: 'guest' },
    passcode: 'passcode-press',
  },
  ...['aoife-keane', 'tarnside', 'fennmoor', 'hivewell', 'st-brans', 'nuala-byrne'].map((code) => ({
    name: code,
    cookieAt: (url: string) => accountCookie(url, code),
    buyer: { kind: 'account', account: `account-${code}` } as const,
    passcode: null,
  })),
] as const

test('whoever crawls the shop finds nothing hidden and no hidden price, in any page, payload, feed or header', async () => {
  const { document, store } = guardedStore()
  const prepared = prepare(store)
  await withServer(async ({ url }) => {
    const put = await fetch(`${url}/api/store`, {
      method: 'PUT',
      body: JSON.stringify(document),
      headers: { 'content-type': 'application/json', 'if-match': '*' },
    })
    expect(put.status).toBe(200)
    for (const { name, cookieAt, buyer, passcode } of BUYERS) {
      const cookie = await cookieAt(url)
      const secrets = secretsOf(prepared, { ...buyerContext(buyer, Date.parse(TEST_CLOCK)), passcode })
      const keepsNothing = name === 'tarnside'
      expect(secrets.length > 0).toBe(!keepsNothing)
      const visited = new Set<string>()
      const found: string[] = []
      const open = [
        '/shop',
        '/shop/quick',
        '/shop/cart',
        '/shop/orders',
        '/shop/contact',
        '/shop/gate',
        '/api/shop/products',
      ]
      for (const word of ['queen', 'suit', 'frame', 'extractor', 'QU-', 'e'])
        open.push(`/shop/search?words=${word}`, `/api/shop/suggestions?words=${word}`)
      // Direct links to every product, and the price of every SKU, hidden or not.
      for (const { code } of store.product.values()) open.push(`/shop/product/${code}`)
      for (const { code } of store.category.values()) open.push(`/shop/category/${code}`)
      for (const { sku } of store.variant.values()) open.push(`/api/shop/price?sku=${sku}&quantity=10`)
      const visit = async (path: string) => {
        if (visited.has(path)) return
        visited.add(path)
        const plain: Record<string, string> = { cookie }
        // A page comes as HTML, and as the payload a click inside the shop reads.
        for (const headers of path.startsWith('/api') ? [plain] : [plain, { ...plain, rsc: '1' }]) {
          const response = await fetch(`${url}${path}`, { headers, redirect: 'follow' })
          expect(response.status).toBeLessThan(500)
          const body = await response.text()
          const all = `${body}\n${JSON.stringify([...response.headers])}`
          // What somebody typed into the address themselves they have not found.
          for (const secret of secrets)
            if (!path.includes(secret.what) && secret.pattern.test(all))
              found.push(`${name} finds ${secret.what} at ${path}`)
          if (COST.test(all)) found.push(`${name} finds a cost at ${path}`)
          for (const [, link = ''] of body.matchAll(/href="(\/shop[^"#]*)"/g))
            open.push(link.replaceAll('&amp;', '&'))
        }
      }
      for (let next = open.shift(); next !== undefined; next = open.shift()) await visit(next)
      expect(visited.size).toBeGreaterThan(400)
      expect(found).toEqual([])
    }
  })
})

interface Secret {
  readonly what: string
  readonly pattern: RegExp
}

/** What a buyer must not find: the names and SKUs of what is hidden, and prices by their SKU where none is shown. */
function secretsOf(
  prepared: ReturnType<typeof prepare>,
  from: ReturnType<typeof buyerContext>,
): readonly Secret[] {
  const { store } = prepared
  const secrets: Secret[] = []
  const names = new Map<string, boolean>()
  const seen = [...store.category.values()].map(({ name }) => name)
  for (const variant of store.variant.values()) {
    const asked = ask(prepared, {
      ...from,
      variant: variant.id,
      quantity: decimal(1),
      extras: [],
      basket: [],
    })
    if (!asked.ok) throw new Error(asked.error.code)
    const { access, unit, tax } = asked.value
    const product = store.product.get(variant.product)!
    if (access.see) seen.push(product.name, product.description, ...Object.values(variant.options))
    names.set(product.name, (names.get(product.name) ?? false) || access.see)
    // Its own address and quick order may echo a SKU somebody typed; a page never tells it by itself.
    if (!access.see) secrets.push({ what: variant.sku, pattern: wordPattern(variant.sku) })
    else if (!access.seePrice && unit) {
      const amounts = [unit, tax?.gross].map((amount) => Number(amount).toFixed(2).replace('.', '\\.'))
      // The price beside its own SKU, in a page payload, a feed or a row.
      secrets.push({
        what: `the price of ${variant.sku}`,
        pattern: new RegExp(`${variant.sku}(?![\\w-]).{0,200}?(?<![\\d.])(${amounts.join('|')})(?!\\d)`, 's'),
      })
    }
  }
  // A name that is a word of something else they see tells nothing.
  const told = seen.join('\n')
  for (const [name, isSeen] of names) {
    const pattern = wordPattern(name)
    if (!isSeen && !pattern.test(told)) secrets.push({ what: `“${name}”`, pattern })
  }
  return secrets
}

function wordPattern(text: string): RegExp {
  return new RegExp(`(?<![\\w-])${text.replace(/[.*+?^$()[\]{}|\\]/g, '\\$&')}(?![\\w-])`)
}
