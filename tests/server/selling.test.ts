import type * as DeskActions from '@/features/desk/desk-actions'
import type * as DeskLoad from '@/features/desk/load-desk'
import type * as DeskSave from '@/features/desk/save-desk'
import type * as Reports from '@/features/reports/load-report'
import type * as Export from '@/features/reports/export-report'
import type * as Checkout from '@/features/shop/checkout/checkout'
import type * as Requests from '@/features/shop/account/request-actions'
import type * as RequestLoad from '@/features/shop/account/load-request'
import type * as ListActions from '@/features/shop/lists/list-actions'
import type * as ListLoad from '@/features/shop/lists/load-lists'
import type * as Entrance from '@/features/shop/entrance/shop-actions'
import type * as CartActions from '@/features/shop/cart/cart-actions'
import type * as CartLoad from '@/features/shop/cart/load-cart'
import type * as Session from '@/server/session/shop-session'
import { add, sum } from '@/core/decimal/decimal'
import { currentInstant } from '@/server/clock'
import { type DeskContent, EMPTY_DESK } from '@/server/desk/desk-shape'
import type { Steppe } from '@/server/engine/steppe'
import { findOrder, listOrders } from '@/server/orders/order-rows'
import { findQuote } from '@/server/quotes/quote-rows'
import { liveView } from '@/server/views/view'
import { demoSteppe } from './demo-steppe'
import { jestOf, leadsTo, standInForShop } from './framework'

let side: 'shop' | 'merchant' = 'shop'
const browsers = standInForShop(jestOf(import.meta), () => side)

const demo = demoSteppe()
let steppe: Steppe
let desk: typeof DeskActions
let deskLoad: typeof DeskLoad
let deskSave: typeof DeskSave
let reports: typeof Reports
let exports: typeof Export
let checkout: typeof Checkout
let requests: typeof Requests
let requestLoad: typeof RequestLoad
let lists: typeof ListActions
let listLoad: typeof ListLoad
let cartActions: typeof CartActions
let cartLoad: typeof CartLoad
let session: typeof Session

const PEOPLE = {
  orla: ['gorseback', 'orla@gorseback.example'],
  cathal: ['gorseback', 'cathal@gorseback.example'],
  brid: ['fennmoor', 'brid@fennmoor.example'],
} as const
type Who = keyof typeof PEOPLE | 'merchant'

function as(who: Who): void {
  side = who === 'merchant' ? 'merchant' : 'shop'
  browsers.use(who)
}

beforeAll(async () => {
  steppe = demo.current
  const holder = globalThis as { [key: symbol]: unknown }
  holder[Symbol.for('steppe.running')] = Promise.resolve(steppe)
  desk = await import('@/features/desk/desk-actions')
  deskLoad = await import('@/features/desk/load-desk')
  deskSave = await import('@/features/desk/save-desk')
  reports = await import('@/features/reports/load-report')
  exports = await import('@/features/reports/export-report')
  checkout = await import('@/features/shop/checkout/checkout')
  requests = await import('@/features/shop/account/request-actions')
  requestLoad = await import('@/features/shop/account/load-request')
  lists = await import('@/features/shop/lists/list-actions')
  listLoad = await import('@/features/shop/lists/load-lists')
  cartActions = await import('@/features/shop/cart/cart-actions')
  cartLoad = await import('@/features/shop/cart/load-cart')
  session = await import('@/server/session/shop-session')
  const entrance: typeof Entrance = await import('@/features/shop/entrance/shop-actions')
  for (const [who, [account, person]] of Object.entries(PEOPLE)) {
    as(who as Who)
    const form = new FormData()
    form.set('as', `account:${account}`)
    form.set('person', person)
    await leadsTo(entrance.signIn(form))
  }
})

