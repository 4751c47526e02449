import type { RecordKind } from '@/core/issue/issue'
import { RECORD_DEFAULTS } from '@/core/store/record-defaults'
import { commit } from '@/server/changes/commit'
import type { ChangeRequest } from '@/server/changes/weigh'
import { formerlyKnownAs } from '@/server/changes/history'
import { openSteppe, type Steppe } from '@/server/engine/steppe'
import { importDocument } from '@/server/exchange/import-document'
import { toDocument } from '@/server/exchange/store-document'
import { sql } from 'drizzle-orm'
import { demoSteppe } from './demo-steppe'
import { testInDirectory } from './in-directory'
import { program } from './program'
import { freshDirectory } from './temporary-directory'
import { liveView, liveTarget, revisionAsOf, revisionOf } from '@/server/views/view'

const NOTE = { author: 'Test', note: 'a change', at: new Date('2026-11-25T10:00:00Z') }
const demo = demoSteppe()
const opener = program('opener')
let steppe: Steppe
beforeAll(() => {
  steppe = demo.current
})

type Fields = Record<string, unknown>
type Sold = { readonly id: string; readonly sku: string }

function edit(kind: RecordKind, id: string, fields: Fields): ChangeRequest {
  const record = liveView(steppe).prepared.store[kind].get(id) as object
  const seen = revisionOf(liveTarget(steppe), kind, id)
  return { kind, id, seen, after: { ...record, ...fields } } as unknown as ChangeRequest
}

const documentNow = () => JSON.parse(JSON.stringify(toDocument(liveView(steppe).prepared.store))) as Fields

describe('a document', () => {
  test('that says what the store says changes nothing, in whatever order its fields stand', async () => {
    const reversed = (value: unknown): unknown =>
      Array.isArray(value)
        ? value.map(reversed)
        : value !== null && typeof value === 'object'
          ? Object.fromEntries(
              Object.entries(value)
                .reverse()
                .map(([field, inner]) => [field, reversed(inner)]),
            )
          : value
    const before = steppe.lastChangeSet
    expect(await importDocument(steppe, reversed(documentNow()), NOTE)).toEqual({ ok: true, changed: 0 })
    expect(steppe.lastChangeSet).toBe(before)
  })

  test('with one changed amount writes one record', async () => {
    const document = documentNow()
    const products = document['products'] as Fields[]
    const [first, ...others] = products as [Fields, ...Fields[]]
    const outcome = await importDocument(
      steppe,
      { ...document, products: [{ ...first, basePrice: '99.99' }, ...others] },
      NOTE,
    )
    expect(outcome).toEqual({ ok: true, changed: 1 })
  })

  test('made from an older state is refused, and of two at once one', async () => {
    const revision = steppe.lastChangeSet
    const document = documentNow()
    const renamed = (name: string) => ({
      ...document,
      settings: { ...(document['settings'] as Fields), name },
    })
    const both = await Promise.all(
      ['One', 'Other'].map((name) => importDocument(steppe, renamed(name), NOTE, revision)),
    )
    expect(both.filter(({ ok }) => ok)).toHaveLength(1)
    const late = await importDocument(steppe, renamed('Late'), NOTE, revision)
    expect(late).toMatchObject({ ok: false, errors: [{ code: 'stale' }] })
  })

  test('without ids over records with the same codes replaces them', async () => {
    const document = documentNow()
    const groups = (document['groups'] as Fields[]).map(({ id: _id, ...group }) => group)
    const familyless = { ...document, passcodes: [], accessRules: [] }
    const passcodes = (document['passcodes'] as Fields[]).map(({ id: _id, ...each }) => each)
    expect(groups.length).toBeGreaterThan(0)
    const outcome = await importDocument(steppe, { ...familyless, passcodes }, NOTE)
    expect(outcome).toMatchObject({ ok: true })
    expect([...liveView(steppe).prepared.store.passcode.values()].map(({ code }) => code).sort()).toEqual(
      passcodes.map(({ code }) => code).sort(),
    )
  })
})

