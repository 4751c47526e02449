import { request } from 'node:http'
import { testUrl } from './browser'
import { accountCookie } from './shop-cookie'

jest.setTimeout(60_000)

const get = (path: string, cookie = '') => fetch(testUrl(path), { redirect: 'manual', headers: { cookie } })

describe('what machines and links may ask', () => {
  test('a trace by SKU and vantage, and the nearest SKU for a slip', async () => {
    const answer = await (await get('/api/trace?sku=fr-br-pf&as=group:bee-farms&buying=3')).json()
    expect(answer).toMatchObject({ unit: '22.8', currency: 'EUR', quantity: '3' })
    const slip = await get('/api/trace?sku=FR-BR-PX')
    expect(slip.status).toBe(404)
    expect(await slip.json()).toEqual({ error: 'There is no SKU “FR-BR-PX”. Did you mean FR-BR-PA?' })
  })

  test.each(['-1', '1.5', 'two'])('block %s of the board is refused, naming it', async (block) => {
    const response = await get(`/api/board?from=${block}`)
    expect(response.status).toBe(400)
    expect(((await response.json()) as { error: string }).error).toContain(`“${block}”`)
  })

  test('a block beyond the end is empty, a buyer who is not there is a guest', async () => {
    expect(await (await get('/api/board?from=4000')).json()).toEqual([])
    const [guest, nobody] = await Promise.all([
      get('/api/board?find=FR-BR'),
      get('/api/board?find=FR-BR&as=group:nobody'),
    ])
    expect(await nobody.json()).toEqual(await guest.json())
  })

  test('no link signs anybody in: the shop window asks first, and other sites cannot ask', async () => {
    const page = await get('/look-as-buyer?as=account:fennmoor')
    expect(page.status).toBe(200)
    expect(page.headers.getSetCookie()).toEqual([])
    expect(await page.text()).toContain('Open the shop as')
    const action = /name="(\$ACTION_ID_[^"]+)"/.exec(await (await get('/shop/sign-in')).text())?.[1] ?? ''
    const body = new FormData()
    body.set(action, '')
    body.set('as', 'account:fennmoor')
    const foreign = await fetch(testUrl('/shop/sign-in'), {
      method: 'POST',
      body,
      redirect: 'manual',
      headers: { origin: 'https://example.com' },
    })
    expect(foreign.status).toBe(403)
  })

  test('the past is answered for links; before there was a store there is its beginning', async () => {
    const unit = async (on: string) =>
      ((await (await get(`/api/trace?sku=FR-BR-PF&on=${on}`)).json()) as { unit: string }).unit
    expect(await unit('2026-09-30T00:00Z')).toBe('24.9')
    expect(await unit('2026-10-02T00:00Z')).toBe('25.9')
    expect(await unit('2020-01-01T00:00Z')).toBe('24.9')
  })
})

test('no page of the shop tells what it must not: costs, or what somebody else pays', async () => {
  // A cost, and a price that only Fennmoor and only distributors pay.
  const secrets = ['13.10', '13.1"', '21.65', '20.70']
  for (const path of ['/shop', '/shop/category/frames', '/shop/product/FR-BR', '/shop/search?words=frames']) {
    const page = await (await get(path)).text()
    for (const secret of secrets) expect(page).not.toContain(secret)
  }
  const farm = await (await get('/shop/product/FR-BR', await accountCookie(testUrl(), 'fennmoor'))).text()
  expect(farm).toContain('21.65')
  for (const secret of ['13.10', '13.1"', '20.70', '22.80']) expect(farm).not.toContain(secret)
})

describe('the outer door', () => {
  test.each([
    ['another name', { host: 'elsewhere.example' }, 421],
    ['another name handed on', { 'x-forwarded-host': 'elsewhere.example' }, 421],
  ])('%s is not answered', async (_, headers, status) => {
    expect(await statusOf('/board', headers)).toBe(status)
  })

  test.each(['/products/%E0%A4%A', '/shop/product/%', '/shop/category/%00'])(
    '%s is no address',
    async (path) => {
      expect(await statusOf(path)).toBe(400)
    },
  )

  test('every answer tells the browser what it may do with it', async () => {
    for (const path of ['/board', '/shop', '/api/find?words=frame', '/nowhere']) {
      const { headers } = await get(path)
      expect(headers.get('content-security-policy')).toMatch(/frame-ancestors 'none'/)
      expect(headers.get('x-content-type-options')).toBe('nosniff')
      expect(headers.get('referrer-policy')).toBe('same-origin')
    }
  })

  test('the shop’s cookie is a word that says nothing, another one after signing in', async () => {
    const [first, second] = [
      await accountCookie(testUrl(), 'fennmoor'),
      await accountCookie(testUrl(), 'fennmoor'),
    ]
    expect(first).toMatch(/^steppe-shop=[A-Za-z0-9_-]{43}$/)
    expect(second).not.toBe(first)
    expect(await (await get('/shop', 'steppe-shop=account:fennmoor')).text()).toContain('a guest')
  })
})

/** Names of hosts cannot be set by fetch, so the request is written by hand. */
function statusOf(path: string, headers: Record<string, string> = {}): Promise<number> {
  return new Promise((resolve, reject) => {
    const { hostname, port } = new URL(testUrl())
    request({ hostname, port, path, headers }, (answer) => {
      answer.resume()
      resolve(answer.statusCode ?? 0)
    })
      .once('error', reject)
      .end()
  })
}