const look = () => ({ steppe, prepared: liveView(steppe).prepared, now: currentInstant().getTime() })
const line = (sku: string, quantity: string, more: object = {}) => ({
  ...{ sku, quantity, extras: [], price: '', reason: '', ...more },
})
const TARNSIDE: DeskContent = { ...EMPTY_DESK, account: 'tarnside', person: 'eoin@tarnside.example' }

/** Writes an order down at the desk, as it is saved while it is typed. */
async function write(content: DeskContent) {
  as('merchant')
  const saved = await deskSave.saveDesk(look(), { number: null, version: 0, content })
  if (!saved.ok) throw new Error(saved.problem)
  return saved
}

describe('the desk', () => {
  test('an order at the buyer’s own prices, taken with them, on account', async () => {
    const saved = await write({
      ...{ ...TARNSIDE, reference: 'PO 2027-014', note: 'By the side door' },
      lines: [line('FR-BR-PF', '10'), line('TL-JT-ST', '2')],
    })
    expect(saved.figures).toMatchObject({
      lines: [
        { unit: '22.8', how: '12 % off base', total: '228', problem: '' },
        { unit: '12.25', total: '24.5' },
      ],
      problems: [],
    })
    const { number, version, figures } = saved
    expect(await desk.placeDesk({ number, version }, 'EUR 1')).toMatchObject({
      problem: expect.stringContaining('total has changed'),
    })
    const placed = await desk.placeDesk({ number, version }, figures!.seen)
    if (!placed.ok) throw new Error(placed.problem)
    const order = await findOrder(steppe.database, Number(placed.to.split('/').at(-1)))
    expect(order).toMatchObject({
      account: 'account-tarnside',
      document: {
        ...{ buyer: 'Tarnside Apiaries', email: 'eoin@tarnside.example', payment: '30 days net' },
        ...{ placedBy: 'Merchant', reference: 'PO 2027-014', slipNote: 'By the side door' },
        delivery: { gross: '0' },
      },
    })
    expect(`EUR ${order!.document.total.gross}`).toBe(figures!.seen)
    // Placed is placed: neither again nor changed.
    expect(await desk.placeDesk({ number, version }, figures!.seen)).toMatchObject({ ok: false })
    expect(await deskSave.saveDesk(look(), { number, version, content: TARNSIDE })).toMatchObject({
      ok: false,
    })
  })

  test('of two who place it at once one does', async () => {
    const { number, version, figures } = await write({ ...TARNSIDE, lines: [line('PK-JR-340', '24')] })
    const both = await Promise.all([1, 2].map(() => desk.placeDesk({ number, version }, figures!.seen)))
    expect(both.filter(({ ok }) => ok)).toHaveLength(1)
  })

  test('a price by hand needs a reason, leaves a margin, and is in no promotion', async () => {
    const at = async (price: string, reason: string) =>
      (await write({ ...TARNSIDE, lines: [line('FR-BR-PF', '10', { price, reason })] })).figures?.lines[0]
    expect(await at('20', '')).toMatchObject({
      // What it is stays said, and only what is missing is marked.
      ...{ problem: 'Say why the price is set by hand.', wrong: 'reason' },
      name: expect.stringMatching(/^Brood frames/),
    })
    expect(await at('13.20', 'scratched')).toMatchObject({ problem: expect.stringContaining('less margin') })
    expect(await at('cheap', 'scratched')).toMatchObject({ problem: expect.stringContaining('Type a price') })
    expect(await at('-10%', 'scratched')).toMatchObject({ unit: '20.5', how: 'set by hand', problem: '' })
    const { number, version } = await write({ ...TARNSIDE, lines: [line('FR-BR-PF', '10', { price: '20' })] })
    expect(await desk.placeDesk({ number, version }, '')).toMatchObject({
      problem: '1 line needs a look first.',
    })
  })

  test('what is wrong is told on its line with what would do', async () => {
    const { figures } = await write({
      ...TARNSIDE,
      lines: [line('PK-BK-15', '7'), line('NO-SUCH', '1'), line('FR-BR-PF', 'some')],
    })
    expect(figures?.lines.map(({ problem, fix }) => [problem.slice(0, 24), fix])).toEqual([
      ['Buckets come in stacks o', '12'],
      ['No item has this SKU.', null],
      ['Enter a quantity above z', null],
    ])
    const broken = figures?.limits.filter(({ isBroken }) => isBroken).map(({ name }) => name)
    expect(broken).toEqual(expect.arrayContaining(['Smallest trade order', 'Buckets by the stack']))
  })

  test('an offer is taken or left', async () => {
    const content = { ...TARNSIDE, lines: [line('PK-JR-340', '24')] }
    const open = (await write(content)).figures!
    const offer = open.offers.find(({ choice }) => choice === 'open')
    const choices = (choice: 'taken' | 'left') => ({ [offer!.code]: choice })
    const taken = (await write({ ...content, choices: choices('taken') })).figures!
    expect(taken.offers.find(({ code }) => code === offer!.code)?.choice).toBe('taken')
    expect(taken.gifts.length + taken.lines.flatMap(({ less }) => less).length).toBeGreaterThan(0)
    const left = (await write({ ...content, choices: choices('left') })).figures!
    expect(left.offers.find(({ code }) => code === offer!.code)?.choice).toBe('left')
    expect([left.gifts, left.total]).toEqual([[], open.total])
  })

  test('it is held and taken up again, or made a quote with its prices', async () => {
    const { number, version } = await write({
      ...TARNSIDE,
      lines: [line('FR-BR-PF', '40', { price: '13.20', reason: '' }), line('TL-JT-ST', '2')],
    })
    expect(await desk.setDeskAside({ number, version }, 'held')).toMatchObject({ ok: true })
    expect((await deskLoad.loadDesk(look(), null))?.held.map((each) => each.number)).toContain(number)
    const again = await deskLoad.loadDesk(look(), number)
    const quoted = await desk.makeDeskQuote({ number, version: again!.version })
    if (!quoted.ok) throw new Error(quoted.problem)
    const quote = await findQuote(steppe.database, Number(quoted.to.split('/').at(-1)))
    expect(quote).toMatchObject({
      request: {
        buyer: 'Tarnside Apiaries',
        askedBy: 'Merchant',
        lines: [{ their: '22.8' }, { their: '12.25' }],
      },
      working: { lines: [{ sku: 'FR-BR-PF', quantity: '40', price: '13.20' }, { price: '' }] },
    })
    expect(await deskLoad.loadDesk(look(), number)).toBeNull()
    expect(await desk.makeDeskQuote({ number, version: again!.version })).toMatchObject({ ok: false })
  })

  test('who is found by what is typed, and what they order again and again', async () => {
    const { store } = look().prepared
    expect(deskLoad.findBuyers(store, 'brid').map(({ code }) => code)).toEqual(['fennmoor'])
    const found = await deskLoad.findAtDesk(look(), TARNSIDE, { words: 'fr-br', quantity: '20' })
    expect(found[0]).toMatchObject({ unit: '22.8', total: '456' })
    const { buyer } = await write({ ...TARNSIDE, lines: [] })
    expect(buyer.last?.lines.length).toBeGreaterThan(0)
    expect(buyer.regular.map(({ sku }) => sku)).not.toContain('NO-SUCH')
  })
})