describe('what one change set may do', () => {
  test('a record is found by the code it had before, whatever its case, and by none it never had', async () => {
    const [group] = liveView(steppe).prepared.store.group.values()
    const { id, code } = group as { id: string; code: string }
    await commit(liveTarget(steppe), [edit('group', id, { code: '50 %/a' })], NOTE)
    await commit(liveTarget(steppe), [edit('group', id, { name: 'Another name' })], NOTE)
    expect(await formerlyKnownAs(steppe, 'group', code.toUpperCase())).toBe(id)
    expect(await formerlyKnownAs(steppe, 'group', '50 %/a')).toBeNull()
    expect(await formerlyKnownAs(steppe, 'account', code)).toBeNull()
    await commit(liveTarget(steppe), [edit('group', id, { code })], NOTE)
  })

  test('two SKUs change places', async () => {
    const { store } = liveView(steppe).prepared
    const [one, other] = [...store.variant.values()] as unknown as readonly [Sold, Sold]
    const outcome = await commit(
      liveTarget(steppe),
      [edit('variant', one.id, { sku: other.sku }), edit('variant', other.id, { sku: one.sku })],
      NOTE,
    )
    expect(outcome).toMatchObject({ ok: true })
    const { variant } = liveView(steppe).prepared.store
    expect([variant.get(one.id)?.sku, variant.get(other.id)?.sku]).toEqual([other.sku, one.sku])
  })

  test.each([
    ['a null in a name', { name: 'a\u0000b' }],
    ['half of a pair', { name: 'a\ud800' }],
    ['a number beyond 32 bits', { position: 2 ** 40 }],
    ['a name of a million letters', { name: 'x'.repeat(1_000_000) }],
    ['an amount of a million digits', { basePrice: '9'.repeat(1_000_000) }],
    ['a code of 101 letters', { code: 'x'.repeat(101) }],
  ])('%s is a refusal', async (_, fields) => {
    const { store } = liveView(steppe).prepared
    const [product] = store.product.values()
    const [category] = store.category.values()
    const request =
      'position' in fields
        ? edit('category', category?.id ?? '', fields)
        : edit('product', product?.id ?? '', fields)
    const outcome = await commit(liveTarget(steppe), [request], NOTE)
    expect(outcome).toMatchObject({ ok: false, code: 'invalid' })
    expect(JSON.stringify(outcome).length).toBeLessThan(3_000)
  })

  test('the settings cannot be removed, nor made such that nobody could ask the store', async () => {
    const seen = revisionOf(liveTarget(steppe), 'settings', 'settings')
    const gone = { kind: 'settings', id: 'settings', seen, after: null } as ChangeRequest
    expect(await commit(liveTarget(steppe), [gone], NOTE)).toMatchObject({ ok: false, code: 'invalid' })
    for (const fields of [{ country: 'Ireland' }, { timeZone: 'Nowhere/At all' }, { currency: 'XXX' }])
      expect(await commit(liveTarget(steppe), [edit('settings', 'settings', fields)], NOTE)).toMatchObject({
        ok: false,
        code: 'invalid',
      })
  })

  test('categories may lie fifty levels deep and no deeper', async () => {
    const chain = (levels: number) =>
      Array.from({ length: levels }, (_, at) => ({
        kind: 'category',
        id: `deep-${at}`,
        seen: null,
        after: {
          ...RECORD_DEFAULTS.category,
          id: `deep-${at}`,
          code: `deep-${at}`,
          name: 'Deep',
          parent: at === 0 ? null : `deep-${at - 1}`,
        },
      })) as unknown as ChangeRequest[]
    const began = performance.now()
    expect(await commit(liveTarget(steppe), chain(2_000), NOTE)).toMatchObject({ ok: false, code: 'invalid' })
    expect(performance.now() - began).toBeLessThan(20_000)
    expect(await commit(liveTarget(steppe), chain(50), NOTE)).toMatchObject({ ok: true })
  }, 60_000)

  test('nothing is written on a nearly full disk; reading goes on, and room helps at once', async () => {
    const full = { ...steppe, freeBytes: () => 1_000_000 }
    const request = edit('settings', 'settings', { name: 'Full' })
    const before = steppe.lastChangeSet
    expect(await commit(liveTarget(full), [request], NOTE)).toEqual({
      ok: false,
      code: 'disk-full',
      freeBytes: 1_000_000,
    })
    expect(steppe.lastChangeSet).toBe(before)
    expect(await commit(liveTarget(steppe), [request], NOTE)).toMatchObject({ ok: true })
  })

  test('an edit of a record that was changed after the page was read is stale', async () => {
    const [rate] = liveView(steppe).prepared.store['tax-rate'].values()
    const id = rate?.id ?? ''
    const asOf = steppe.lastChangeSet
    expect(revisionAsOf(liveTarget(steppe), 'tax-rate', id, asOf)).toBe(
      revisionOf(liveTarget(steppe), 'tax-rate', id),
    )
    await commit(liveTarget(steppe), [edit('tax-rate', id, { reason: 'by somebody else' })], NOTE)
    const late = {
      ...edit('tax-rate', id, { reason: 'mine' }),
      seen: revisionAsOf(liveTarget(steppe), 'tax-rate', id, asOf),
    } as ChangeRequest
    expect(await commit(liveTarget(steppe), [late], NOTE)).toMatchObject({ ok: false, code: 'stale' })
  })
})

