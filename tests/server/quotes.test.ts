import type * as Sheet from '@/features/quotes/load-quote'
import type * as Actions from '@/features/quotes/quote-actions'
import type * as Entrance from '@/features/shop/entrance/shop-actions'
import type * as ShopSheet from '@/features/shop/quotes/load-quotes'
import type * as ShopActions from '@/features/shop/quotes/quote-actions'
import type * as Mails from '@/features/mails/write-mail'
import type * as Papers from '@/features/documents/make-paper'
import type * as Session from '@/server/session/shop-session'
import { decimal } from '@/core/decimal/decimal'
import { commit } from '@/server/changes/commit'
import { currentInstant } from '@/server/clock'
import { mails, quoteFiles } from '@/server/database/selling-schema'
import { draftView } from '@/server/drafts/draft-view'
import type { Steppe } from '@/server/engine/steppe'
import { sendMails } from '@/server/mails/send-mails'
import { readMailFile } from '@/server/mails/send-mails'
import { findOrder, listOrders } from '@/server/orders/order-rows'
import { watchOffers } from '@/server/quotes/quote-clock'
import * as files from '@/server/quotes/quote-files'
import { findQuote } from '@/server/quotes/quote-rows'
import { liveTarget, liveView, revisionOf } from '@/server/views/view'
import { asc } from 'drizzle-orm'
import { demoSteppe } from './demo-steppe'
import { jestOf, leadsTo, standInForShop } from './framework'

let side: 'shop' | 'merchant' = 'shop'
const browsers = standInForShop(jestOf(import.meta), () => side)

const demo = demoSteppe()
let steppe: Steppe
let merchant: typeof Actions
let sheet: typeof Sheet
let shop: typeof ShopActions
let shopSheet: typeof ShopSheet
let entrance: typeof Entrance
let session: typeof Session
let mailWords: typeof Mails
let papers: typeof Papers
beforeAll(async () => {
  steppe = demo.current
  const holder = globalThis as { [key: symbol]: unknown }
  holder[Symbol.for('steppe.running')] = Promise.resolve(steppe)
  merchant = await import('@/features/quotes/quote-actions')
  sheet = await import('@/features/quotes/load-quote')
  shop = await import('@/features/shop/quotes/quote-actions')
  shopSheet = await import('@/features/shop/quotes/load-quotes')
  entrance = await import('@/features/shop/entrance/shop-actions')
  session = await import('@/server/session/shop-session')
  mailWords = await import('@/features/mails/write-mail')
  papers = await import('@/features/documents/make-paper')
  for (const [account, person] of [
    ['gorseback', 'orla@gorseback.example'],
    ['gorseback', 'cathal@gorseback.example'],
    ['fennmoor', 'brid@fennmoor.example'],
  ] as const) {
    browsers.use(person)
    const form = new FormData()
    form.set('as', `account:${account}`)
    form.set('person', person)
    expect(await leadsTo(entrance.signIn(form))).toBe('/shop')
  }
})

/** From now on somebody's browser is meant, or the merchant's. */
function as(who: 'orla' | 'cathal' | 'brid' | 'guest' | 'merchant'): void {
  side = who === 'merchant' ? 'merchant' : 'shop'
  browsers.use(
    who === 'brid' ? 'brid@fennmoor.example' : who === 'guest' ? 'guest' : `${who}@gorseback.example`,
  )
}

const gorseback = () =>
  [...liveView(steppe).prepared.store.account.values()].find(({ code }) => code === 'gorseback')!.id
const look = () => ({ steppe, prepared: liveView(steppe).prepared, now: currentInstant().getTime() })
const ROWS = [
  { sku: 'FR-BR-PF', quantity: '48', wish: '21.00' },
  { sku: 'TL-JT-ST', quantity: '2' },
]

/** Asks for a quote as Orla. Resolves to its number. */
async function ask(
  rows: readonly { sku: string; quantity: string; wish?: string }[] = ROWS,
  attached: readonly string[] = [],
): Promise<number> {
  as('orla')
  const to = await leadsTo(
    shop.askForQuote(rows, { message: 'For spring', neededBy: '', address: '0' }, attached),
  )
  return Number(/quotes\/(\d+)/.exec(to ?? '')?.[1])
}

/** The quote as the merchant sees it. */
async function seen(number: number) {
  as('merchant')
  const view = await sheet.loadQuote(look(), number)
  if (!view) throw new Error('no such quote')
  return view
}

