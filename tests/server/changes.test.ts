import { findPrice } from '@/core/engine/price/find-price'
import { toPrice } from '@/core/engine/lists/price-step'
import { amountAt, referenceAmounts } from '@/core/engine/amounts/amounts'
import { openPricingContext } from '@/core/engine/price/open-pricing-context'
import { resolveVantage } from '@/core/engine/context/vantage'
import { ask } from '@/core/engine/ask'
import { buyerContext } from '@/core/engine/context/buyer-context'
import { DEFAULT_VANTAGE } from '@/ui/frame/vantage-url'
import { decimal } from '@/core/decimal/decimal'
import { type Product, resolveValue, type Variant } from '@/core/catalogue/product'
import { RECORD_KINDS } from '@/core/issue/issue'
import type { Store } from '@/core/store/store'
import { commit } from '@/server/changes/commit'
import type { ChangeRequest } from '@/server/changes/weigh'
import { editAmounts } from '@/server/changes/edit-amounts'
import { latestChangeSets, latestChangesOf, preparedAsOf, undo } from '@/server/changes/history'
import { type Steppe } from '@/server/engine/steppe'
import { loadStore } from '@/server/records/record-tables'
import { demoSteppe } from './demo-steppe'
import { liveTarget, liveView, revisionOf } from '@/server/views/view'

const demo = demoSteppe()
let steppe: Steppe
const note = { author: 'Test', at: new Date('2026-12-01T10:00:00Z') }
const LATER = new Date('2026-12-01T10:30:00Z')

beforeAll(() => {
  steppe = demo.current
})

const store = (): Store => liveView(steppe).prepared.store
const product = (code: string): Product => store().product.get(`product-${code}`) as Product

function productRequest(code: string, change: object): ChangeRequest {
  const record = product(code)
  return {
    kind: 'product',
    id: record.id,
    seen: revisionOf(liveTarget(steppe), 'product', record.id),
    after: { ...record, ...change },
  } as ChangeRequest
}

const DEMO_NOW = Date.parse('2026-11-25T10:00:00Z')

function price(
  as: 'guest' | 'bee-farms' | 'distributors',
  sku: string,
  from = liveView(steppe).prepared,
): string | null {
  const buyer =
    as === 'guest'
      ? ({ kind: 'guest' } as const)
      : ({ kind: 'group', group: as === 'bee-farms' ? 'group-farms' : 'group-distributors' } as const)
  const asked = ask(from, {
    ...buyerContext(buyer, DEMO_NOW),
    variant: `variant-${sku}`,
    quantity: decimal(1),
    extras: [],
    basket: [],
  })
  if (!asked.ok) throw new Error(asked.error.code)
  return asked.value.unit
}

test('the demo is a real business: sizes, oddities, every number as written', () => {
  expect(store().product.size).toBe(116)
  expect(store().variant.size).toBeGreaterThan(290)
  expect(store().category.size).toBeGreaterThan(50)
  expect(price('guest', 'FR-BR-PF')).toBe('25.9')
  // 25.90 − 12 % = 22.792, to the nearest 0.05
  expect(price('bee-farms', 'FR-BR-PF')).toBe('22.8')
  // A fixed line, and below its cost of 17.90.
  expect(price('distributors', 'WF-BR-O10')).toBe('17.6')
  expect(price('guest', 'HH-OX-275')).toBeNull()
})

test('what is in memory is what is in the database', async () => {
  const loaded = await loadStore(steppe.database)
  for (const kind of RECORD_KINDS) {
    expect(Object.fromEntries(loaded.store[kind])).toEqual(Object.fromEntries(store()[kind]))
  }
  expect(loaded.revisions).toEqual(steppe.revisions)
})

test('a commit moves the prices that depend on it, and undo puts everything back', async () => {
  const before = store()
  const outcome = await commit(liveTarget(steppe), [productRequest('FR-BR', { basePrice: '30.00' })], {
    ...note,
    note: 'up',
  })
  if (!outcome.ok) throw new Error(outcome.code)
  expect(price('guest', 'FR-BR-PF')).toBe('30')
  expect(price('bee-farms', 'FR-BR-PF')).toBe('26.4')

  const undone = await undo(liveView(steppe), outcome.changeSet, { ...note, note: 'back' })
  expect(undone.ok).toBe(true)
  expect(store().product).toEqual(before.product)
  expect(price('bee-farms', 'FR-BR-PF')).toBe('22.8')
})

