import { commit } from '@/server/changes/commit'
import { latestChangesOf, undo } from '@/server/changes/history'
import type { ChangeRequest } from '@/server/changes/weigh'
import { forgetViews } from '@/server/drafts/draft-view'
import { beginDraft, findDraft } from '@/server/drafts/draft-rows'
import { discardDraft, planDraft, publishDraft, publishDue, unplanDraft } from '@/server/drafts/publish-draft'
import { reverseIntoDraft } from '@/server/drafts/reverse'
import { settleDraft, takeOut } from '@/server/drafts/settle-draft'
import { openSteppe, type Steppe } from '@/server/engine/steppe'
import { writeMailWith } from '@/features/mails/write-mail'
import { mails } from '@/server/database/selling-schema'
import type { Letter } from '@/server/mails/letter'
import { seedDemo } from '@/server/changes/seed-demo'
import { toDocument } from '@/server/exchange/store-document'
import { liveView, revisionOf, type View, type ViewedDraft } from '@/server/views/view'
import { getView } from '@/server/views/views'
import { newProducts } from './many-records'
import { freshDirectory } from './temporary-directory'

const AUTHOR = { author: 'Maeve', at: new Date('2026-11-25T10:00:00Z') }
const NOTE = { ...AUTHOR, note: 'timber round' }
const OTHER = { author: 'Conor', at: new Date('2026-11-25T11:00:00Z'), note: 'elsewhere' }

const directory = freshDirectory()
let steppe: Steppe
beforeAll(async () => {
  steppe = await openSteppe(directory.path)
  await seedDemo(steppe)
}, 60_000)
afterAll(async () => {
  await steppe.close()
  directory.remove()
})

const live = () => liveView(steppe)
const through = (code: string) => getView(steppe, { kind: 'draft', code })
const idOf = (code: string) =>
  [...live().prepared.store.product.values()].find((each) => each.code === code)!.id
const product = (view: View, code: string) => view.prepared.store.product.get(idOf(code))!

function put(view: View, code: string, fields: object): ChangeRequest {
  const record = product(view, code)
  const seen = revisionOf(view, 'product', record.id)
  return { kind: 'product', id: record.id, seen, after: { ...record, ...fields } } as ChangeRequest
}

const begin = async (name: string) => (await beginDraft(steppe.database, { name, ...AUTHOR })).code
const documentNow = () => JSON.stringify(toDocument(live().prepared.store))

test('what is put into a draft is seen through it alone, and survives a restart', async () => {
  const code = await begin('Spring')
  expect(code).toBe('spring')
  expect(await begin('Spring')).toBe('spring-2')
  const before = documentNow()
  const number = steppe.lastChangeSet
  const edited = await commit(
    await through(code),
    [put(await through(code), 'FR-BR', { basePrice: '26.90' })],
    NOTE,
  )
  expect(edited).toMatchObject({ ok: true })
  expect(documentNow()).toBe(before)
  expect(steppe.lastChangeSet).toBe(number)
  expect(product(await through(code), 'FR-BR').basePrice).toBe('26.9')
  expect(product(await through('spring-2'), 'FR-BR').basePrice).toBe('25.9')

  await steppe.close()
  steppe = await openSteppe(directory.path)
  const view = await through(code)
  expect(product(view, 'FR-BR').basePrice).toBe('26.9')
  expect(view.draft?.changes).toHaveLength(1)
  // Prices follow: the draft's engine answers for its own store.
  expect(view.prepared.store.product).not.toBe(live().prepared.store.product)
  expect(await latestChangesOf(view, 'product', idOf('FR-BR'), 1)).toMatchObject([
    { note: 'timber round', author: 'Maeve' },
  ])
})

test('an edit in a draft is stale when somebody else has edited the same there', async () => {
  const view = await through('spring')
  const late = put(view, 'FR-BR', { basePrice: '27.00' })
  expect(await commit(view, [put(view, 'FR-BR', { basePrice: '26.95' })], NOTE)).toMatchObject({ ok: true })
  expect(await commit(view, [late], NOTE)).toMatchObject({ ok: false, code: 'stale' })
})

