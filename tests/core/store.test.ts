import { decimal } from '@/core/decimal/decimal'
import { findNearest } from '@/core/issue/issue'
import { checkChanges } from '@/core/store/check-changes'
import { parseRecord } from '@/core/store/parse-record'
import { applyChanges, type Change, reverseChanges, type Store } from '@/core/store/store'
import { randomStore, storeOf } from '@tests/fixtures/random-store'
import fc from 'fast-check'

const inherited = { basePrice: null, cost: null, recommendedPrice: null, weight: null }
const category = (id: string, parent: string | null) => ({ id, code: id, name: id, parent, position: 0 })
const product = {
  id: 'frame',
  code: 'FR',
  name: 'Frame',
  description: '',
  picture: 'frame',
  unit: 'each',
  status: 'active' as const,
  categories: ['frames'],
  attributes: {},
  axes: ['size'],
  ...inherited,
}
const variant = (id: string, sku = id) => ({
  id,
  sku,
  product: 'frame',
  options: { size: 's' },
  position: 0,
  ...inherited,
})
const list = {
  id: 'level',
  code: 'level',
  name: 'Level',
  purpose: 'level' as const,
  state: 'on' as const,
  audience: { include: [{ kind: 'everyone' as const }], exclude: [] },
  rank: 1,
  defaultLine: null,
  rounding: null,
}
const store: Store = storeOf({
  category: [category('all', null), category('frames', 'all')],
  product: [product],
  variant: [variant('frame-s'), variant('frame-m')],
  group: [{ id: 'farms', code: 'farms', name: 'Farms', trade: true, position: 0 }],
  'price-list': [list],
})

/** The issues of putting one record into the store, as `code field value expected`. */
function problems(
  kind: Change['kind'],
  after: object | null,
  id = (after as { id: string }).id,
): readonly string[] {
  const change = { kind, id, before: store[kind].get(id) ?? null, after } as Change
  return checkChanges(applyChanges(store, [change]), [change]).map(
    ({ code, field, value, expected }) => `${code} ${field} ${value} ${expected}`,
  )
}

describe('what a store refuses', () => {
  test.each([
    [
      'a taken SKU, whatever its case',
      'variant',
      variant('frame-l', 'FRAME-S'),
      'duplicate sku FRAME-S null',
    ],
    [
      'a category inside itself',
      'category',
      category('all', 'frames'),
      'cycle parent all › frames › all null',
    ],
    [
      'a category that does not exist',
      'product',
      { ...product, categories: ['framse'] },
      'unknown categories framse frames',
    ],
    [
      'a product that does not exist',
      'variant',
      { ...variant('x'), product: 'frume' },
      'unknown product frume frame',
    ],
    [
      'a group that does not exist',
      'price-list',
      { ...list, audience: { include: [{ kind: 'group', group: 'farm' }], exclude: [] } },
      'unknown audience farm farms',
    ],
    [
      'options the product does not ask for',
      'variant',
      { ...variant('x'), options: { colour: 'red' } },
      'not-in-axes options colour size',
    ],
  ] as const)('%s', (_reason, kind, record, expected) => expect(problems(kind, record)).toContain(expected))

  test('removing what others need, naming them', () => {
    expect(problems('product', null, 'frame')).toEqual(['in-use id FR frame-s, frame-m'])
    expect(problems('variant', null, 'frame-s')).toEqual([])
  })

  test('axes that leave variants behind', () =>
    expect(problems('product', { ...product, axes: ['colour'] })).toContain(
      'not-in-axes options size colour',
    ))
})

describe('what a record refuses', () => {
  const issues = (kind: Change['kind'], draft: object) => {
    const parsed = parseRecord(kind, draft as never, 2)
    return parsed.ok
      ? []
      : parsed.issues.map(({ code, field, value, expected }) => `${code} ${field} ${value} ${expected}`)
  }
  test.each([
    ['a base price of zero', 'product', { ...product, basePrice: '0' }, 'not-above-zero basePrice 0 null'],
    [
      'a negative base price',
      'variant',
      { ...variant('a'), basePrice: '-5' },
      'not-above-zero basePrice -5 null',
    ],
    [
      'a base price that is no decimal',
      'product',
      { ...product, basePrice: '12,5' },
      'not-a-decimal basePrice 12,5 null',
    ],
    ['too many digits', 'product', { ...product, basePrice: '1.005' }, 'too-many-digits basePrice 1.005 2'],
    ['a negative cost', 'product', { ...product, cost: '-1' }, 'negative cost -1 null'],
    ['no name', 'product', { ...product, name: '  ' }, 'missing name    null'],
    ['no category', 'product', { ...product, categories: [] }, 'missing categories  null'],
    [
      'a list without audience',
      'price-list',
      { ...list, audience: { include: [], exclude: [] } },
      'empty-audience audience  null',
    ],
    ['a rank below one', 'price-list', { ...list, rank: 0 }, 'too-low rank 0 1'],
    [
      'everything off',
      'price-list',
      { ...list, defaultLine: { kind: 'percent', percent: '-100', reference: 'base' } },
      'too-low defaultLine -100 -100',
    ],
    [
      'endings out of order',
      'price-list',
      { ...list, rounding: { kind: 'endings', period: '1', endings: ['0.95', '0.45'], mode: 'up' } },
      'unsorted-endings rounding 0.95, 0.45 1',
    ],
    [
      'a line for nothing',
      'price-line',
      {
        id: 'l',
        list: 'level',
        position: 0,
        scope: { include: [], exclude: [] },
        method: { kind: 'fixed', amount: '1' },
        rounding: null,
      },
      'empty-scope scope  null',
    ],
    [
      'an unknown currency',
      'settings',
      { id: 'settings', name: 'S', currency: 'EUX', priceDigits: 2, timeZone: 'UTC', country: 'IE' },
      'unknown currency EUX EUR',
    ],
  ] as const)('%s', (_reason, kind, draft, expected) => expect(issues(kind, draft)).toContain(expected))

  test('all slips are told at once', () =>
    expect(issues('product', { ...product, name: '', basePrice: 'x', cost: '-1' })).toHaveLength(3))

  test('what is right is kept exactly', () =>
    expect(parseRecord('product', { ...product, basePrice: '019.90' }, 2)).toMatchObject({
      ok: true,
      value: { basePrice: decimal('19.9') },
    }))
})

test('changes taken back in reverse leave the store as it was', () => {
  fc.assert(
    fc.property(randomStore, fc.array(fc.nat(), { maxLength: 5 }), (before, picks) => {
      const variants = [...before.variant.values()]
      const changes = picks.map((pick): Change => {
        const record = variants[pick % variants.length] ?? null
        const after = record && { ...record, basePrice: decimal(pick + 1) }
        return { kind: 'variant', id: record?.id ?? '', before: record, after }
      })
      // Each change's "before" is the store of its moment.
      let now = before
      const done = changes.map((change) => {
        const real = { ...change, before: now.variant.get(change.id) ?? null } as Change
        now = applyChanges(now, [real])
        return real
      })
      expect(applyChanges(now, reverseChanges(done)).variant).toEqual(before.variant)
    }),
  )
})

test.each([
  ['FR-BR-PX', 'FR-BR-PF'],
  ['fr-br-pf', 'FR-BR-PF'],
  ['completely else', null],
])('the nearest to %s is %s', (text, expected) =>
  expect(findNearest(text, ['FR-BR-PF', 'HV-NAT'])).toBe(expected),
)
