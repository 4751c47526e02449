import { readDocument } from '@/server/exchange/store-document'
import { refusals } from '@tests/fixtures/written-store'
import { decimal } from '@/core/decimal/decimal'
import { findNearest, findNearestFew, readyCandidates } from '@/core/issue/issue'
import { checkChanges } from '@/core/store/check-changes'
import { parseRecord } from '@/core/store/parse-record'
import { forAnyQuantity } from '@/core/price/lines/price-method'
import { RECORD_DEFAULTS } from '@/core/store/record-defaults'
import { applyChanges, type Change, type RecordOfKind, reverseChanges, type Store } from '@/core/store/store'
import { EVERYTHING } from '@/core/predicates/what'
import { ALWAYS } from '@/core/predicates/when'
import { randomStore, storeOf } from '@tests/fixtures/random-store'
import fc from 'fast-check'

const usual = RECORD_DEFAULTS
const named = (code: string) => ({ id: code, code, name: code })
const category = (id: string, parent: string | null) => ({ ...usual.category, ...named(id), parent })
const product = {
  ...usual.product,
  id: 'frame',
  code: 'FR',
  name: 'Frame',
  categories: ['frames'],
  axes: ['size'],
}
const variant = (id: string, sku = id) => ({
  ...usual.variant,
  id,
  sku,
  product: 'frame',
  options: { size: 's' },
})
const list = { ...usual['price-list'], ...named('level'), currency: 'EUR' }
const store: Store = storeOf({
  category: [category('all', null), category('frames', 'all')],
  product: [product],
  variant: [variant('frame-s'), variant('frame-m')],
  group: [{ ...usual.group, ...named('farms') }],
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

const breaks = (...methods: readonly object[]) => ({
  breaks: methods.map((method) => ({ from: '0', method })),
  counting: 'variant',
  pricing: 'all-units',
})
const line = {
  ...usual['price-line'],
  id: 'l',
  list: 'level',
  scope: EVERYTHING,
  ...breaks({ kind: 'fixed', amount: '1' }),
}
const sterling = { ...usual.currency, id: 'GBP', code: 'GBP' }
const contract = { ...usual.contract, ...named('c'), accounts: ['a'] }
const adjustment = { ...usual.adjustment, ...named('a'), method: { kind: 'percent', percent: '4' } }
const region = { ...usual.region, ...named('r'), countries: ['IE'] }
const SETTINGS = { ...usual.settings, currency: 'EUR' }

/** A store in euro, everything with two digits. */
const CONTEXT = { currency: 'EUR', digits: 2, digitsOf: () => 2, currencyOfList: () => 'EUR' }

describe('what a record refuses', () => {
  const issues = (kind: Change['kind'], draft: object) => {
    const parsed = parseRecord(kind, draft as never, CONTEXT)
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
      { ...list, defaultLine: breaks({ kind: 'percent', percent: '-100', reference: { kind: 'base' } }) },
      'too-low defaultLine -100 -99.99',
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
      { ...line, scope: { include: [], exclude: [] } },
      'empty-scope scope  null',
    ],
    [
      'a margin of a hundred',
      'price-line',
      { ...line, ...breaks({ kind: 'margin', percent: '100' }) },
      'margin-too-high method 100 99.9',
    ],
    [
      'two breaks at one quantity',
      'price-line',
      { ...line, ...breaks({ kind: 'fixed', amount: '2' }, { kind: 'fixed', amount: '1' }) },
      'unsorted-breaks method 0, 0 0',
    ],
    ['no break at all', 'price-line', { ...line, breaks: [] }, 'no-breaks method  null'],
    [
      'a window that ends before it starts',
      'price-list',
      { ...list, schedule: { ...ALWAYS, from: '2027-06-01', to: '2027-03-01' } },
      'reversed-window schedule.to 2027-06-01T00:00–2027-03-01T00:00 2027-06-01T00:00',
    ],
    [
      'a day that does not exist',
      'price-list',
      { ...list, schedule: { ...ALWAYS, from: '2027-02-30' } },
      'malformed schedule.from 2027-02-30 2027-03-01T00:00',
    ],
    [
      'hours that do not exist',
      'price-list',
      { ...list, schedule: { ...ALWAYS, hours: { from: '25:00', to: '26:00' } } },
      'malformed schedule.hours 25:00 17:00',
    ],
    [
      'a rate of zero',
      'exchange-rate',
      { id: 'r', currency: 'GBP', per: 'EUR', rate: '0', from: '2027-01-01T00:00Z', source: 'manual' },
      'not-above-zero rate 0 null',
    ],
    ['a currency nobody knows', 'currency', { ...sterling, code: 'XPD' }, 'unknown code XPD GBP'],
    ['the store’s own currency', 'currency', { ...sterling, code: 'EUR' }, 'store-currency code EUR null'],
    [
      'an own amount in the store’s currency',
      'product',
      {
        ...product,
        ownAmounts: { EUR: { basePrice: '3', cost: null, recommendedPrice: null, floor: null } },
      },
      'store-currency ownAmounts EUR null',
    ],
    [
      'a floor above the base price',
      'product',
      { ...product, basePrice: '3', floor: '4' },
      'too-high floor 4 3',
    ],
    ['a contract without parties', 'contract', { ...contract, accounts: [] }, 'no-parties parties  null'],
    [
      'a contract that ends before it starts',
      'contract',
      { ...contract, from: '2027-06-01', to: '2027-06-01' },
      'reversed-window to 2027-06-01T00:00–2027-06-01T00:00 2027-06-01T00:00',
    ],
    [
      'an adjustment that leaves nothing',
      'adjustment',
      { ...adjustment, method: { kind: 'percent', percent: '-100' } },
      'too-low method -100 -99.99',
    ],
    [
      'a price range that holds nothing',
      'adjustment',
      { ...adjustment, scope: { include: [{ kind: 'price-range', from: '9', to: '5' }], exclude: [] } },
      'reversed-range scope 9–5 null',
    ],
    ['a region for nowhere', 'region', { ...region, countries: [] }, 'missing countries  null'],
    [
      'a country that is none',
      'region',
      { ...region, countries: ['Ireland'] },
      'unknown countries Ireland IE',
    ],
    [
      'a time zone that is none',
      'settings',
      { ...SETTINGS, timeZone: 'Dublin' },
      'unknown timeZone Dublin Europe/Dublin',
    ],
    ['an unknown currency', 'settings', { ...SETTINGS, currency: 'EUX' }, 'unknown currency EUX EUR'],
  ] as const)('%s', (_reason, kind, draft, expected) => expect(issues(kind, draft)).toContain(expected))

  test('all slips are told at once', () =>
    expect(issues('product', { ...product, name: '', basePrice: 'x', cost: '-1' })).toHaveLength(3))

  test('what is right is kept exactly', () =>
    expect(parseRecord('product', { ...product, basePrice: '019.90' }, CONTEXT)).toMatchObject({
      ok: true,
      value: { basePrice: decimal('19.9') },
    }))
})