test('live moves under a draft: other fields merge, the same one is a conflict that keeps it from being published', async () => {
  await commit(live(), [put(live(), 'FR-BR', { cost: '13.50' })], OTHER)
  expect(product(await through('spring'), 'FR-BR')).toMatchObject({ basePrice: '26.95', cost: '13.5' })
  expect((await through('spring')).draft?.conflicts).toEqual([])

  await commit(live(), [put(live(), 'FR-BR', { basePrice: '25.50' })], OTHER)
  const view = await through('spring')
  expect(product(view, 'FR-BR').basePrice).toBe('26.95')
  expect(view.draft?.conflicts).toMatchObject([
    {
      because: {
        code: 'fields',
        fields: [{ field: 'basePrice', before: '25.9', mine: '26.95', theirs: '25.5' }],
      },
    },
  ])
  const publication = { author: 'Maeve', reason: '', at: AUTHOR.at }
  expect(await publishDraft(steppe, 'spring', publication)).toEqual({
    ok: false,
    code: 'conflicts',
    count: 1,
  })

  const record = { kind: 'product', id: idOf('FR-BR') } as const
  expect(
    await settleDraft(steppe, 'spring', record, { field: 'basePrice', value: '26.40' }, AUTHOR),
  ).toMatchObject({ ok: true })
  const settled = await through('spring')
  expect(settled.draft?.conflicts).toEqual([])
  expect(product(settled, 'FR-BR').basePrice).toBe('26.4')
})

test('what is published is one change, once, and can be taken back exactly', async () => {
  const view = await through('spring')
  await commit(
    view,
    [put(view, 'TL-SM', { basePrice: '36.90' }), put(view, 'TL-CS', { basePrice: '71.00' })],
    NOTE,
  )
  const before = documentNow()
  const number = steppe.lastChangeSet
  const publication = {
    author: 'Maeve',
    reason: 'the timber round',
    override: 'Fennmoor have agreed',
    at: AUTHOR.at,
  }
  const all = await Promise.all([1, 2, 3].map(() => publishDraft(steppe, 'spring', publication)))
  expect(all.filter(({ ok }) => ok)).toHaveLength(1)
  expect(steppe.lastChangeSet).toBe(number + 1)
  expect(product(live(), 'TL-SM').basePrice).toBe('36.9')
  expect(await findDraft(steppe.database, 'spring')).toBeNull()
  // Who still looks through it sees live, and changes nothing by mistake.
  const late = await through('spring')
  expect(late.missing).toBe('spring')
  expect(await commit(late, [put(late, 'TL-SM', { basePrice: '1.00' })], NOTE)).toMatchObject({
    ok: false,
    code: 'no-such-draft',
  })
  const back = { author: 'Maeve', at: AUTHOR.at, note: 'back' }
  expect(await undo(live(), number + 1, back)).toMatchObject({ ok: true })
  expect(documentNow()).toBe(before)
})

test('taking back what has been changed again is a conflict, settled in a draft and not overwritten', async () => {
  const code = await begin('Round')
  const view = await through(code)
  await commit(
    view,
    [put(view, 'TL-SM', { basePrice: '37.90' }), put(view, 'TL-CS', { basePrice: '72.00' })],
    NOTE,
  )
  const published = await publishDraft(steppe, code, { author: 'Maeve', reason: '', at: AUTHOR.at })
  if (!published.ok) throw new Error(published.code)
  await commit(live(), [put(live(), 'TL-SM', { basePrice: '38.00' })], OTHER)
  const refused = await undo(live(), published.changeSet, { ...AUTHOR, note: 'back' })
  expect(refused).toMatchObject({ ok: false, code: 'stale', conflicts: [{ label: 'TL-SM' }] })

  const draft = await reverseIntoDraft(steppe, published.changeSet, AUTHOR)
  const reversed = await through(draft!.code)
  expect(reversed.draft?.conflicts).toMatchObject([
    { because: { fields: [{ field: 'basePrice', mine: '34.9', theirs: '38' }] } },
  ])
  const record = { kind: 'product', id: idOf('TL-SM') } as const
  await settleDraft(steppe, draft!.code, record, { keep: 'live', field: 'basePrice' }, AUTHOR)
  const settled = await through(draft!.code)
  expect(settled.draft?.changes.map(({ id }) => id)).toEqual([idOf('TL-CS')])
  expect(product(settled, 'TL-SM').basePrice).toBe('38')
  expect(
    await publishDraft(steppe, draft!.code, { author: 'Maeve', reason: '', at: AUTHOR.at }),
  ).toMatchObject({
    ok: true,
  })
})

