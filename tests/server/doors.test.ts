import type * as Staff from '@/features/staff/staff-actions'
import type * as Drafts from '@/features/drafts/draft-actions'
import type * as Records from '@/sheet/record/save/save-record'
import type * as Board from '@/features/board/edits/edit-board'
import type * as Doers from '@/server/session/doer'
import type * as Doors from '@/server/staff/sign-in'
import type * as People from '@/server/staff/staff-rows'
import type * as Looks from '@/server/engine/look-from'
import type { AmountEdit } from '@/server/changes/edit-amounts'
import type { Decimal } from '@/core/decimal/decimal'
import { scopeMatcher } from '@/core/engine/items/scope-matcher'
import { PERMISSIONS, type Permission } from '@/core/staff/permission'
import { FIRST_ROLES } from '@/core/staff/role'
import { auditEvents } from '@/server/database/door-schema'
import { staffSessions } from '@/server/database/staff-schema'
import { mails } from '@/server/database/selling-schema'
import { findKey, makeKey, revokeKey } from '@/server/staff/api-keys'
import { makeFirstCode } from '@/server/staff/first-start'
import { sendMails } from '@/server/mails/send-mails'
import { writeMailWith } from '@/features/mails/write-mail'
import type { Steppe } from '@/server/engine/steppe'
import { DEFAULT_VANTAGE } from '@/ui/frame/vantage-url'
import { desc } from 'drizzle-orm'
import { demoSteppe } from './demo-steppe'
import { jestOf, leadsTo, standInForShop } from './framework'

process.env['STEPPE_SIGN_IN'] = 'on'
const browsers = standInForShop(jestOf(import.meta), () => 'merchant')
const demo = demoSteppe()
let steppe: Steppe
let staff: typeof Staff
let doors: typeof Doors
let doers: typeof Doers
let drafts: typeof Drafts
let records: typeof Records
let board: typeof Board
let looks: typeof Looks
let people: typeof People

beforeAll(async () => {
  steppe = demo.current
  const holder = globalThis as { [key: symbol]: unknown }
  holder[Symbol.for('steppe.running')] = Promise.resolve(steppe)
  staff = await import('@/features/staff/staff-actions')
  doors = await import('@/server/staff/sign-in')
  doers = await import('@/server/session/doer')
  drafts = await import('@/features/drafts/draft-actions')
  records = await import('@/sheet/record/save/save-record')
  board = await import('@/features/board/edits/edit-board')
  looks = await import('@/server/engine/look-from')
  people = await import('@/server/staff/staff-rows')
}, 60_000)

const OWNER = { name: 'Orla Finch', email: 'orla@example.org', password: 'amber comb and willow' }
const NORA = { name: 'Nora Quill', email: 'nora@example.org', password: 'seven grey herons wait' }

/** The word of the link that was mailed last. */
async function mailedWord(): Promise<string> {
  const [mail] = await steppe.database.select().from(mails).orderBy(desc(mails.id)).limit(1)
  return (mail?.letter as { readonly word?: string }).word ?? ''
}

/** Somebody with a role of their own, signed in in a window of their name. */
async function employ(name: string, permissions: readonly Permission[]): Promise<string> {
  browsers.use('orla')
  const role = await staff.saveRole('', 0, { name: `Role of ${name}`, permissions, who: null, what: null })
  const email = `${name.toLowerCase()}@example.org`
  const invited = await staff.invite(name, email, role.ok ? (role.open ?? '') : '')
  if (!invited.ok) throw new Error(invited.problem)
  browsers.use(name)
  await doors.setPasswordByLink(steppe, await mailedWord(), NORA.password)
  expect(await doors.signInPerson(steppe, email, NORA.password)).toMatchObject({ ok: true })
  return invited.open ?? ''
}