test('all or nothing: one bad record keeps the good ones out too', async () => {
  const before = store()
  const revision = steppe.lastChangeSet
  const outcome = await commit(
    liveTarget(steppe),
    [productRequest('FR-BR', { basePrice: '31.00' }), productRequest('WF-BR', { basePrice: '-1' })],
    { ...note, note: 'mixed' },
  )
  expect(outcome).toMatchObject({
    ok: false,
    code: 'invalid',
    issues: [{ code: 'not-above-zero', label: 'WF-BR', field: 'basePrice', value: '-1' }],
  })
  expect(store()).toBe(before)
  expect(steppe.lastChangeSet).toBe(revision)
})

test.each([
  ['a wrong shape', { status: 'sold' }, { code: 'malformed', field: 'status', value: '"sold"' }],
  ['an unknown field', { colour: 'red' }, { code: 'malformed', field: 'colour' }],
  ['a taken code', { code: 'wf-br' }, { code: 'duplicate', field: 'code', value: 'wf-br' }],
  [
    'an unknown category',
    { categories: ['category-framse'] },
    { code: 'unknown', value: 'category-framse', expected: 'category-frames' },
  ],
])('%s is refused with field, value and what would be right', async (_reason, change, issue) => {
  const outcome = await commit(liveTarget(steppe), [productRequest('FR-BR', change)], {
    ...note,
    note: 'bad',
  })
  expect(outcome).toMatchObject({ ok: false, code: 'invalid' })
  if (!outcome.ok && outcome.code === 'invalid')
    expect(outcome.issues).toContainEqual(expect.objectContaining(issue))
})

test('a stale edit is refused with both versions, and nothing is overwritten', async () => {
  const mine = productRequest('TL-SM', { basePrice: '35.90' })
  const theirs = await commit(liveTarget(steppe), [productRequest('TL-SM', { basePrice: '36.90' })], {
    ...note,
    note: 'theirs',
  })
  expect(theirs.ok).toBe(true)
  const outcome = await commit(liveTarget(steppe), [mine], { ...note, note: 'mine' })
  expect(outcome).toMatchObject({
    ok: false,
    code: 'stale',
    conflicts: [{ label: 'TL-SM', current: { basePrice: '36.9' }, submitted: { basePrice: '35.90' } }],
  })
  expect(product('TL-SM').basePrice).toBe('36.9')
})

test('two edits of one record at once: one wins, the other is told', async () => {
  const [first, second] = await Promise.all([
    commit(liveTarget(steppe), [productRequest('TL-CS', { basePrice: '70.00' })], { ...note, note: 'a' }),
    commit(liveTarget(steppe), [productRequest('TL-CS', { basePrice: '71.00' })], { ...note, note: 'b' }),
  ])
  expect([first.ok, second.ok]).toEqual([true, false])
  expect(product('TL-CS').basePrice).toBe('70')
})

test('undo of something changed since is refused', async () => {
  const first = await commit(liveTarget(steppe), [productRequest('TL-BR', { basePrice: '8.10' })], {
    ...note,
    note: 'one',
  })
  await commit(liveTarget(steppe), [productRequest('TL-BR', { basePrice: '8.20' })], { ...note, note: 'two' })
  if (!first.ok) throw new Error(first.code)
  expect(await undo(liveView(steppe), first.changeSet, { ...note, note: 'back' })).toMatchObject({
    ok: false,
    code: 'stale',
  })
  expect(await undo(liveView(steppe), 9_999, { ...note, note: 'back' })).toEqual({
    ok: false,
    code: 'unknown-change-set',
  })
})

test('undo of something put back by hand is refused, and no empty change is written', async () => {
  const before = [...store().product.values()].find(({ code }) => code === 'TL-BR')?.basePrice
  const first = await commit(liveTarget(steppe), [productRequest('TL-BR', { basePrice: '9.90' })], {
    ...note,
    note: 'up',
  })
  if (!first.ok) throw new Error(first.code)
  await commit(liveTarget(steppe), [productRequest('TL-BR', { basePrice: before ?? null })], {
    ...note,
    note: 'by hand',
  })
  const number = steppe.lastChangeSet
  expect(await undo(liveView(steppe), first.changeSet, { ...note, note: 'back' })).toMatchObject({
    ok: false,
    code: 'back-already',
    label: 'TL-BR',
  })
  expect(steppe.lastChangeSet).toBe(number)
})