describe('lists of an account', () => {
  async function make(who: Who, name: string, isShared = true): Promise<string> {
    as(who)
    const form = new FormData()
    form.set('name', name)
    form.set('shared', isShared ? 'yes' : 'no')
    form.append('line', '20 FR-BR-PF')
    form.append('line', '2 TL-JT-ST')
    return String((await leadsTo(lists.beginList(form)))?.split('/').at(-1))
  }
  async function see(who: Who, id: string) {
    as(who)
    return listLoad.loadList(await session.shopVisitor(), id)
  }
  const set = (id: string, sku: string, seen: string, typed: string) =>
    lists.setListLine(id, { sku, extras: [], seen, typed })

  test('two colleagues change one list: different lines at once, the same one after the other', async () => {
    const id = await make('orla', 'Spring')
    as('cathal')
    expect(await set(id, 'FR-BR-PF', '20', '30')).toBeNull()
    as('orla')
    expect(await set(id, 'TL-JT-ST', '2', '4')).toBeNull()
    // She still sees twenty where he made it thirty.
    expect(await set(id, 'FR-BR-PF', '20', '10')).toContain('Cathal Roe made it 30')
    expect((await see('orla', id))?.lines.map(({ sku, quantity }) => [sku, quantity])).toEqual([
      ['FR-BR-PF', '30'],
      ['TL-JT-ST', '4'],
    ])
    as('cathal')
    expect(await lists.addToList(id, 'PK-JR-340 12\nNO-SUCH 1')).toContain('NO-SUCH')
    expect(await set(id, 'TL-JT-ST', '4', '0')).toBeNull()
    expect(await set(id, 'FR-BR-PF', '30', 'lots')).toContain('not a quantity')
    const view = await see('cathal', id)
    expect(view?.lines.map(({ sku, unit, total }) => [sku, unit, total])).toEqual([
      ['FR-BR-PF', '22.8', '684'],
      ['PK-JR-340', '7.7', '92.4'],
    ])
  })

  test('what is kept alone no colleague sees, and nothing of it another account', async () => {
    const alone = await make('orla', 'Mine', false)
    const shared = await make('orla', 'Ours')
    expect(await see('cathal', alone)).toBeNull()
    expect(await see('brid', shared)).toBeNull()
    as('brid')
    expect(await set(shared, 'FR-BR-PF', '20', '1')).toContain('not shared any more')
    expect(await lists.orderFromList(shared, [])).toContain('not shared any more')
    const form = new FormData()
    form.set('id', shared)
    await leadsTo(lists.dropList(form))
    expect(await see('orla', shared)).not.toBeNull()
    as('orla')
    expect(await lists.shareList(alone, true)).toBeNull()
    expect(await see('cathal', alone)).not.toBeNull()
  })

  test('some of it goes into the cart', async () => {
    const id = await make('orla', 'To order')
    expect(await leadsTo(lists.orderFromList(id, [{ sku: 'TL-JT-ST', extras: [], quantity: '3' }]))).toBe(
      '/shop/cart',
    )
    const { cart } = await cartLoad.loadCart(await session.shopVisitor())
    expect(cart.lines.map(({ variant, quantity }) => [variant, quantity])).toEqual([
      ['variant-TL-JT-ST', '3'],
    ])
  })
})