describe('coming in', () => {
  test('whoever has the printed code becomes the owner, once', async () => {
    browsers.use('orla')
    expect(await doers.findDoer()).toBeNull()
    const code = await makeFirstCode(steppe.database)
    expect(code).toMatch(/^[A-Z2-9]{4}-[A-Z2-9]{4}-[A-Z2-9]{4}$/)
    expect(await doors.becomeOwner(steppe, { ...OWNER, code: 'AAAA-BBBB-CCCC' })).toEqual({
      ...{ ok: false, code: 'wrong' },
    })
    expect(await doors.becomeOwner(steppe, { ...OWNER, code, password: 'Orla Finch1' })).toEqual({
      ...{ ok: false, code: 'easily-guessed' },
    })
    expect(await doors.becomeOwner(steppe, { ...OWNER, code: code.toLowerCase() })).toEqual({ ok: true })
    expect(await doers.findDoer()).toMatchObject({ name: OWNER.name, role: 'Owner', kind: 'person' })
    expect(await doors.becomeOwner(steppe, { ...NORA, code })).toEqual({ ok: false, code: 'wrong' })
  })

  test('somebody who was invited sets a password by the link, once, and signs in', async () => {
    const invited = await staff.invite(NORA.name, ' Nora@Example.org ', 'pricing-editor')
    expect(invited).toMatchObject({ ok: true })
    expect(await staff.invite('Somebody else', NORA.email, 'viewer')).toMatchObject({ field: 'email' })
    const word = await mailedWord()
    browsers.use('nora')
    expect(await doors.setPasswordByLink(steppe, word, 'short')).toEqual({ ok: false, code: 'too-short' })
    // Long enough, and among the passwords most often leaked.
    for (const leaked of ['1qaz2wsx3edc', 'Basketball'])
      expect(await doors.setPasswordByLink(steppe, word, leaked)).toEqual({
        ...{ ok: false, code: 'easily-guessed' },
      })
    expect(await doors.setPasswordByLink(steppe, word, NORA.password)).toEqual({ ok: true })
    expect(await doors.setPasswordByLink(steppe, word, NORA.password)).toEqual({
      ok: false,
      code: 'link-gone',
    })
    expect(await doors.signInPerson(steppe, NORA.email, 'something else')).toEqual({
      ok: false,
      code: 'wrong',
    })
    expect(await doers.findDoer()).toBeNull()
    expect(await doors.signInPerson(steppe, NORA.email, NORA.password)).toEqual({
      ok: true,
      needs: 'nothing',
    })
    expect(await doers.findDoer()).toMatchObject({ name: NORA.name, role: 'Pricing editor' })
  })

  test('a window that nobody has used for two hours is signed out, one that is used stays', async () => {
    browsers.use('nora')
    const unusedFor = (minutes: number) =>
      steppe.database.update(staffSessions).set({ updatedAt: new Date(Date.now() - minutes * 60_000) })
    await unusedFor(119)
    expect(await doers.findDoer()).toMatchObject({ name: NORA.name })
    const [used] = await steppe.database.select().from(staffSessions).orderBy(desc(staffSessions.updatedAt))
    expect(Date.now() - (used?.updatedAt.getTime() ?? 0)).toBeLessThan(60_000)
    await unusedFor(121)
    expect(await doers.findDoer()).toBeNull()
    browsers.use('orla')
    expect(await doers.findDoer()).toBeNull()
    expect(await steppe.database.select().from(staffSessions)).toEqual([])
    for (const [name, { email, password }] of [
      ['orla', OWNER],
      ['nora', NORA],
    ] as const) {
      browsers.use(name)
      expect(await doors.signInPerson(steppe, email, password)).toMatchObject({ ok: true })
    }
  })

  test('a mail that lets somebody in is not kept with what it says', async () => {
    await sendMails(steppe, writeMailWith({ ofOrder: async () => null, ofQuote: async () => null }))
    const kept = await steppe.database.select().from(mails)
    expect(kept.length).toBeGreaterThan(0)
    for (const { letter, html, plain, sent } of kept) {
      expect(sent).not.toBeNull()
      expect(JSON.stringify([letter, html, plain])).not.toMatch(/word/)
    }
  })

  test('after five wrong passwords nobody is listened to for a while, not even with the right one', async () => {
    browsers.use('guesser')
    for (let tries = 0; tries < 5; tries += 1)
      expect(await doors.signInPerson(steppe, 'nobody@example.org', 'wrong')).toEqual({
        ok: false,
        code: 'wrong',
      })
    expect(await doors.signInPerson(steppe, 'nobody@example.org', 'wrong')).toMatchObject({
      code: 'too-many',
    })
  })

  test('a good one from an address counts for nothing there, so that many behind one address come in', async () => {
    browsers.use('office')
    const { doorTries } = await import('@/server/database/door-schema')
    const counted = async () =>
      (await steppe.database.select().from(doorTries)).find(({ key }) => key.startsWith('address'))?.count ??
      0
    const before = await counted()
    for (let times = 0; times < 3; times += 1)
      expect(await doors.signInPerson(steppe, NORA.email, NORA.password)).toMatchObject({ ok: true })
    expect(await counted()).toBe(before)
  })

  test('a lost password is set by a mailed link, and every window is signed out', async () => {
    browsers.use('elsewhere')
    expect(await doors.askForPassword(steppe, 'unknown@example.org')).toEqual({ ok: true, needs: 'nothing' })
    expect(await doors.askForPassword(steppe, NORA.email)).toEqual({ ok: true, needs: 'nothing' })
    expect(await doors.setPasswordByLink(steppe, await mailedWord(), NORA.password)).toEqual({ ok: true })
    browsers.use('nora')
    expect(await doers.findDoer()).toBeNull()
    expect(await doors.signInPerson(steppe, NORA.email, NORA.password)).toMatchObject({ ok: true })
  })

  test('whoever is let in no more is out at once, in every window', async () => {
    const id = await employ('Ivo', ['prices:look'])
    expect(await doers.findDoer()).toMatchObject({ name: 'Ivo' })
    browsers.use('orla')
    expect(await staff.endPerson(id)).toEqual({ ok: true })
    browsers.use('Ivo')
    expect(await doers.findDoer()).toBeNull()
    expect(await doors.signInPerson(steppe, 'ivo@example.org', NORA.password)).toEqual({
      ok: false,
      code: 'wrong',
    })
    await expect(drafts.startDraft('mine')).rejects.toThrow('401')
    browsers.use('orla')
    expect(await staff.openToPerson(id)).toEqual({ ok: true })
    browsers.use('Ivo')
    expect(await doors.signInPerson(steppe, 'ivo@example.org', NORA.password)).toMatchObject({ ok: true })
  })
})

