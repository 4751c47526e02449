import { findAvailable, parseCount, withStates } from '@/core/catalogue/stock'
import { findBuyer, isBuyerCode } from '@/core/buyers/buyer-code'
import { accountFacts, buyerKey, findBuyerFacts } from '@/core/buyers/buyer'
import { type Category, distancesUp, findCycle, inTreeOrder, pathToRoot } from '@/core/catalogue/category'
import { findByCode, findBySku } from '@/core/catalogue/find-by-code'
import { resolveValue, variantName } from '@/core/catalogue/product'
import { decimal } from '@/core/decimal/decimal'
import { demoStore } from '@tests/fixtures/demo-store'

const tree = (...links: readonly (readonly [id: string, parent: string | null])[]) =>
  new Map<string, Category>(
    links.map(([id, parent], position) => [
      id,
      { id, code: id.toUpperCase(), name: id, parent, position, status: 'active' },
    ]),
  )

describe('the tree of categories', () => {
  const categories = tree(
    ['all', null],
    ['hives', 'all'],
    ['parts', 'hives'],
    ['feed', 'all'],
    ['feeders', 'feed'],
  )

  test('the way up, itself first', () => {
    expect(pathToRoot(categories, 'parts').map(({ id }) => id)).toEqual(['parts', 'hives', 'all'])
    expect(pathToRoot(categories, 'nowhere')).toEqual([])
  })

  test('the order of the tree: each behind what it hangs on, neighbours by position', () => {
    const order = (each: ReadonlyMap<string, Category>) =>
      inTreeOrder(each).map(({ category, depth }) => `${depth} ${category.id}`)
    const branches = ['0 all', '1 hives', '2 parts', '1 feed', '2 feeders']
    expect(order(categories)).toEqual(branches)
    expect(order(new Map([...categories].reverse()))).toEqual(branches)
    expect(order(new Map())).toEqual([])
  })

  test('the nearest way counts when there are several', () => {
    expect([...distancesUp(categories, ['parts', 'feeders'])]).toEqual([
      ['parts', 0],
      ['hives', 1],
      ['all', 2],
      ['feeders', 0],
      ['feed', 1],
    ])
    expect(distancesUp(categories, ['parts', 'hives']).get('hives')).toBe(0)
    expect(distancesUp(categories, ['parts', 'hives']).get('all')).toBe(1)
  })

  test('a circle is found from each of its members, and named; a way into one is not one', () => {
    const round = tree(['a', 'b'], ['b', 'c'], ['c', 'a'], ['d', 'a'])
    expect(findCycle(round, 'a')).toEqual(['A', 'B', 'C', 'A'])
    expect(findCycle(round, 'c')).toEqual(['C', 'A', 'B', 'C'])
    expect(findCycle(round, 'd')).toBeNull()
    expect(findCycle(tree(['self', 'self']), 'self')).toEqual(['SELF', 'SELF'])
    expect(findCycle(categories, 'parts')).toBeNull()
    expect(() => pathToRoot(round, 'd')).toThrow(RangeError)
  })
})