describe('an order above what somebody orders alone', () => {
  /** Fills Cathal's cart and sends it. Resolves to where that leads. */
  async function send(quantity: string): Promise<string | null> {
    as('cathal')
    await leadsTo(cartActions.emptyCart())
    await cartActions.addToCart('FR-BR-PF', quantity, [])
    const form = new FormData()
    const typed = {
      name: 'Gorseback',
      street: 'Quay 1',
      postcode: '',
      city: 'Letterkenny',
      state: '',
      country: 'IE',
    }
    for (const [name, value] of Object.entries({ ...typed, payment: 'terms', approval: '1' }))
      form.set(name, value)
    // The way of paying and the place are part of what is looked at.
    const first = checkout.checkOut({ problems: {}, typed: {} }, form)
    expect(await first).toMatchObject({ problems: { total: expect.any(String) } })
    const { cart } = await cartLoad.loadCart(await session.shopVisitor())
    form.set('seen', cartLoad.seenTotal(cart))
    return leadsTo(checkout.checkOut({ problems: {}, typed: {} }, form))
  }
  const idOf = (to: string | null) => Number(/requests\/(\d+)/.exec(to ?? '')?.[1])
  async function view(who: Who, id: number) {
    as(who)
    return requestLoad.loadRequest(await session.shopVisitor(), id)
  }

  test('below it is ordered, above it waits, and one who approves orders it', async () => {
    // 22.80 each: 10 are 228.00, 30 are 684.00 without tax; Cathal orders up to 500 alone.
    expect(await send('10')).toMatch(/^\/shop\/orders\/\d+/)
    const id = idOf(await send('30'))
    const before = (await listOrders(steppe.database, {}, null, 100)).length
    const shown = await view('orla', id)
    expect(shown).toMatchObject({ who: 'Cathal Roe', state: 'waiting', mayDecide: true, before: '' })
    expect(await view('brid', id)).toBeNull()
    as('cathal')
    expect(await requests.letThrough(id, shown!.seen, '')).toMatchObject({
      problems: { all: expect.stringContaining('approve') },
    })
    as('orla')
    expect(await requests.letThrough(id, 'EUR 1', '')).toMatchObject({
      problems: { all: expect.stringContaining('total has changed') },
    })
    const both = await Promise.all([1, 2].map(() => leadsTo(requests.letThrough(id, shown!.seen, ''))))
    expect(both.filter((to) => to !== null)).toHaveLength(1)
    expect((await listOrders(steppe.database, {}, null, 100)).length).toBe(before + 1)
    expect(await view('cathal', id)).toMatchObject({
      state: 'ordered',
      decided: 'Orla Duggan',
      mayDecide: false,
    })
  })

  test('it is turned down with a reason, once', async () => {
    const id = idOf(await send('40'))
    as('orla')
    expect(await requests.turnRequestDown(id, ' ')).toMatchObject({
      problems: { reason: expect.any(String) },
    })
    expect(await requests.turnRequestDown(id, 'Not this season')).toEqual({ problems: {} })
    expect(await requests.turnRequestDown(id, 'Again')).toMatchObject({
      problems: { all: expect.any(String) },
    })
    expect(await view('cathal', id)).toMatchObject({ state: 'turned-down', reason: 'Not this season' })
  })
})