test('the past is what it was: before the autumn round, and at its beginning', async () => {
  const september = await preparedAsOf(steppe, new Date('2026-09-30T00:00:00Z'))
  expect(price('guest', 'FR-BR-PF', september)).toBe('24.9')
  expect(september.store['price-list'].get('list-winter-feed')?.state).toBe('off')
  const beginning = await preparedAsOf(steppe, new Date('2025-01-01T00:00:00Z'))
  expect(price('guest', 'FR-BR-PF', beginning)).toBe('24.9')
  expect(beginning.store.product.get('product-FR-BR')?.cost).toBe('12.6')
  expect(await preparedAsOf(steppe, LATER)).toBe(liveView(steppe).prepared)
})

describe('figures typed over others', () => {
  const listEdit = (typed: string, seen: string | null) =>
    editAmounts(
      liveView(steppe),
      [
        {
          kind: 'list-price',
          list: 'list-bee-farm-level',
          variant: 'variant-EX-UF',
          from: { ...DEFAULT_VANTAGE, as: 'group:bee-farms' },
          typed,
          seen: seen === null ? null : decimal(seen),
        },
      ],
      note,
    )

  test('a list price becomes a line for the variant, is changed in place, and goes when emptied', async () => {
    const lines = () =>
      [...store()['price-line'].values()].filter(({ list }) => list === 'list-bee-farm-level').length
    const count = lines()
    expect(price('bee-farms', 'EX-UF')).toBe('11.1')
    expect((await listEdit('-10%', '11.1')).ok).toBe(true)
    expect(price('bee-farms', 'EX-UF')).toBe('9.99')
    expect((await listEdit('10.50', '9.99')).ok).toBe(true)
    expect(lines()).toBe(count + 1)
    expect((await listEdit('', '10.5')).ok).toBe(true)
    expect(price('bee-farms', 'EX-UF')).toBe('11.1')
    expect(lines()).toBe(count)
  })

  test('a price for one account alone makes a list of theirs, and moves nobody else', async () => {
    const from = { ...DEFAULT_VANTAGE, as: 'account:gorseback' } as const
    const paid = (as: `account:${string}`) => {
      const { buyerContext } = resolveVantage(store(), { ...from, as }, Date.now())
      const opened = openPricingContext(liveView(steppe).prepared, buyerContext)
      if (!opened.ok) throw new Error(opened.error.code)
      const number = liveView(steppe).prepared.index.numberOf.get('variant-FR-BR-PF') as number
      return toPrice(findPrice(liveView(steppe).prepared, opened.value, number).units, opened.value.digits)
    }
    const edit = {
      kind: 'list-price',
      list: 'list-bee-farm-level',
      variant: 'variant-FR-BR-PF',
      from,
    } as const
    const [own, other] = [paid('account:gorseback'), paid('account:tarnside')]
    expect(
      (await editAmounts(liveView(steppe), [{ ...edit, only: true, typed: '20', seen: own }], note)).ok,
    ).toBe(true)
    expect([paid('account:gorseback'), paid('account:tarnside')]).toEqual(['20', other])
    const lists = store()['price-list'].size
    expect(
      (await editAmounts(liveView(steppe), [{ ...edit, only: true, typed: '19', seen: decimal(20) }], note))
        .ok,
    ).toBe(true)
    expect(paid('account:gorseback')).toBe('19')
    // The list that was made is theirs from then on.
    expect(store()['price-list'].size).toBe(lists)
    expect(
      (await editAmounts(liveView(steppe), [{ ...edit, only: true, typed: '', seen: decimal(19) }], note)).ok,
    ).toBe(true)
    expect(paid('account:gorseback')).toBe(own)
  })

  test('a line that names the variant among others lets go of it', async () => {
    const edit = {
      kind: 'list-price',
      list: 'list-bee-farm-level',
      variant: 'variant-HH-ST-50',
      from: { ...DEFAULT_VANTAGE, as: 'group:bee-farms' },
      typed: '99',
      seen: decimal('104.15'),
    } as const
    expect((await editAmounts(liveView(steppe), [edit], note)).ok).toBe(true)
    expect(price('bee-farms', 'HH-ST-50')).toBe('99')
    expect(price('bee-farms', 'HH-FA-20')).toBe('141.1')
  })

  test('a margin typed into a list of another currency is computed on the cost in that currency', async () => {
    const from = { ...DEFAULT_VANTAGE, as: 'account:northern-skep' } as const
    const { buyerContext } = resolveVantage(store(), from, Date.now())
    const opened = openPricingContext(liveView(steppe).prepared, buyerContext)
    if (!opened.ok) throw new Error(opened.error.code)
    const { currencyView, currency } = opened.value
    const number = liveView(steppe).prepared.index.numberOf.get('variant-WF-BR-W10') as number
    const pence = amountAt(referenceAmounts(liveView(steppe).prepared, 'cost', currencyView), number)
    expect(currency).toBe('GBP')
    const edit = {
      kind: 'list-price',
      list: 'list-sterling-trade',
      variant: 'variant-WF-BR-W10',
      from,
    } as const
    const outcome = await editAmounts(
      liveView(steppe),
      [{ ...edit, typed: 'm50', seen: decimal('9.8') }],
      note,
    )
    expect(outcome.ok).toBe(true)
    // Half of the price is margin: the price is twice the cost, in pence as in pounds.
    const line = [...store()['price-line'].values()].find(
      ({ list, scope }) =>
        list === 'list-sterling-trade' && JSON.stringify(scope.include).includes('variant-WF-BR-W10"'),
    )
    expect(line?.breaks[0]?.method).toEqual({
      kind: 'fixed',
      amount: decimal(((pence * 2) / 100).toFixed(2)),
    })
    const variant = store().variant.get('variant-WF-BR-W10') as Variant
    const home = resolveValue(store().product.get(variant.product) as Product, variant, 'cost').value
    expect(home).not.toBe(decimal((pence / 100).toFixed(2)))
  })

  test('a figure that moved meanwhile is not overwritten', async () =>
    expect(await listEdit('9.00', '12.34')).toEqual({
      ok: false,
      refusal: { code: 'changed-meanwhile', seen: '12.34', current: '11.1' },
    }))

  test('nonsense changes nothing', async () =>
    expect(await listEdit('12,5x', '11.1')).toMatchObject({
      ok: false,
      refusal: { code: 'expression', error: 'not-understood' },
    }))

  test('an emptied variant takes its product’s value over again', async () => {
    const edit = (typed: string, seen: string) =>
      editAmounts(
        liveView(steppe),
        [
          {
            kind: 'value',
            record: 'variant',
            id: 'variant-FR-BR-PA',
            field: 'basePrice',
            typed,
            seen: decimal(seen),
          },
        ],
        note,
      )
    expect((await edit('', '35.9')).ok).toBe(true)
    expect(price('guest', 'FR-BR-PA')).toBe('25.9')
    expect((await edit('35.90', '25.9')).ok).toBe(true)
    expect(price('guest', 'FR-BR-PA')).toBe('35.9')
  })

  test('an unknown variant is named', async () =>
    expect(
      await editAmounts(
        liveView(steppe),
        [{ kind: 'value', record: 'variant', id: 'variant-FR-BR-PQ', field: 'cost', typed: '1', seen: null }],
        note,
      ),
    ).toMatchObject({ ok: false, refusal: { code: 'unknown', what: 'variant', value: 'variant-FR-BR-PQ' } }))
})

