// `npm run bench:orders`: what selling costs, as ratios in one run: a page among many orders, and placing one in a large store.
import { priceCart } from '@/core/cart/price-cart'
import type { Variant } from '@/core/catalogue/product'
import { decimal } from '@/core/decimal/decimal'
import type { PreparedStore } from '@/core/engine/context/prepared-store'
import { loadCart, toCartView } from '@/features/shop/cart/load-cart'
import { loadResolved } from '@/features/shop/quick/load-resolved'
import { resolveRows } from '@/features/shop/quick/resolve-rows'
import type { ShopVisitor } from '@/server/session/shop-session'
import { readStock } from '@/server/stock/stock-levels'
import { buyerContext } from '@/core/engine/context/buyer-context'
import { prepare } from '@/core/engine/prepare'
import { openPricingContextExactly } from '@/core/engine/price/open-pricing-context'
import { makeOrder } from '@/core/order/make-order'
import { openSteppe } from '@/server/engine/steppe'
import { listOrders } from '@/server/orders/order-rows'
import { placeOrder } from '@/server/orders/place-order'
import { writeCart } from '@/server/shop/cart-store'
import { sql } from 'drizzle-orm'
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { largeStore } from './large-store'
import { median } from './measure'

const AT = Date.parse('2027-03-15T12:00:00Z')
const say = (what: string, value: string) => console.log(`${what.padEnd(74)} ${value}`)

async function timed(runs: number, act: (run: number) => Promise<unknown>): Promise<number> {
  const times: number[] = []
  for (let run = 0; run < runs; run += 1) {
    const start = performance.now()
    await act(run)
    times.push(performance.now() - start)
  }
  return median(times)
}

const directory = mkdtempSync(join(tmpdir(), 'steppe-bench-'))
const steppe = await openSteppe(directory)
const { database } = steppe
const FIRST = 10_001

/** Orders of a line each, of 500 accounts in turn. */
async function fillOrders(from: number, until: number): Promise<void> {
  const line = {
    ...{ variant: 'v', sku: 'SKU-1', name: 'Thing', quantity: '2', extras: [], perUnit: null },
    ...{
      unit: { net: '5', gross: '6' },
      net: '10',
      tax: '2',
      gross: '12',
      before: { net: '10', gross: '12' },
    },
    ...{
      promotions: [],
      isGift: false,
      taxes: [],
      base: null,
      cost: null,
      list: null,
      contract: null,
      trace: [],
    },
  }
  const document = JSON.stringify({ version: 2, buyer: 'Buyer', currency: 'EUR', digits: 2, lines: [line] })
  await database.execute(sql`
    insert into shop_order (number, account, visitor, at, document, state, version, buyer, currency, due)
    select number, 'account-' || number % 500, 'v', timestamptz '2020-01-01' + number * interval '1 minute',
      ${document}::jsonb, case when number % 50 = 0 then 'placed' else 'closed' end, 0, 'buyer', 'EUR', 12
    from generate_series(${FIRST + from}::int, ${FIRST + until - 1}::int) as number`)
  await database.execute(sql`analyze shop_order`)
}

/** Pages from all over, of everything, of what is open, and of one account. */
async function pages(count: number): Promise<number> {
  return timed(200, async (run) => {
    const before = FIRST + 60 + Math.floor(((run * 7919) % 1000) * (count / 1000))
    await listOrders(database, {}, before, 51)
    await listOrders(database, { states: ['placed'] }, before, 51)
    await listOrders(database, { owner: { account: 'account-7', visitor: null } }, before, 51)
  })
}

await fillOrders(0, 1_000)
const few = await pages(1_000)
await fillOrders(1_000, 1_000_000)
const many = await pages(1_000_000)
say('three pages of 50 among 1,000 orders', `${few.toFixed(2)} ms`)
say('the same among 1,000,000', `${many.toFixed(2)} ms: ${(many / few).toFixed(2)} × (≤ 3)`)
await database.execute(sql`truncate shop_order cascade`)