describe('roles', () => {
  test('what a role allows changes with the next request of whoever has it', async () => {
    await employ('Ada', ['drafts:edit'])
    expect(await drafts.startDraft('Ada’s')).toMatchObject({ ok: true })
    await expect(drafts.publishNow('adas', '', '')).rejects.toThrow('403')
    browsers.use('orla')
    const code = 'role-of-ada'
    const all = { name: 'Role of Ada', who: null, what: null }
    expect(await staff.saveRole(code, 1, { ...all, permissions: ['drafts:publish'] })).toMatchObject({
      ok: true,
    })
    expect(await staff.saveRole(code, 1, { ...all, permissions: [] })).toMatchObject({ ok: false })
    browsers.use('Ada')
    await expect(drafts.startDraft('another')).rejects.toThrow('403')
    expect(await drafts.publishNow('no-such', '', '')).toMatchObject({ ok: false })
  })

  test('of two owners who let each other go at once one stays', async () => {
    browsers.use('orla')
    const orla = (await doers.findDoer())?.id ?? ''
    const invited = await staff.invite('Finn', 'finn@example.org', 'owner')
    const finn = invited.ok ? (invited.open ?? '') : ''
    const said = await Promise.all([people.letGo(steppe, orla), people.letGo(steppe, finn)])
    expect([...said].sort()).toEqual(['changed', 'last-owner'])
    // Orla stays for the tests that follow.
    await people.takeBack(steppe, orla)
    await people.letGo(steppe, finn)
    browsers.use('orla')
    if (said[0] === 'changed') await doors.signInPerson(steppe, OWNER.email, OWNER.password)
    expect(await doers.findDoer()).toMatchObject({ name: OWNER.name })
  })

  test('nobody gives more than they may do, changes themselves, or leaves the store without an owner', async () => {
    await employ('Bram', ['staff:manage'])
    expect(await staff.invite('Cleo', 'cleo@example.org', 'owner')).toMatchObject({ field: 'role' })
    expect(await staff.invite('Cleo', 'cleo@example.org', 'pricing-manager')).toMatchObject({ field: 'role' })
    expect(
      await staff.saveRole('viewer', 0, {
        name: 'Viewer',
        permissions: ['live:edit'],
        who: null,
        what: null,
      }),
    ).toMatchObject({ ok: false })
    browsers.use('orla')
    const own = await doers.findDoer()
    expect(await staff.endPerson(own?.id ?? '')).toMatchObject({ ok: false })
    expect(
      await staff.saveRole('owner', 0, { name: 'Owner', permissions: [], who: null, what: null }),
    ).toMatchObject({
      ok: false,
    })
  })

  test('each role the store begins with holds what it needs, and looks at prices', () => {
    for (const { permissions } of FIRST_ROLES) {
      expect(permissions).toContain('prices:look')
      expect(permissions).toEqual(PERMISSIONS.filter((each) => permissions.includes(each)))
    }
    expect(FIRST_ROLES.find(({ code }) => code === 'viewer')?.permissions).not.toContain('costs:see')
    expect(FIRST_ROLES.find(({ code }) => code === 'pricing-editor')?.permissions).not.toContain(
      'drafts:publish',
    )
  })
})