/** Sends an offer with prices typed into its lines. */
async function offer(number: number, prices: readonly string[], asksApproval = false) {
  const { version, working } = await seen(number)
  const lines = working.lines.map((line, at) => ({ ...line, price: prices[at] ?? '' }))
  return merchant.sendOffer({ number, version }, { ...working, lines, message: 'As asked' }, asksApproval)
}

/** The quote as its buyer sees it. */
async function shown(number: number, who: 'orla' | 'cathal' | 'brid' | 'guest' = 'orla') {
  as(who)
  return shopSheet.loadQuote(await session.shopVisitor(), number)
}

test('from the request to an order at exactly the offered prices, whatever the ladder says by then', async () => {
  const number = await ask()
  const asked = await findQuote(steppe.database, number)
  expect(asked?.request).toMatchObject({
    ...{ buyer: 'Gorseback Bees', asker: 'Orla Duggan', email: 'orla@gorseback.example', basis: 'net' },
    lines: [
      { sku: 'FR-BR-PF', quantity: '48', their: '22.8', wish: '21' },
      { sku: 'TL-JT-ST', quantity: '2', their: '12.25', wish: null },
    ],
  })
  expect((await seen(number)).figures).toMatchObject({ atTheirs: '1118.9', goods: '1118.9' })
  expect(await offer(number, ['-6%', '12'])).toEqual({ ok: true })
  const view = await shown(number)
  expect(view).toMatchObject({
    lines: [
      { price: '21.45', their: '22.8', total: '1029.6' },
      { price: '12', their: '12.25', total: '24' },
    ],
    // 1,053.60, and 23 % of 1,029.60 and of 24.00: 236.81 + 5.52.
    sums: { atTheirs: '1118.9', goods: { net: '1053.6' }, total: '1295.93' },
  })
  // Nothing of what it costs is in what a buyer gets.
  expect(JSON.stringify(view)).not.toMatch(/"cost"|13\.1\b|margin/)

  const product = liveView(steppe).prepared.store.product.get('product-FR-BR')!
  const after = { ...product, basePrice: decimal('40') }
  const change = {
    kind: 'product' as const,
    id: product.id,
    seen: revisionOf(liveTarget(steppe), 'product', product.id),
    after,
  }
  expect(
    await commit(liveTarget(steppe), [change], { author: 'Maeve', note: 'dearer', at: currentInstant() }),
  ).toMatchObject({ ok: true })
  as('orla')
  const wanted = { lines: [0, 1], reference: 'PO 7', card: '', total: '1295.93' }
  expect(await shop.acceptOffer(number, view!.version, { ...wanted, total: '1.00' })).toMatchObject({
    problems: { all: expect.stringContaining('taxes have changed') },
  })
  const to = await leadsTo(shop.acceptOffer(number, view!.version, wanted))
  const order = await findOrder(steppe.database, Number(/orders\/(\d+)/.exec(to ?? '')?.[1]))
  expect(order?.document).toMatchObject({
    ...{ quote: number, reference: 'PO 7', payment: '30 days net', promotions: [] },
    goods: { net: '1053.6' },
    total: { gross: '1295.93' },
  })
  expect(order?.document.lines.map(({ unit }) => unit.net)).toEqual(['21.45', '12'])
  expect((await shown(number))?.order).toBe(order?.number)
  const back = { ...change, seen: revisionOf(liveTarget(steppe), 'product', product.id), after: product }
  await commit(liveTarget(steppe), [back], { author: 'Maeve', note: 'as it was', at: currentInstant() })
})

test('of an offer some lines can be taken, and of two who accept at once one orders', async () => {
  const number = await ask()
  await offer(number, ['21', '12'])
  const view = await shown(number)
  as('orla')
  expect(await shop.sumsOfChosen(number, [1])).toMatchObject({ goods: { net: '24' }, total: '38.01' })
  const before = (await listOrders(steppe.database, {}, null, 100)).length
  // 24.00 and 6.90 for delivery, each with 23 % VAT.
  const wanted = { lines: [1], reference: '', card: '', total: '38.01' }
  const all = await Promise.all([1, 2, 3].map(() => leadsTo(shop.acceptOffer(number, view!.version, wanted))))
  expect(all.filter((to) => to !== null)).toHaveLength(1)
  expect((await listOrders(steppe.database, {}, null, 100)).length).toBe(before + 1)
  const { order } = await seen(number)
  expect((await findOrder(steppe.database, order!))?.document.lines).toHaveLength(1)
})