describe('products and variants of the demo', () => {
  const store = demoStore()
  const frames = store.product.get('product-FR-BR')
  const variantOf = (sku: string) => findBySku(store.variant, sku)
  if (!frames) throw new Error('no frames')

  test('an own value beats the product’s, and says which it is', () => {
    const [plain, assembled] = [variantOf('FR-BR-PF'), variantOf('FR-BR-PA')]
    if (!plain || !assembled) throw new Error('no variants')
    expect(resolveValue(frames, plain, 'basePrice')).toEqual({ value: '25.9', from: 'product' })
    expect(resolveValue(frames, assembled, 'basePrice')).toEqual({ value: '35.9', from: 'variant' })
    expect(resolveValue({ ...frames, weight: null }, plain, 'weight')).toEqual({ value: null, from: 'none' })
    expect(resolveValue({ ...frames, cost: null }, { ...plain, cost: decimal(0) }, 'cost')).toEqual({
      value: '0',
      from: 'variant',
    })
  })

  test('a variant is named by its options in the order of the axes', () => {
    const variant = variantOf('FR-BR-CA')
    if (!variant) throw new Error('no variant')
    expect(variantName(frames, variant)).toBe('Cedar, assembled, 10')
    expect(variantName({ ...frames, axes: ['Pack', 'Timber'] }, variant)).toBe('10, Cedar')
    expect(variantName({ ...frames, axes: [] }, variant)).toBe('')
  })

  test('codes and SKUs are found whatever their case, and only whole', () => {
    expect(findBySku(store.variant, 'fr-br-ca')?.sku).toBe('FR-BR-CA')
    expect(findByCode(store.product, 'fr-BR')).toBe(frames)
    expect(findByCode(store.product, 'FR-B')).toBeNull()
    expect(findBySku(store.variant, '')).toBeNull()
  })

  test('buyers are found by code; a group is a member with nothing of their own', () => {
    const find = (code: string) =>
      isBuyerCode(code) ? findBuyer(store.group, store.account, code) : 'not a code'
    expect(find('guest')).toEqual({ kind: 'guest' })
    expect(find('group:bee-farms')).toEqual({ kind: 'group', group: 'group-farms' })
    expect(find('account:Fennmoor')).toEqual({ kind: 'account', account: 'account-fennmoor' })
    expect(find('group:nobody')).toBeNull()
    expect(find('account:')).toBe('not a code')
    expect(find('somebody')).toBe('not a code')

    const facts = (code: string) => {
      const buyer = find(code)
      return buyer && buyer !== 'not a code' ? findBuyerFacts(store.group, store.account, buyer) : null
    }
    expect(facts('group:bee-farms')).toEqual({
      account: null,
      signedIn: true,
      groups: ['group-farms'],
      trade: true,
      tags: [],
      emails: [],
      passcode: null,
    })
    expect(facts('guest')).toMatchObject({ signedIn: false, trade: false, groups: [] })
    const fennmoor = store.account.get('account-fennmoor')
    expect(fennmoor && facts('account:fennmoor')).toEqual(fennmoor && accountFacts(store.group, fennmoor))
    expect(findBuyerFacts(store.group, store.account, { kind: 'account', account: 'gone' })).toBeNull()
  })

  test('different buyers have different keys', () => {
    const keys = [
      buyerKey({ kind: 'guest' }),
      ...[...store.group.keys()].map((group) => buyerKey({ kind: 'group', group })),
      ...[...store.account.keys()].map((account) => buyerKey({ kind: 'account', account })),
    ]
    expect(new Set(keys).size).toBe(keys.length)
  })
})

test('what is promised is no more available, and what nobody counts is neither there nor gone', () => {
  const levels = new Map([['a', { onHand: decimal(12), reserved: decimal('14.5') }]])
  expect(findAvailable(levels, 'a')).toBe('-2.5')
  expect(findAvailable(levels, 'b')).toBeNull()
  expect(parseCount('A', '12.345')).toEqual({ ok: true, value: '12.345' })
  expect(parseCount('A', null)).toEqual({ ok: true, value: null })
  for (const [typed, code] of [
    ['-1', 'negative'],
    ['1.2345', 'too-many-digits'],
    ['many', 'not-a-decimal'],
  ] as const)
    expect(parseCount('A', typed)).toMatchObject({ ok: false, issues: [{ code, field: 'stock' }] })
})

test('states of stock that change nothing leave the set as it is', () => {
  const out = new Set(['a'])
  expect(
    withStates(
      out,
      new Map([
        ['a', true],
        ['b', false],
      ]),
    ),
  ).toBe(out)
  expect(
    withStates(
      out,
      new Map([
        ['a', false],
        ['b', true],
      ]),
    ),
  ).toEqual(new Set(['b']))
})
