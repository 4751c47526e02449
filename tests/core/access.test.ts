import { compileAssortment, matchAssortment } from '@/core/access/assortment'
import { ask } from '@/core/engine/ask'
import { decimal } from '@/core/decimal/decimal'
import { ALL_RIGHTS } from '@/core/access/access'
import { findRights, isUnrestricted } from '@/core/engine/rules/find-rights'
import { openPricingContext } from '@/core/engine/price/open-pricing-context'
import { buyerContext, type BuyerContext } from '@/core/engine/context/buyer-context'
import type { BuyerReference } from '@/core/buyers/buyer'
import { goods, refusals, writtenPrepared } from '@tests/fixtures/written-store'

const AT = Date.parse('2027-03-01T12:00:00Z')
const GUEST: BuyerReference = { kind: 'guest' }
const FENN: BuyerReference = { kind: 'account', account: 'fenn' }
const CLUB: BuyerReference = { kind: 'account', account: 'club' }

const CATALOGUE = {
  categories: [
    { code: 'hives', name: 'Hives' },
    { code: 'frames', name: 'Frames', parent: 'hives' },
    { code: 'honey', name: 'Honey' },
  ],
  ...goods(
    ['HIVE', '90', 'hives'],
    ['FRAME', '2', 'frames'],
    ['JAR', '1', 'honey'],
    ['BOTH', '5', 'honey', { categories: ['honey', 'frames'] }],
  ),
  groups: [{ code: 'farms', name: 'Farms', trade: true }],
  accounts: [
    { code: 'fenn', name: 'Fenn', groups: ['farms'] },
    { code: 'club', name: 'Club' },
  ],
}
const branch = (category: string) => ({ include: [{ kind: 'category', category, descendants: true }] })

type Sections = Parameters<typeof writtenPrepared>[0]

function rights(
  sections: Sections,
  buyer: BuyerReference,
  variant: string,
  more: Partial<BuyerContext> = {},
) {
  const prepared = writtenPrepared({ ...CATALOGUE, ...sections })
  const opened = openPricingContext(prepared, { ...buyerContext(buyer, AT), ...more })
  if (!opened.ok) throw new Error(opened.error.code)
  const found = findRights(prepared, opened.value, prepared.index.numberOf.get(variant) as number)
  const { see, seePrice, buy, quote } = found
  // Where nothing restricts a buyer, nothing is looked at one by one: then everything must be theirs.
  if (isUnrestricted(opened.value)) expect(found).toMatchObject({ ...ALL_RIGHTS, because: null })
  const words = [see && 'see', seePrice && 'price', buy && 'buy', quote && 'quote'].filter(Boolean).join(' ')
  return { words, because: found.because, landing: found.landing }
}

test('a store without rules, gates and assortments restricts nobody, and any of them does', () => {
  const isFree = (sections: Sections, more: Partial<BuyerContext> = {}) => {
    const opened = openPricingContext(writtenPrepared({ ...CATALOGUE, ...sections }), {
      ...buyerContext(GUEST, AT),
      ...more,
    })
    return opened.ok && isUnrestricted(opened.value)
  }
  expect(isFree({})).toBe(true)
  const rule = {
    code: 'r',
    name: 'R',
    effect: 'no-price',
    scope: branch('honey'),
    audience: { include: [{ kind: 'guests' }] },
  }
  expect(isFree({ accessRules: [rule] })).toBe(false)
  const channel = { code: 'desk', name: 'Desk', gate: 'sign-in' }
  expect(isFree({ channels: [channel] }, { channel: 'desk' })).toBe(false)
})