test('a store nobody foresaw starts, names the record, can be exported, mended and put back', async () => {
  const directory = freshDirectory()
  const first = await openSteppe(directory.path)
  const document = documentNow()
  expect(await importDocument(first, document, NOTE)).toMatchObject({ ok: true })
  const { id, code } = [...liveView(first).prepared.store.adjustment.values()][0] as {
    id: string
    code: string
  }
  await first.database.execute(
    sql`update adjustment set schedule = '{"from":"no day","to":null,"months":[],"weekdays":[],"hours":null,"overrides":{}}'::jsonb where id = ${id}`,
  )
  await first.close()

  const broken = await openSteppe(directory.path)
  expect(broken.prepared).toBeNull()
  expect(broken.broken?.record).toBe(`adjustment ${code}`)
  expect(toDocument(broken.broken!.store)).toMatchObject({ settings: { currency: 'EUR' } })
  expect(await importDocument(broken, document, NOTE)).toEqual({ ok: true, changed: 1 })
  expect(broken.prepared).not.toBeNull()
  await broken.close()
  directory.remove()
}, 120_000)

testInDirectory(
  'a process in another network namespace on the same directory is kept out, until the first ends',
  async () => {
    const directory = freshDirectory()
    const first = await openSteppe(directory.path)
    const elsewhere = () =>
      new Promise<string>((resolve) => {
        const child = opener.start([directory.path], ['ignore', 'pipe', 'pipe'], ['unshare', '--net'])
        let said = ''
        child.stdout?.on('data', (chunk: Buffer) => (said += String(chunk)))
        child.stderr?.on('data', (chunk: Buffer) => (said += String(chunk)))
        child.once('exit', () => resolve(said))
        child.once('error', () => resolve('no namespaces here'))
      })
    const said = await elsewhere()
    // Only a machine that lets this process make a namespace can try it.
    if (/Operation not permitted|no namespaces here/.test(said))
      console.error('network namespaces cannot be made here, so this was not tried')
    else expect(said).toContain('is in use by another Steppe')
    await first.close()
    if (!/Operation not permitted|no namespaces here/.test(said))
      expect(await elsewhere()).toContain('opened')
    directory.remove()
  },
  120_000,
)