test('what a quote is to one account it is not to another', async () => {
  const number = await ask()
  await offer(number, ['21', '12'])
  expect(await shown(number, 'cathal')).toMatchObject({ number })
  for (const who of ['brid', 'guest'] as const) {
    expect(await shown(number, who)).toBeNull()
    expect(await shop.sumsOfChosen(number, [0])).toBeNull()
    const gone = { problems: { all: 'This quote is not here any more.' } }
    expect(await shop.answerOffer(number, 1, 'mine')).toEqual(gone)
    expect(await shop.acceptOffer(number, 1, { lines: [0], total: '1', reference: '', card: '' })).toEqual(
      gone,
    )
  }
  // Who orders no more than 500 alone leaves it to somebody who approves.
  as('cathal')
  const view = await shown(number, 'cathal')
  expect(
    await shop.acceptOffer(number, view!.version, {
      lines: [0, 1],
      reference: '',
      card: '',
      total: view!.sums!.total,
    }),
  ).toMatchObject({ problems: { all: expect.stringContaining('more than you order alone') } })
})

test('refused, answered, offered with approval, and declined with a reason', async () => {
  const number = await ask()
  as('merchant')
  expect(await merchant.takeMerchantStep({ number, version: 0 }, 'refuse', 'None before March.')).toEqual({
    ok: true,
  })
  expect(await merchant.takeMerchantStep({ number, version: 0 }, 'refuse', 'Twice.')).toMatchObject({
    problem: expect.stringContaining('a moment ago'),
  })
  as('orla')
  expect(await shop.answerOffer(number, 1, ' ')).toMatchObject({ problems: { all: expect.any(String) } })
  expect(await shop.answerOffer(number, 1, 'March would do.')).toEqual({ problems: {} })
  // 13.10 ÷ 13.50 leaves 3 % margin; the store wants 5.
  expect(await offer(number, ['13.50', ''])).toMatchObject({ needsApproval: true })
  expect(await offer(number, ['13.50', ''], true)).toEqual({ ok: true })
  expect((await shown(number))?.until).toBe('Waiting for our answer')
  expect(JSON.stringify(await shown(number))).not.toContain('13.5')
  const waiting = await seen(number)
  expect(
    await merchant.takeMerchantStep({ number, version: waiting.version }, 'note', 'Only this once.'),
  ).toEqual({ ok: true })
  expect(await merchant.takeMerchantStep({ number, version: waiting.version + 1 }, 'approve', '')).toEqual({
    ok: true,
  })
  const view = await shown(number)
  expect(view?.lines[0]).toMatchObject({ price: '13.5' })
  expect(view?.said.map(({ text }) => text)).toEqual([
    'As asked',
    'March would do.',
    'None before March.',
    'For spring',
  ])
  expect(await shop.declineOffer(number, view!.version, { reason: 'whim', message: '' })).toMatchObject({
    problems: { reason: 'Choose a reason.' },
  })
  expect(await shop.declineOffer(number, view!.version, { reason: 'price', message: '' })).toEqual({
    problems: {},
  })
  expect((await seen(number)).state).toBe('declined')
})

test('an offer ends with its day, is told of before, and cannot be accepted after', async () => {
  const number = await ask()
  const { version, working } = await seen(number)
  const short = { ...working, until: '2026-11-26' }
  expect(
    await merchant.sendOffer({ number, version }, { ...short, until: '2026-11-24' }, false),
  ).toMatchObject({
    problem: expect.stringContaining('already'),
  })
  expect(await merchant.sendOffer({ number, version }, short, false)).toEqual({ ok: true })
  expect(await watchOffers(steppe, currentInstant())).toBe(0)
  expect(await watchOffers(steppe, currentInstant())).toBe(0)
  const told = await steppe.database.select().from(mails).orderBy(asc(mails.id))
  const reminders = told.filter(
    ({ about, letter }) =>
      about === `quote ${number}` && (letter as { kind: string }).kind === 'quote-ending',
  )
  expect(reminders).toHaveLength(1)
  const later = new Date('2026-11-27T00:01:00Z')
  expect(await watchOffers(steppe, later)).toBe(1)
  expect(await watchOffers(steppe, later)).toBe(0)
  expect((await shown(number))?.until).toBe('Expired')
  as('orla')
  expect(
    await shop.acceptOffer(number, 2, { lines: [0], total: '1', reference: '', card: '' }),
  ).toMatchObject({
    problems: { all: expect.any(String) },
  })
})

test('what is being written is kept, and who kept another since is told', async () => {
  const number = await ask()
  const { working, workingVersion } = await seen(number)
  const mine = { ...working, delivery: 'in May' }
  expect(await merchant.keepForLater(number, workingVersion, mine)).toEqual({ ok: true })
  expect(await merchant.keepForLater(number, workingVersion, working)).toMatchObject({ ok: false })
  expect((await seen(number)).working.delivery).toBe('in May')
  expect(await merchant.keepForLater(number, 1, { lines: 'none' } as never)).toMatchObject({ ok: false })
})