/** Twenty lines, from the cart to the order, in a store of so many variants. */
async function placing(variants: number): Promise<number> {
  const store = largeStore({ variants, lists: 100, linesPerList: 1_000, accounts: 200 })
  const prepared = prepare(store)
  steppe.prepared = prepared
  await database.execute(sql`truncate stock_level, stock_movement`)
  await database.execute(sql`
    insert into stock_level (variant, on_hand, reserved)
    select jsonb_array_elements_text(${JSON.stringify([...store.variant.keys()])}::jsonb), 1000000, 0`)
  await database.execute(sql`analyze stock_level`)
  const ids = [...store.variant.keys()]
  const from = buyerContext({ kind: 'guest' }, AT)
  const opened = openPricingContextExactly(prepared, from)
  if (!opened.ok) throw new RangeError(opened.error.code)
  return timed(150, async (run) => {
    const lines = Array.from({ length: 20 }, (_, at) => ({
      variant: ids[(run * 31 + at * 97) % ids.length] as string,
      quantity: decimal(at + 1),
      extras: [],
    }))
    const visitor = `bench-${variants}-${run}`
    await writeCart(steppe, visitor, lines)
    const priced = priceCart(prepared, { ...from, lines, past: [] })
    if (!priced.ok) throw new RangeError(priced.error.code)
    const document = makeOrder(prepared, opened.value, priced.value, {
      ...{ buyer: 'Bench', email: 'bench@example.com', payment: 'card', reference: '', placedBy: null },
      changeSet: 1,
      address: { name: '', street: '', postcode: '', city: '', state: '', country: 'IE' },
    })
    const placed = await placeOrder(steppe, {
      ...{ document, at: new Date(AT), seenLast: null },
      owner: { account: null, visitor },
    })
    if (!placed.ok) throw new RangeError(placed.code)
  })
}

await placing(10_000)
const small = await placing(10_000)
const large = await placing(100_000)
say('an order of 20 lines, from the cart on, among 10,000 variants', `${small.toFixed(2)} ms`)
say('the same among 100,000', `${large.toFixed(2)} ms: ${(large / small).toFixed(2)} × (≤ 1.3)`)

/**
 * A thousand pasted rows, twenty of them mistyped, against a cart of 200 lines: once as the shop answers each, from the database to
 * what is shown, and once what computing alone takes. In turn, so that whatever else the machine does meets both.
 */
async function pasting(): Promise<void> {
  const prepared = steppe.prepared as PreparedStore
  const holder = globalThis as { [key: symbol]: unknown }
  holder[Symbol.for('steppe.running')] = Promise.resolve(steppe)
  const from = buyerContext({ kind: 'guest' }, AT)
  const opened = openPricingContextExactly(prepared, from)
  if (!opened.ok) throw new RangeError(opened.error.code)
  const visitorOf = (cart: string) =>
    ({ prepared, buyerContext: from, pricingContext: opened.value, cart }) as unknown as ShopVisitor
  const variants = [...prepared.store.variant.values()]
  const stock = await readStock(database)
  const pick = (run: number, at: number) => variants[(run * 1_013 + at * 97) % variants.length] as Variant
  const linesOf = (run: number) =>
    Array.from({ length: 200 }, (_, at) => ({
      ...{ variant: pick(run, at).id, quantity: decimal(at + 1), extras: [] },
    }))
  const rowsOf = (run: number) =>
    Array.from({ length: 1_000 }, (_, at) => ({
      ...{ sku: `${pick(run, at).sku}${at % 50 === 0 ? 'X' : ''}`, quantity: String(at + 1) },
    }))
  const shown: Record<'cart' | 'rows' | 'cartAlone' | 'rowsAlone', number[]> = {
    ...{ cart: [], rows: [], cartAlone: [], rowsAlone: [] },
  }
  async function time(what: keyof typeof shown, act: () => unknown): Promise<void> {
    const start = performance.now()
    await act()
    shown[what].push(performance.now() - start)
  }
  for (let run = 0; run < 80; run += 1) {
    const visitor = visitorOf(`bench-cart-${run}`)
    const [lines, rows] = [linesOf(run), rowsOf(run)]
    await writeCart(steppe, `bench-cart-${run}`, lines)
    await time('cart', async () => toCartView(visitor, await loadCart(visitor)))
    await time('rows', () => loadResolved(visitor, rows))
    await time('cartAlone', () => priceCart(prepared, { ...from, lines, past: [], stock }))
    await time('rowsAlone', () => resolveRows(visitor, rows, { stock }))
  }
  // The first runs are compiled while they run.
  const of = (what: keyof typeof shown) => median(shown[what].slice(20))
  const [cart, rows, cartAlone, rowsAlone] = [of('cart'), of('rows'), of('cartAlone'), of('rowsAlone')]
  say('a cart of 200 lines among 100,000 variants, as the shop shows it', `${cart.toFixed(2)} ms`)
  say(
    '1,000 pasted rows, 20 mistyped, as the shop answers them',
    `${rows.toFixed(2)} ms: ${(rows / cart).toFixed(2)} × (≤ 6)`,
  )
  say('the same cart, priced and no more', `${cartAlone.toFixed(2)} ms`)
  say('the same rows, looked up', `${rowsAlone.toFixed(2)} ms: ${(rowsAlone / cartAlone).toFixed(2)} ×`)
}

await pasting()

await steppe.close()
rmSync(directory, { recursive: true, force: true })
