import { testUrl } from './browser'

jest.setTimeout(60_000)

const get = (path: string, cookie = '') => fetch(testUrl(path), { redirect: 'manual', headers: { cookie } })

describe('what machines and links may ask', () => {
  test('a trace by SKU and vantage, and the nearest SKU for a slip', async () => {
    const answer = await (await get('/api/trace?sku=fr-br-pf&as=group:bee-farms&buying=3')).json()
    expect(answer).toMatchObject({ unit: '22.8', currency: 'EUR', quantity: '3' })
    const slip = await get('/api/trace?sku=FR-BR-PX')
    expect(slip.status).toBe(404)
    expect(await slip.json()).toEqual({ error: 'There is no SKU “FR-BR-PX”. Did you mean FR-BR-PF?' })
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

  test.each([
    'https://example.com/',
    '//example.com',
    '/board',
    '/shop/../board',
    'http://[',
    'javascript:alert(1)',
  ])('looking as a buyer leads into the shop and nowhere else: %s', async (to) => {
    const response = await get(`/look-as-buyer?as=account:fennmoor&page=${encodeURIComponent(to)}`)
    expect(new URL(response.headers.get('location') ?? '', testUrl()).pathname).toBe('/shop')
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
  const farm = await (await get('/shop/product/FR-BR', 'steppe-shop-as=account:fennmoor')).text()
  expect(farm).toContain('21.65')
  for (const secret of ['13.10', '13.1"', '20.70', '22.80']) expect(farm).not.toContain(secret)
})