test('lists that come to start from themselves are refused with the circle named', () => {
  const from = (id: string, source: string): RecordOfKind['price-line'] => ({
    ...(line as unknown as RecordOfKind['price-line']),
    id: `line-${id}`,
    list: id,
    ...forAnyQuantity({ kind: 'percent', percent: decimal(-5), reference: { kind: 'list', list: source } }),
  })
  const lists = ['a', 'b', 'c'].map((id) => ({ ...list, id, code: id.toUpperCase() }))
  const before = storeOf({ 'price-list': lists, 'price-line': [from('a', 'b'), from('b', 'c')] })
  const closing: Change = { kind: 'price-line', id: 'line-c', before: null, after: from('c', 'a') }
  expect(checkChanges(applyChanges(before, [closing]), [closing])).toMatchObject([
    { code: 'cycle', kind: 'price-list', label: 'C', value: 'C › A › B › C' },
  ])
  const open: Change = { kind: 'price-line', id: 'line-c', before: null, after: from('c', 'level') }
  expect(checkChanges(applyChanges(before, [open]), [open]).map(({ code }) => code)).toEqual(['unknown'])
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
      expect(new Map(applyChanges(now, reverseChanges(done)).variant)).toEqual(new Map(before.variant))
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

test('which of several is nearest does not depend on the order they come in', () => {
  const text = fc.string({ unit: fc.constantFrom('A', 'B', 'C'), minLength: 2, maxLength: 5 })
  fc.assert(
    fc.property(text, fc.uniqueArray(text, { maxLength: 12 }), (typed, candidates) => {
      const few = (order: readonly string[]) => findNearestFew(typed, readyCandidates(order), 3, () => true)
      const [forwards, backwards] = [candidates, [...candidates].reverse()]
      expect(findNearest(typed, backwards)).toBe(findNearest(typed, forwards))
      expect(few(backwards)).toEqual(few(forwards))
      expect(few(forwards)[0] ?? null).toBe(findNearest(typed, forwards))
    }),
    { examples: [['FR-BR-PX', ['FR-BR-PF', 'FR-BR-PA']]] },
  )
})

describe('what two records cannot both say', () => {
  const group = (code: string, name: string, fields: object = {}) => ({ code, name, ...fields })

  test.each([
    [
      'groups of one name',
      { groups: [group('a', 'Farms'), group('b', 'farms')] },
      'groups b.name: duplicate',
    ],
    [
      'accounts with one e-mail',
      {
        accounts: [
          { code: 'a', name: 'A', emails: ['post@a.example'] },
          { code: 'b', name: 'B', emails: ['Post@a.example'] },
        ],
      },
      'accounts b.emails: duplicate',
    ],
    [
      'regions for one country',
      {
        regions: [
          { code: 'a', name: 'A', countries: ['IE'] },
          { code: 'b', name: 'B', countries: ['IE'] },
        ],
      },
      'regions b.countries: duplicate',
    ],
    [
      'a region that pays in what the store does not take',
      { regions: [{ code: 'a', name: 'A', countries: ['GB'], currency: 'GBP' }] },
      'regions a.currency: unknown',
    ],
  ])('%s', (_, sections, expected) => expect(refusals(sections as never)).toContain(expected))

  test('an archived record, and categories that hang on others, are out of the way', () => {
    expect(refusals({ groups: [group('a', 'Farms', { status: 'archived' }), group('b', 'Farms')] })).toEqual(
      [],
    )
    expect(
      refusals({
        categories: [
          { code: 'x', name: 'X' },
          { code: 'y', name: 'Y' },
          { code: 'xo', name: 'Other', parent: 'x' },
          { code: 'yo', name: 'Other', parent: 'y' },
        ],
      }),
    ).toEqual([])
  })
})

test('a time zone is known by its city', () => {
  const offered = (timeZone: string) => {
    const read = readDocument({ format: 'steppe-store', version: 1, settings: { currency: 'EUR', timeZone } })
    return read.ok ? null : read.errors.find(({ where }) => where === 'settings.timeZone')?.expected
  }
  expect(offered('Lisbon')).toBe('Europe/Lisbon')
  expect(offered('new york')).toBe('America/New_York')
  expect(offered('Europe/Lisbonn')).toBe('Europe/Lisbon')
})

test('a rate that expires on the day it is set is refused', () => {
  const currency = (ageLimit: number) => refusals({ currencies: [{ code: 'GBP', ageLimit }] })
  expect(currency(0)).toHaveLength(1)
  expect(currency(1)).toEqual([])
})