describe('assortments', () => {
  const include = (...categories: string[]) =>
    categories.map((category) => ({ kind: 'category' as const, category }))
  const tree = writtenPrepared(CATALOGUE).store.category
  const holds = (assortment: Parameters<typeof compileAssortment>[0], variant: string) => {
    const filedUnder = { HIVE: ['hives'], FRAME: ['frames'], JAR: ['honey'], BOTH: ['honey', 'frames'] }[
      variant
    ]!
    return matchAssortment(compileAssortment(assortment), tree, { variant, product: variant, filedUnder })
      .holds
  }
  test.each([
    ['nothing but a branch', { start: 'nothing', include: include('hives'), exclude: [] }, 'HIVE FRAME BOTH'],
    [
      'the nearest setting wins',
      { start: 'nothing', include: include('hives'), exclude: include('frames') },
      'HIVE',
    ],
    [
      'a branch back into what is left out',
      { start: 'everything', include: include('frames'), exclude: include('hives') },
      'FRAME JAR BOTH',
    ],
    [
      'in two categories, any path leads there',
      { start: 'everything', include: [], exclude: include('frames') },
      'HIVE JAR BOTH',
    ],
    [
      'unless it is left out itself',
      { start: 'everything', include: [], exclude: [{ kind: 'product', product: 'BOTH' }] },
      'HIVE FRAME JAR',
    ],
    [
      'a variant over its product',
      {
        start: 'nothing',
        include: [{ kind: 'variant', variant: 'JAR' }],
        exclude: [{ kind: 'product', product: 'JAR' }],
      },
      'JAR',
    ],
  ] as const)('%s', (_why, assortment, expected) =>
    expect(['HIVE', 'FRAME', 'JAR', 'BOTH'].filter((variant) => holds(assortment, variant)).join(' ')).toBe(
      expected,
    ),
  )

  test('a buyer sees what both the channel and one of their contracts hold', () => {
    const nothing = (...categories: string[]) => ({
      start: 'nothing',
      include: include(...categories),
      exclude: [],
    })
    const sections = {
      channels: [{ code: 'web', name: 'Web', assortment: nothing('hives', 'honey') }],
      contracts: [
        { code: 'one', name: 'One', accounts: ['fenn'], assortment: nothing('frames') },
        { code: 'two', name: 'Two', accounts: ['fenn'], assortment: nothing('honey') },
      ],
    }
    expect(rights(sections, FENN, 'FRAME').words).toBe('see price buy')
    expect(rights(sections, FENN, 'JAR').words).toBe('see price buy')
    const left = rights(sections, FENN, 'HIVE')
    expect(left).toMatchObject({
      words: '',
      because: { code: 'assortment', of: { kind: 'contract', id: 'one' } },
    })
    expect(rights(sections, GUEST, 'HIVE').words).toBe('see price buy')
  })
})

describe('gates', () => {
  const gate = (word: string, more: object = {}): Sections => ({
    channels: [{ code: 'web', name: 'Web', gate: word }],
    passcodes: [
      { code: 'circle', name: 'Circle', word: 'skep2027', to: '2027-04-01' },
      { code: 'past', name: 'Past', word: 'oldword', to: '2027-02-01' },
      { code: 'press', name: 'Press', word: 'lookaround', isReview: true },
    ],
    ...more,
  })
  test.each([
    ['open', GUEST, null, 'see price buy'],
    ['sign-in', GUEST, null, ''],
    ['sign-in', CLUB, null, 'see price buy'],
    ['sign-in-prices', GUEST, null, 'see'],
    ['sign-in-prices', CLUB, null, 'see price buy'],
    ['sign-in-buy', GUEST, null, 'see price'],
    ['passcode', GUEST, null, ''],
    ['passcode', CLUB, null, ''],
    ['passcode', GUEST, 'circle', 'see price buy'],
    ['passcode', GUEST, 'past', ''],
    ['passcode', GUEST, 'press', 'see price'],
  ] as const)('%s', (word, buyer, passcode, expected) =>
    expect(rights(gate(word), buyer, 'JAR', { passcode }).words).toBe(expected),
  )

  test('a rule can be for whoever has a passcode', () => {
    const sections = gate('open', {
      accessRules: [
        { code: 'none', name: 'None', effect: 'hide', scope: branch('honey') },
        {
          code: 'circle',
          name: 'Circle',
          effect: 'show',
          scope: branch('honey'),
          audience: { include: [{ kind: 'passcode', passcode: 'circle' }] },
        },
      ],
    })
    expect(rights(sections, GUEST, 'JAR').words).toBe('')
    expect(rights(sections, GUEST, 'JAR', { passcode: 'circle' }).words).toBe('see price buy')
  })

  test('review shows what rules hide, and sells nothing', () =>
    expect(
      rights(gate('passcode', { accessRules: [{ code: 'h', name: 'H', effect: 'hide' }] }), GUEST, 'JAR', {
        passcode: 'press',
      }),
    ).toMatchObject({ words: 'see price', because: { code: 'review' } }))
})