describe('costs', () => {
  const edit = (field: 'cost' | 'basePrice', seen: string | null, typed: string): AmountEdit => ({
    ...{ kind: 'value', record: 'product', id: 'product-FR-BR', field, typed },
    seen: seen as Decimal | null,
  })

  test('whoever may not see them is shown none, and the same prices', async () => {
    await employ('Dina', ['drafts:edit'])
    const { loadBoard } = await import('@/features/board/load-board')
    const { parseBoardFilter } = await import('@/features/board/rows/board-url')
    const boardFor = async (name: string) => {
      browsers.use(name)
      return loadBoard(await looks.lookFrom(DEFAULT_VANTAGE), parseBoardFilter(new URLSearchParams()))
    }
    const [mine, owners] = [await boardFor('Dina'), await boardFor('orla')]
    const costsIn = (view: object) => JSON.stringify(view).match(/"(cost|liveCost)":"[^"]+"/g) ?? []
    expect(costsIn(owners).length).toBeGreaterThan(50)
    expect(costsIn(mine)).toEqual([])
    const without = (view: object) => JSON.stringify(view).replace(/"(cost|liveCost)":("[^"]*"|null)/g, '')
    expect(without(mine)).toBe(without(owners))
  })

  test('they are kept by what somebody changes who does not see them, and cannot be set or found out', async () => {
    browsers.use('Dina')
    const started = await drafts.startDraft('Dina’s')
    const draft = started.ok ? (started.draft ?? '') : ''
    const { getView } = await import('@/server/views/views')
    const { viewAs } = await import('@/server/views/view-as')
    const { editAmounts } = await import('@/server/changes/edit-amounts')
    const whole = () => getView(steppe, { kind: 'draft', code: draft })
    const hers = async () => viewAs(await doers.findDoer(), await whole())
    const note = { author: 'Dina', at: new Date() }
    const product = (await whole()).prepared.store.product.get('product-FR-BR')
    expect(product?.cost).not.toBeNull()
    expect((await hers()).prepared.store.product.get('product-FR-BR')?.cost).toBeNull()
    const raised = await editAmounts(
      await hers(),
      [edit('basePrice', product?.basePrice ?? null, '9.99')],
      note,
    )
    expect(raised).toMatchObject({ ok: true })
    const after = (await whole()).prepared.store.product.get('product-FR-BR')
    expect(after).toMatchObject({ basePrice: '9.99', cost: product?.cost })
    expect(await editAmounts(await hers(), [edit('cost', null, '1.00')], note)).toMatchObject({
      refusal: { code: 'out-of-reach', why: 'costs' },
    })
    // A margin typed over a price would tell the cost.
    expect(await editAmounts(await hers(), [edit('basePrice', '9.99', 'm0')], note)).toMatchObject({
      refusal: { code: 'expression' },
    })
    const { commit } = await import('@/server/changes/commit')
    const line = [...(await whole()).prepared.store['price-line'].values()][0]
    if (!line) throw new Error('the demo has lines')
    const method = { kind: 'derived', reference: { kind: 'cost' }, steps: [] }
    const told = await commit(
      await hers(),
      [
        {
          ...{ kind: 'price-line', id: line.id, seen: steppe.revisions.get(`price-line/${line.id}`) ?? null },
          after: { ...line, breaks: line.breaks.map((each) => ({ ...each, method })) } as never,
        },
      ],
      { ...note, note: '' },
    )
    expect(told.ok).toBe(false)
  })

  test('a change goes nowhere but into a draft for whoever changes nothing live', async () => {
    browsers.use('Dina')
    const base = steppe.prepared?.store.product.get('product-FR-BR')?.basePrice ?? null
    expect(await board.editBoard([edit('basePrice', base, '9.50')], [DEFAULT_VANTAGE])).toMatchObject({
      problem: expect.stringContaining('changed by drafts'),
    })
    expect(steppe.prepared?.store.product.get('product-FR-BR')?.basePrice).toBe(base)
  })
})

describe('a part of the catalogue', () => {
  test('whoever works with a part of it changes that, and nothing that reaches further', async () => {
    const jars = [...(steppe.prepared?.store.category.values() ?? [])].find(({ name }) => name === 'Jars')
    if (!jars) throw new Error('the demo has jars')
    const id = await employ('Edda', ['live:edit'])
    browsers.use('orla')
    const what = {
      include: [{ kind: 'category' as const, category: jars.id, descendants: true }],
      exclude: [],
    }
    expect(await staff.savePerson(id, 0, { name: 'Edda', role: 'role-of-edda', who: null, what })).toEqual({
      ok: true,
    })
    browsers.use('Edda')
    const { prepared } = steppe
    if (!prepared) throw new Error('the demo is there')
    const { store, index } = prepared
    const isJar = scopeMatcher(prepared, what)
    const number = index.items.findIndex((_, at) => isJar(at))
    const jar = store.product.get(store.variant.get(index.items[number] ?? '')?.product ?? '')
    if (!jar) throw new Error('there is a jar')
    const raise = (product: string, seen: string | null) =>
      board.editBoard(
        [{ kind: 'value', record: 'product', id: product, field: 'basePrice', seen, typed: '9.13' } as never],
        [DEFAULT_VANTAGE],
      )
    expect(await raise(jar.id, jar.basePrice)).toMatchObject({ ok: true })
    const frame = store.product.get('product-FR-BR')
    expect(await raise('product-FR-BR', frame?.basePrice ?? null)).toMatchObject({
      problem: expect.stringContaining('reaches further'),
    })
    const made = await records.createRecord(
      'adjustment',
      { name: 'All up', scope: 'everything', step: '+5%' },
      null,
    )
    expect(made.ok).toBe(false)
  })
})

describe('own buyers', () => {
  test('a seller sees hers, with their orders and quotes, and nobody else', async () => {
    const prepared = steppe.prepared
    const farms = [...(prepared?.store.group.values() ?? [])].find(({ name }) => name === 'Bee farms')
    if (!prepared || !farms) throw new Error('the demo has bee farms')
    const id = await employ('Gwen', ['orders:work', 'quotes:work', 'desk:work', 'shop:look'])
    browsers.use('orla')
    const who = { include: [{ kind: 'group' as const, group: farms.id }], exclude: [] }
    const saved = await staff.savePerson(id, 0, { name: 'Gwen', role: 'role-of-gwen', who, what: null })
    expect(saved).toEqual({ ok: true })
    browsers.use('Gwen')
    const doer = await doers.findDoer()
    const own = [...prepared.store.account.values()].filter(({ groups }) => groups.includes(farms.id))
    const others = [...prepared.store.account.values()].filter(({ groups }) => !groups.includes(farms.id))
    expect(own.length).toBeGreaterThan(0)
    expect(others.length).toBeGreaterThan(0)
    expect(doer?.buyers).toEqual({ accounts: new Set(own.map((each) => each.id)), guests: false })
    const [mine, strange] = [own[0], others[0]]
    if (!mine || !strange || !doer) throw new Error('there are some')
    const look = (code: string) => looks.lookFrom({ ...DEFAULT_VANTAGE, as: `account:${code}` })
    expect((await look(mine.code)).as).toBe(`account:${mine.code}`)
    expect((await look(strange.code)).as).toBe('guest')
    expect([...(await look(mine.code)).prepared.store.account.keys()].sort()).toEqual(
      own.map((each) => each.id).sort(),
    )
    const { orders } = await import('@/server/database/selling-schema')
    const { findOrder, listOrders } = await import('@/server/orders/order-rows')
    const { orderDocument } = await import('../fixtures/order-document')
    const row = (number: number, account: string | null) => ({
      ...{
        number,
        account,
        visitor: 'x',
        at: new Date(),
        document: orderDocument([]),
        state: 'placed' as const,
      },
      ...{ version: 0, buyer: 'b', currency: 'EUR', due: '1' },
    })
    await steppe.database
      .insert(orders)
      .values([row(9_001, mine.id), row(9_002, strange.id), row(9_003, null)])
    const { doAs } = await import('@/server/session/doing')
    const listed = await doAs(doer, () => listOrders(steppe.database, {}, null, 10))
    expect(listed.map(({ number }) => number)).toEqual([9_001])
    expect(await doAs(doer, () => findOrder(steppe.database, 9_002))).toBeNull()
    expect(await doAs(doer, () => findOrder(steppe.database, 9_003))).toBeNull()
    // Where nobody is said to ask, as in a job, all are found.
    expect((await listOrders(steppe.database, {}, null, 10)).map(({ number }) => number)).toEqual([
      9_003, 9_002, 9_001,
    ])
    const step = await import('@/features/orders/order-actions')
    expect(await step.takeOrderStep(9_002, 0, { kind: 'confirm' })).toBe('There is no order 9002.')
  })
})

describe('buyers', () => {
  test('come in by a mailed link, once, and by the password they set; nobody else does', async () => {
    const buyers = await import('@/server/shop/buyer-sign-in')
    const account = [...(steppe.prepared?.store.account.values() ?? [])].find(
      ({ emails }) => emails.length > 0,
    )
    const email = account?.emails[0] ?? ''
    browsers.use('buyer')
    const wanted = { leads: 'in', back: '/shop/cart' } as const
    expect(await buyers.mailBuyerLink(steppe, 'stranger@example.org', wanted)).toEqual({ ok: true })
    expect(await buyers.mailBuyerLink(steppe, email.toUpperCase(), wanted)).toEqual({ ok: true })
    const word = await mailedWord()
    const came = { ok: true, as: `account:${account?.code}`, email, back: '/shop/cart' }
    expect(await buyers.enterByLink(steppe, `${word}x`)).toEqual({ ok: false, code: 'link-gone' })
    expect(await buyers.enterByLink(steppe, word)).toEqual(came)
    expect(await buyers.enterByLink(steppe, word)).toEqual({ ok: false, code: 'link-gone' })
    expect(await buyers.signInBuyer(steppe, email, NORA.password)).toEqual({ ok: false, code: 'wrong' })
    await buyers.mailBuyerLink(steppe, email, { leads: 'password', back: '' })
    const other = await mailedWord()
    expect(await buyers.setBuyerPassword(steppe, other, 'short')).toEqual({ ok: false, code: 'too-short' })
    expect(await buyers.setBuyerPassword(steppe, other, NORA.password)).toMatchObject({ ok: true, email })
    expect(await buyers.signInBuyer(steppe, email, NORA.password)).toMatchObject({ ok: true, as: came.as })
    expect(await buyers.signInBuyer(steppe, 'stranger@example.org', NORA.password)).toEqual({
      ...{ ok: false, code: 'wrong' },
    })
  })

  test('words that are guessed from one address, in whatever window, are listened to no more; a good one takes none of it back', async () => {
    const cart = await import('@/features/shop/cart/cart-actions')
    const codes = await import('@/features/shop/cart/promotion-actions')
    const typed = (name: string, text: string) => {
      const form = new FormData()
      form.set(name, text)
      return form
    }
    const passcode = (word: string) => leadsTo(cart.enterPasscode(typed('word', word)))
    browsers.use('guesser 0')
    expect(await passcode(' LOOK-inside ')).toBe('/shop')
    for (let tries = 1; tries < 40; tries += 1) {
      browsers.use(`guesser ${tries}`)
      expect(await passcode(`look-inside${tries}`)).toMatch(/wrong=1/)
      expect(await leadsTo(codes.enterCode(typed('code', `NO-${tries}`)))).toBe('/shop/cart?code=wrong')
      if (tries === 20) expect(await passcode('look-inside')).toBe('/shop')
    }
    browsers.use('guesser 40')
    expect(await passcode('look-inside4')).toMatch(/wrong=1/)
    expect(await passcode('look-inside')).toMatch(/waits=1/)
    expect(await leadsTo(codes.enterCode(typed('code', 'NO-40')))).toBe('/shop/cart?code=wrong')
    expect(await leadsTo(codes.enterCode(typed('code', 'NO-41')))).toBe('/shop/cart?code=waits')
  })

  test('nobody becomes a buyer by saying so, and whoever looks with a buyer’s eyes binds nobody', async () => {
    const shop = await import('@/features/shop/entrance/shop-actions')
    const checkout = await import('@/features/shop/checkout/checkout')
    browsers.use('stranger')
    const form = new FormData()
    form.set('as', 'account:fennmoor')
    expect(await leadsTo(shop.signIn(form))).toBe('404')
    browsers.use('orla')
    form.set('vantage', 'as=account%3Afennmoor')
    form.set('page', '/shop')
    expect(await leadsTo(shop.openShopWindow(form))).toBe('/shop')
    await expect(checkout.checkOut({} as never, new FormData())).rejects.toThrow('403')
  })
})

describe('two persons', () => {
  test('whoever worked on a draft does not publish it, somebody else does', async () => {
    browsers.use('orla')
    const settings = steppe.prepared?.store.settings.get('settings')
    const { commit } = await import('@/server/changes/commit')
    const { liveTarget, revisionOf } = await import('@/server/views/view')
    const live = () => liveTarget(steppe)
    const set = (publishing: string) =>
      commit(
        live(),
        [
          {
            ...{ kind: 'settings', id: 'settings', seen: revisionOf(live(), 'settings', 'settings') },
            after: { ...settings, publishing } as never,
          },
        ],
        { author: 'Orla Finch', at: new Date(), note: '' },
      )
    expect(await set('by-two')).toMatchObject({ ok: true })
    await employ('Fay', ['drafts:edit', 'drafts:publish'])
    const started = await drafts.startDraft('Two')
    const code = started.ok ? (started.draft ?? '') : ''
    const { getView } = await import('@/server/views/views')
    const view = await getView(steppe, { kind: 'draft', code })
    const product = view.prepared.store.product.get('product-TL-JT')
    if (!product) throw new Error('there is one')
    const { editAmounts } = await import('@/server/changes/edit-amounts')
    const edit = {
      kind: 'value',
      record: 'product',
      id: product.id,
      field: 'basePrice',
      seen: product.basePrice,
    } as const
    expect(
      await editAmounts(view, [{ ...edit, typed: '+2' }], { author: 'Fay', at: new Date() }),
    ).toMatchObject({
      ok: true,
    })
    expect(await drafts.publishNow(code, '', '')).toMatchObject({
      problem: expect.stringContaining('second person'),
    })
    browsers.use('orla')
    expect(await drafts.publishNow(code, '', 'looked at by two')).toMatchObject({ ok: true })
    expect(await set('as-you-go')).toMatchObject({ ok: true })
  })
})

describe('programs', () => {
  const wanted = {
    name: 'Price board',
    scopes: ['prices:ask'] as const,
    perMinute: 3,
    expiresAt: null,
    madeBy: 'Orla',
  }

  test('a key opens what it is for, so many times a minute, until it is ended', async () => {
    const key = await makeKey(steppe, wanted)
    const found = await findKey(steppe, `Bearer ${key}`)
    expect(found).toMatchObject({ ok: true, scopes: ['prices:ask'], doer: { name: 'Key Price board' } })
    if (found.ok) expect(found.doer.permissions.has('costs:see')).toBe(false)
    for (let times = 0; times < 2; times += 1) expect((await findKey(steppe, `Bearer ${key}`)).ok).toBe(true)
    expect(await findKey(steppe, `Bearer ${key}`)).toMatchObject({
      ok: false,
      code: 'too-many',
      perMinute: 3,
    })
    const kept = await steppe.database.query.apiKeys.findFirst()
    expect(JSON.stringify(kept)).not.toContain(key)
    expect(await revokeKey(steppe, kept?.id ?? '')).toBe('Price board')
    expect(await findKey(steppe, `Bearer ${key}`)).toEqual({ ok: false, code: 'unknown' })
  })

  test('one that has expired, or was made up, opens nothing', async () => {
    const key = await makeKey(steppe, { ...wanted, expiresAt: new Date('2026-11-01T00:00:00Z') })
    expect(await findKey(steppe, `Bearer ${key}`)).toEqual({ ok: false, code: 'unknown' })
    for (const made of [`Bearer ${key}x`, key, 'Basic abc', `Bearer stp_${'a'.repeat(43)}`, ''])
      expect(await findKey(steppe, made)).toEqual({ ok: false, code: 'unknown' })
  })
})

test('the audit tells who came in, who was refused what, and who changed what others may do', async () => {
  const kinds = (await steppe.database.select().from(auditEvents)).map(({ kind }) => kind)
  for (const kind of [
    'became-owner',
    'person-invited',
    'signed-in',
    'sign-in-refused',
    'refused',
    'role-changed',
    'person-left',
    'published',
  ])
    expect(kinds).toContain(kind)
  browsers.use('orla')
  const { signOut } = await import('@/features/me/me-actions')
  expect(await leadsTo(signOut(new FormData()))).toBe('/sign-in')
  expect(await doers.findDoer()).toBeNull()
})