test('a list’s history keeps lines that are gone, and gives them back', async () => {
  const history = () => latestChangesOf(liveView(steppe), 'price-list', 'list-school-level', 5)
  const line = store()['price-line'].get('line-school-level-4')
  if (!line) throw new Error('no line')
  const seen = revisionOf(liveTarget(steppe), 'price-line', line.id)
  const removed = await commit(liveTarget(steppe), [{ kind: 'price-line', id: line.id, seen, after: null }], {
    ...note,
    note: 'gone',
  })
  if (!removed.ok) throw new Error(removed.code)
  expect(store()['price-line'].has(line.id)).toBe(false)
  expect((await history())[0]).toMatchObject({ changeSet: removed.changeSet, note: 'gone', author: 'Test' })

  expect((await undo(liveView(steppe), removed.changeSet, { ...note, note: 'back' })).ok).toBe(true)
  expect(store()['price-line'].get(line.id)).toEqual(line)
  expect((await history()).map((change) => change.note).slice(0, 2)).toEqual(['back', 'gone'])
  expect((await loadStore(steppe.database)).store['price-line'].get(line.id)).toEqual(line)
})

test('a product’s history is its own and its variants’, and nobody else’s', async () => {
  const history = await latestChangesOf(liveView(steppe), 'product', 'product-WF-SU', 10)
  expect(history.map((change) => change.note)).toEqual([
    'New costs from the wax mill and the joinery',
    'Set up the store',
  ])
})

test('moments worth looking at are those that still count', async () => {
  const sets = await latestChangeSets(steppe, 1_000)
  expect(sets.map(({ id }) => id)).toEqual([...sets.map(({ id }) => id)].sort((left, right) => right - left))
  expect(sets.some((set) => set.note === 'back' || set.note === 'gone')).toBe(false)
  expect(sets.at(-1)?.note).toBe('Set up the store')
})