test('offered prices become the buyer’s own in a draft', async () => {
  const number = await ask()
  await offer(number, ['21.45', '11.90'])
  const { version } = await seen(number)
  const { keepers } = await seen(number)
  expect(keepers.map(({ name }) => name)).toEqual(['their own prices'])
  const kept = await merchant.keepPrices({ number, version }, keepers[0]!.party)
  if (!kept.ok) throw new Error(kept.problem)
  const view = await draftView(steppe, kept.draft)
  const { store } = view!.prepared
  const list = [...store['price-list'].values()].find(({ code }) => code === kept.list)
  const lines = [...store['price-line'].values()].filter((line) => line.list === list?.id)
  expect(lines.map(({ breaks }) => breaks[0]?.method)).toEqual([
    { kind: 'fixed', amount: '21.45' },
    { kind: 'fixed', amount: '11.9' },
  ])
  expect((await seen(number)).keptIn).toEqual({ draft: kept.draft, list: kept.list })
})

test('offered prices can go into the list of a contract that binds the buyer, and of no other', async () => {
  as('brid')
  const to = await leadsTo(
    shop.askForQuote([{ sku: 'FR-BR-PF', quantity: '60' }], { message: '', neededBy: '', address: '0' }, []),
  )
  const number = Number(/quotes\/(\d+)/.exec(to ?? '')?.[1])
  await offer(number, ['20.95'])
  const { version, keepers } = await seen(number)
  expect(keepers.map(({ party }) => party.kind)).toEqual(['account', 'contract'])
  const contract = [...liveView(steppe).prepared.store.contract.values()].find(
    ({ code }) => code === 'C-104',
  )!
  expect(keepers[1]).toMatchObject({ party: { id: contract.id }, name: expect.stringContaining('C-104') })
  const stranger = [...liveView(steppe).prepared.store.contract.values()].find(
    ({ accounts }) => !accounts.includes(contract.accounts[0]!),
  )
  if (stranger)
    expect(
      await merchant.keepPrices({ number, version }, { kind: 'contract', id: stranger.id }),
    ).toMatchObject({ ok: false, problem: expect.stringContaining('does not bind them') })
  const kept = await merchant.keepPrices({ number, version }, keepers[1]!.party)
  if (!kept.ok) throw new Error(kept.problem)
  const { store } = (await draftView(steppe, kept.draft))!.prepared
  const list = [...store['price-list'].values()].find(({ code }) => code === kept.list)!
  expect(store.contract.get(contract.id)?.lists[0]).toBe(list.id)
  const frames = [...store.variant.values()].find(({ sku }) => sku === 'FR-BR-PF')!.id
  expect(
    [...store['price-line'].values()].find(
      (line) =>
        line.list === list.id &&
        line.scope.include.length === 1 &&
        line.scope.include[0]?.kind === 'variant' &&
        line.scope.include[0].variant === frames,
    )?.breaks[0]?.method,
  ).toEqual({ kind: 'fixed', amount: '20.95' })
})

