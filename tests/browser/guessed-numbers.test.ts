import { withServer } from './server'
import { accountCookie } from './shop-cookie'

jest.setTimeout(300_000)

const ACCOUNTS = [
  'fennmoor',
  'gorseback',
  'tarnside',
  'heatherlaw',
  'hivewell',
  'aoife-keane',
  'nordlyng',
] as const
const ORDERS = { path: '/shop/orders', from: 10_000, to: 10_018 }
const QUOTES = { path: '/shop/quotes', from: 1_000, to: 1_007 }

test('by guessed numbers nobody reaches an order, a quote or a paper of either that is not in their own list', async () => {
  await withServer(
    async ({ url }) => {
      const buyers = [
        { name: 'a guest', cookie: '' },
        ...(await Promise.all(
          ACCOUNTS.map(async (name) => ({ name, cookie: await accountCookie(url, name) })),
        )),
      ]
      for (const { path, from, to } of [ORDERS, QUOTES]) {
        const owners = new Map<number, string[]>()
        for (const { name, cookie } of buyers) {
          const get = (to: string) => fetch(url + to, { headers: { cookie }, redirect: 'manual' })
          const list = await (await get(path)).text()
          const own = new Set(
            [...list.matchAll(new RegExp(`${path}/(\\d+)"`, 'g'))].map(([, n]) => Number(n)),
          )
          for (let number = from; number <= to; number += 1) {
            const papers =
              path === ORDERS.path
                ? [
                    '/paper?paper=confirmation',
                    '/paper?paper=invoice&number=1',
                    '/paper?paper=invoice&number=1&format=ubl',
                  ]
                : ['/paper']
            const page = await get(`${path}/${number}`)
            expect([name, path, number, page.status]).toEqual([
              name,
              path,
              number,
              own.has(number) ? 200 : 404,
            ])
            if (own.has(number)) owners.set(number, [...(owners.get(number) ?? []), name])
            else
              for (const paper of papers)
                expect([name, number, (await get(`${path}/${number}${paper}`)).status]).toEqual([
                  name,
                  number,
                  404,
                ])
          }
        }
        // Whatever is in a list is in one list.
        expect([...owners.values()].every((names) => names.length === 1)).toBe(true)
        expect(owners.size).toBeGreaterThan(3)
      }
      for (const { cookie } of buyers)
        for (const path of ['/shop/account/requests/1', '/shop/lists/00000000-0000-0000-0000-000000000000'])
          expect((await fetch(url + path, { headers: { cookie } })).status).toBe(404)
    },
    undefined,
    'with-orders',
  )
})