test('changes are taken out of a draft, and an edit of it is undone in it', async () => {
  const code = await begin('Trial')
  const first = await commit(
    await through(code),
    [put(await through(code), 'TL-SM', { basePrice: '40.00' })],
    NOTE,
  )
  await commit(await through(code), [put(await through(code), 'TL-CS', { basePrice: '80.00' })], NOTE)
  const view = (await through(code)) as View & { readonly draft: ViewedDraft }
  expect(await takeOut(view, [{ kind: 'product', id: idOf('TL-CS') }], AUTHOR)).toMatchObject({ ok: true })
  expect((await through(code)).draft?.changes.map(({ id }) => id)).toEqual([idOf('TL-SM')])
  if (!first.ok) throw new Error(first.code)
  expect(await undo(await through(code), first.changeSet, { ...AUTHOR, note: 'back' })).toMatchObject({
    ok: true,
  })
  expect((await through(code)).draft?.changes).toEqual([])
  expect(await publishDraft(steppe, code, { author: 'Maeve', reason: '', at: AUTHOR.at })).toMatchObject({
    code: 'nothing-to-change',
  })
  expect(await discardDraft(steppe, code)).toBe(true)
  expect((await through(code)).missing).toBe(code)
})

test('a planned draft is published when its time has come, once, and says when it was late', async () => {
  const code = await begin('Planned')
  await commit(await through(code), [put(await through(code), 'TL-SM', { basePrice: '41.00' })], NOTE)
  const due = new Date('2026-12-01T00:00:00Z')
  const publication = { author: 'Maeve', reason: 'winter', at: AUTHOR.at }
  expect(await planDraft(steppe, code, new Date('2026-01-01'), publication)).toMatchObject({
    code: 'past-instant',
  })
  expect(await planDraft(steppe, code, due, publication)).toMatchObject({ ok: true })
  expect(await publishDue(steppe, new Date('2026-11-30T23:59:59Z'))).toEqual([])
  await unplanDraft(steppe, code)
  expect(await publishDue(steppe, due)).toEqual([])
  await planDraft(steppe, code, due, publication)
  await steppe.close()
  steppe = await openSteppe(directory.path)
  const late = new Date('2026-12-01T03:00:00Z')
  const [one, two] = await Promise.all([publishDue(steppe, late), publishDue(steppe, late)])
  expect([...one, ...two]).toHaveLength(1)
  expect(product(live(), 'TL-SM').basePrice).toBe('41')
  expect(await latestChangesOf(live(), 'product', idOf('TL-SM'), 1)).toMatchObject([
    { author: 'Maeve', note: expect.stringContaining('winter; due 2026-12-01T00:00Z, late') },
  ])
})

test('a planned draft that cannot be published stays one and says why', async () => {
  const code = await begin('Stuck')
  await commit(await through(code), [put(await through(code), 'TL-SM', { basePrice: '42.00' })], NOTE)
  await planDraft(steppe, code, new Date('2026-12-02T00:00:00Z'), {
    author: 'Maeve',
    reason: '',
    at: AUTHOR.at,
  })
  await commit(live(), [put(live(), 'TL-SM', { basePrice: '43.00' })], OTHER)
  expect(await publishDue(steppe, new Date('2026-12-02T00:00:01Z'))).toEqual([])
  expect(await findDraft(steppe.database, code)).toMatchObject({
    state: 'open',
    publishAt: null,
    failure: 'conflicts',
  })
  expect(product(live(), 'TL-SM').basePrice).toBe('43')
  // The merchant is told once, though it was looked at again since.
  expect(await publishDue(steppe, new Date('2026-12-02T01:00:00Z'))).toEqual([])
  const letters = (await steppe.database.select().from(mails)).filter(
    ({ about }) => about === `draft ${code}`,
  )
  expect(letters).toHaveLength(1)
  const write = writeMailWith({ ofOrder: () => Promise.resolve(null), ofQuote: () => Promise.resolve(null) })
  const mail = await write(steppe, letters[0]!.letter as Letter)
  expect(mail?.subject).toBe('“Stuck” was not published')
  expect(mail?.plain).toContain('the conflicts were not settled')
  expect(mail?.html).toContain(`/drafts/${code}`)
})

test('a draft of many records is written in slices and read back whole', async () => {
  const code = await begin('All')
  const view = await through(code)
  const all = newProducts(600)
  expect(await commit(view, all, NOTE)).toMatchObject({ ok: true })
  expect((await through(code)).draft?.changes).toHaveLength(all.length)
  forgetViews(steppe)
  expect((await through(code)).draft?.changes).toHaveLength(all.length)
  expect(await publishDraft(steppe, code, { author: 'Maeve', reason: '', at: AUTHOR.at })).toMatchObject({
    ok: true,
  })
})