test('a file goes along with a request: checked by what is in it, given to that request alone, gone when none comes', async () => {
  const orla = { account: gorseback(), visitor: null }
  const now = currentInstant()
  const keep = (name: string, bytes: Uint8Array, owner: typeof orla = orla, at = now) =>
    files.keepQuoteFile(steppe, owner, { name, bytes }, at)
  const text = (words: string) => new TextEncoder().encode(words)
  expect(await keep('empty.pdf', new Uint8Array())).toMatchObject({
    ok: false,
    problem: '“empty.pdf” is empty.',
  })
  for (const [name, bytes] of [
    ['drawing.pdf', text('MZ no PDF at all')],
    ['page.html', text('<script>alert(1)</script>')],
    ['list.csv', Uint8Array.of(65, 0, 66)],
    ['sheet.zip', Uint8Array.of(0x50, 0x4b, 3, 4)],
  ] as const)
    expect(await keep(name, bytes)).toMatchObject({
      ok: false,
      problem: expect.stringContaining('cannot be sent along'),
    })
  const kept = await keep('C:\\plans\\hive “stand”\n.pdf', text('%PDF-1.7 drawing'))
  if (!kept.ok) throw new Error(kept.problem)
  expect(kept.file.name).toBe('hive “stand”.pdf')
  const number = await ask(ROWS, [kept.file.id])
  expect((await seen(number)).files).toEqual([{ ...kept.file, size: 16 }])
  expect((await shown(number))?.files).toHaveLength(1)
  expect(await files.readQuoteFile(steppe.database, number, kept.file.id)).toMatchObject({
    type: 'application/pdf',
  })
  // A file goes with one request, and with its owner's only; the number of what was not sent is not lost.
  expect(await ask(ROWS, [kept.file.id])).toBeNaN()
  const brids = await keep('list.csv', text('SKU;5'), { account: 'account-of-nobody', visitor: null })
  expect(await ask(ROWS, [brids.ok ? brids.file.id : ''])).toBeNaN()
  const other = await ask()
  expect(other).toBe(number + 1)
  expect(await files.readQuoteFile(steppe.database, other, kept.file.id)).toBeNull()
  // What nobody asked with is gone after a day, and nobody can leave any number of them.
  const late = new Date(now.getTime() + 25 * 3_600_000)
  for (let count = 0; count < 10; count += 1)
    expect(await keep(`${count}.txt`, text('x'), orla, late)).toMatchObject({ ok: true })
  expect(await keep('more.txt', text('x'), orla, late)).toMatchObject({ ok: false })
  const left = await steppe.database.select({ owner: quoteFiles.owner }).from(quoteFiles)
  expect(left.map(({ owner }) => owner)).not.toContain('account account-of-nobody')
})

test('who may not ask is told, whoever posts what', async () => {
  as('guest')
  const rows = [
    { sku: 'FR-BR-PF', quantity: '1' },
    { sku: 'QU-NB-PL', quantity: 'many' },
  ]
  const address = {
    name: 'Ann',
    street: 'Quay 1',
    postcode: '',
    city: 'Sligo',
    state: '',
    country: 'IE',
    email: 'ann@example.com',
  }
  expect(await shop.askForQuote(rows, address, [])).toEqual({
    problems: { all: '2 lines need a look first: see beside them.' },
  })
  expect(await shop.askForQuote([], address, [])).toMatchObject({
    problems: { all: 'Say which items it is about.' },
  })
  expect(
    await shop.askForQuote(
      [{ sku: 'QU-NU-5', quantity: '1' }],
      {
        ...address,
        email: 'nobody',
        neededBy: '2020-01-01',
      },
      [],
    ),
  ).toMatchObject({ problems: { neededBy: expect.stringContaining('past'), email: expect.any(String) } })
})

test('merchant’s actions are not to be had from a page of the shop', async () => {
  as('orla')
  const number = await ask()
  await expect(merchant.takeMerchantStep({ number, version: 0 }, 'refuse', 'x')).rejects.toThrow('404')
  await expect(
    merchant.keepPrices({ number, version: 0 }, { kind: 'account', id: gorseback() }),
  ).rejects.toThrow('404')
})

test('everything that happened is mailed once, word for word, with its paper', async () => {
  const { makeOfferPaper, makePaper } = papers
  const write = mailWords.writeMailWith({
    ofOrder: (order, prepared, wanted) => makePaper(order, prepared.store, wanted),
    ofQuote: makeOfferPaper,
  })
  await Promise.all([sendMails(steppe, write), sendMails(steppe, write)])
  const sent = await steppe.database.select().from(mails).orderBy(asc(mails.id))
  expect(sent.every((mail) => mail.sent !== null)).toBe(true)
  const about = (number: number) => sent.filter((mail) => mail.about === `quote ${number}`)
  expect(about(1001).map(({ to, subject }) => [to, subject])).toEqual([
    ['orla@gorseback.example', 'We have your request Q-1001'],
    ['hello@clovertarn.example', 'Gorseback Bees asks for quote Q-1001'],
    ['orla@gorseback.example', 'Our offer for quote Q-1001'],
    ['hello@clovertarn.example', 'Gorseback Bees accepts quote Q-1001'],
  ])
  const offered = about(1001)[2]!
  expect(offered.plain).toContain('€1,295.93')
  expect(offered.html).toContain('/shop/quotes/1001')
  const file = (await readMailFile(steppe, offered.id))!.toString('latin1')
  expect(file).toMatch(/^From: =\?|^From: Clover/m)
  expect(file).toMatch(/^To: orla@gorseback\.example/m)
  expect(file).toMatch(/filename="?offer-Q-1001\.pdf/)
  expect(file).toContain(Buffer.from('%PDF-').toString('base64').slice(0, 6))
  const before = sent.length
  await sendMails(steppe, write)
  expect(await steppe.database.select().from(mails)).toHaveLength(before)
})