describe('reports', () => {
  const load = (fields: Record<string, string>) => reports.loadReport(look(), fields)

  test('the way from base to paid comes to what the orders say, and rows to the same', async () => {
    const { realisation, orders } = await load({})
    const amounts = realisation.map(({ amount }) => amount)
    expect(sum(amounts.slice(0, -1))).toBe(amounts.at(-1))
    const all = await listOrders(steppe.database, {}, null, 100)
    expect(orders).toBe(all.length)
    const nets = await Promise.all(
      all.map(async ({ number }) => (await findOrder(steppe.database, number))!.document.goods.net),
    )
    expect(amounts.at(-1)).toBe(sum(nets))
    const { sales } = await load({ report: 'sales', by: 'buyer' })
    expect(sales.reduce((whole, { net }) => add(whole, net), sales[0]!.net)).toBe(
      add(sum(nets), sales[0]!.net),
    )
    expect(sales.map(({ name }) => name)).toEqual(
      expect.arrayContaining(['Tarnside Apiaries', 'Gorseback Bees']),
    )
  })

  test('each way of telling sales apart can be exported as it is shown', async () => {
    for (const by of ['buyer', 'group', 'list', 'promotion']) {
      const view = await load({ report: 'sales', by })
      const { content } = exports.exportReport(view)
      expect(content.trim().split('\r\n')).toHaveLength(view.sales.length + 1)
      expect(content).toContain(view.sales[0]?.net)
    }
  })

  test('quotes by how they ended; days without any say so', async () => {
    const { quotes, buyers } = await load({ report: 'quotes' })
    expect(quotes.map(({ key, count }) => [key, count])).toEqual([['asked', 1]])
    expect(buyers).toMatchObject([{ name: 'Tarnside Apiaries', asked: 1, won: 0, lost: 0, rate: null }])
    expect(await load({ report: 'quotes', since: '2020-01-01', until: '2020-02-01' })).toMatchObject({
      orders: 0,
      quotes: [],
    })
  })
})