describe('rules', () => {
  const rule = (code: string, effect: string, more: object = {}) => ({ code, name: code, effect, ...more })
  const farms = { include: [{ kind: 'group', group: 'farms' }] }
  test.each([
    ['hidden from everyone', [rule('a', 'hide')], GUEST, ''],
    ['no price', [rule('a', 'no-price')], GUEST, 'see'],
    ['no buying', [rule('a', 'no-buying')], GUEST, 'see price'],
    ['only by quote', [rule('a', 'quote')], GUEST, 'see quote'],
    [
      'the nearer branch wins over the nearer buyer',
      [rule('a', 'hide', { scope: branch('frames') }), rule('b', 'show', { audience: farms })],
      FENN,
      '',
    ],
    [
      'of one branch the nearer buyer',
      [
        rule('a', 'hide', { scope: branch('frames') }),
        rule('b', 'show', { scope: branch('frames'), audience: farms }),
      ],
      FENN,
      'see price buy',
    ],
    ['then the rank', [rule('a', 'hide', { rank: 2 }), rule('b', 'no-price', { rank: 1 })], GUEST, 'see'],
    [
      'of equals the harder one',
      [
        rule('a', 'no-price'),
        // Names another product as well: as specific for the item, but not the same rule.
        rule('b', 'hide', {
          scope: { include: [{ kind: 'everything' }, { kind: 'product', product: 'JAR' }] },
        }),
      ],
      GUEST,
      '',
    ],
    ['one that is off does nothing', [rule('a', 'hide', { state: 'off' })], GUEST, 'see price buy'],
    [
      'nor one that is over',
      [rule('a', 'hide', { schedule: { to: '2027-01-01T00:00' } })],
      GUEST,
      'see price buy',
    ],
  ] as const)('%s', (_why, accessRules, buyer, expected) =>
    expect(rights({ accessRules: accessRules as never }, buyer, 'FRAME').words).toBe(expected),
  )

  test('each rule is told with how it stood', () => {
    const prepared = writtenPrepared({
      ...CATALOGUE,
      accessRules: [
        rule('wins', 'no-buying', { scope: branch('frames') }),
        rule('weak', 'hide'),
        rule('farms', 'hide', { audience: farms }),
        rule('honey', 'hide', { scope: branch('honey') }),
        rule('off', 'hide', { state: 'off' }),
        rule('later', 'hide', { schedule: { from: '2028-01-01T00:00' } }),
      ],
    })
    const asked = ask(prepared, {
      ...buyerContext(GUEST, AT),
      variant: 'FRAME',
      quantity: decimal(1),
      extras: [],
      basket: [],
    })
    if (!asked.ok) throw new Error(asked.error.code)
    expect(asked.value.buy).toBe(false)
    expect(asked.value.because).toMatchObject({ code: 'rule', rule: 'wins' })
    expect(
      Object.fromEntries(asked.value.accessRules.map(({ rule: id, standing }) => [id, standing])),
    ).toEqual({
      wins: 'decides',
      weak: 'weaker',
      farms: 'not-for-buyer',
      honey: 'outside-scope',
      off: 'off',
      later: 'not-now',
    })
  })
})

test('words given twice, too short, and rules that change nothing are refused', () => {
  expect(
    refusals({
      passcodes: [
        { code: 'a', name: 'A', word: 'skep2027' },
        { code: 'b', name: 'B', word: 'SKEP2027' },
      ],
    }),
  ).toHaveLength(2)
  expect(refusals({ passcodes: [{ code: 'a', name: 'A', word: 'abc' }] })[0]).toContain('too-short')
  expect(refusals({ accessRules: [{ code: 'a', name: 'A', effect: 'show' }] })[0]).toContain('no-effect')
})

test.each([
  ['the same twice', { effect: 'no-price' }, { effect: 'no-price' }, 2],
  ['another effect at the same rank', { effect: 'no-price' }, { effect: 'no-buying' }, 2],
  ['ranked', { effect: 'no-price' }, { effect: 'hide', rank: 2 }, 0],
  ['for other goods', { effect: 'no-price' }, { effect: 'no-price', scope: branch('honey') }, 0],
  ['at another time', { effect: 'no-price' }, { effect: 'hide', schedule: { from: '2027-05-01T00:00' } }, 0],
  ['beside one that is off', { effect: 'no-price', state: 'off' }, { effect: 'no-price' }, 0],
] as const)('of two rules alike one never counts: %s', (_why, first, second, refused) => {
  const rule = (code: string, more: object) => ({ code, name: code, scope: branch('hives'), ...more })
  const found = refusals({ ...CATALOGUE, accessRules: [rule('a', first), rule('b', second)] })
  expect(found.filter((each) => each.includes('shadowed'))).toHaveLength(refused)
})
