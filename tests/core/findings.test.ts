import { decimal } from '@/core/decimal/decimal'
import type { PastFacts } from '@/core/finding/past'
import type { FindingCode } from '@/core/finding/finding'
import { findFindings, worstFirst } from '@/core/finding/find-findings'
import { prepare, refresh } from '@/core/engine/prepare'
import { atOnce } from '@/core/steps/steps'
import { checkChanges } from '@/core/store/check-changes'
import { applyChanges, type Change } from '@/core/store/store'
import { randomStore } from '@tests/fixtures/random-store'
import { someChanges } from '@tests/fixtures/some-changes'
import { goods, TWO_RATES, writtenStore } from '@tests/fixtures/written-store'
import fc from 'fast-check'

/** Many thousands were looked at once by hand. */
const RUNS = Number(process.env['STEPPE_RUNS'] ?? 80)
const AT = Date.parse('2026-11-25T10:00:00Z')

const BASE = {
  settings: { taxClass: 'standard' },
  ...TWO_RATES,
  categories: [{ code: 'frames', name: 'Frames' }],
  ...goods(['F1', '10.00', 'frames', { cost: '6.00' }], ['F2', '20.00', 'frames', { cost: '12.00' }]),
  groups: [{ code: 'farms', name: 'Farms', trade: true }],
  accounts: [{ code: 'ada', name: 'Ada', groups: ['farms'] }],
}
const FARMS = { include: [{ kind: 'group', group: 'farms' }], exclude: [] }
const list = (code: string, more: object = {}) => ({
  code,
  name: code,
  currency: 'EUR',
  audience: FARMS,
  ...more,
})
const line = (id: string, of: string, variant: string, breaks: readonly object[], more: object = {}) => ({
  id,
  list: of,
  scope: { include: [{ kind: 'variant', variant }], exclude: [] },
  breaks,
  ...more,
})
const fixed = (amount: string, from = '0') => ({ from, method: { kind: 'fixed', amount } })

function findings(sections: object) {
  const store = writtenStore({ ...BASE, ...sections } as Parameters<typeof writtenStore>[0])
  return worstFirst(atOnce(findFindings({ prepared: prepare(store), at: AT })))
}

const codes = (sections: object) => findings(sections).map(({ code }) => code)

test('a store in which all is as it should be has no findings', () => {
  expect(codes({})).toEqual([])
})

test.each<readonly [code: FindingCode, why: string, sections: object]>([
  [
    'below-cost',
    'a fixed price under the cost',
    { priceLists: [list('l')], priceLines: [line('x', 'l', 'F1', [fixed('5.99')])] },
  ],
  [
    'above-public',
    'a trade price above the base',
    { priceLists: [list('l')], priceLines: [line('x', 'l', 'F1', [fixed('10.01')])] },
  ],
  [
    'gift-hidden',
    'a promotion gives away what is hidden',
    {
      accessRules: [
        {
          code: 'hide',
          name: 'Hide',
          effect: 'hide',
          audience: { include: [{ kind: 'everyone' }], exclude: [] },
          scope: { include: [{ kind: 'variant', variant: 'F2' }], exclude: [] },
        },
      ],
      promotions: [
        {
          code: 'gift',
          name: 'Gift',
          state: 'on',
          audience: { include: [{ kind: 'everyone' }], exclude: [] },
          scope: { include: [{ kind: 'variant', variant: 'F1' }], exclude: [] },
          value: {
            kind: 'free-goods',
            brackets: [{ from: 2, free: 1 }],
            gift: { variant: 'F2' },
            repeats: true,
          },
        },
      ],
    },
  ],
  [
    'break-gap',
    'buying ten costs more a piece',
    { priceLists: [list('l')], priceLines: [line('x', 'l', 'F1', [fixed('9.00'), fixed('9.50', '10')])] },
  ],
  [
    'no-price',
    'an item without a base price',
    goods(['F1', '10.00', 'frames'], ['F3', null as never, 'frames']),
  ],
  [
    'contract-ends',
    'in 36 days',
    { contracts: [{ code: 'C', name: 'C', accounts: ['ada'], to: '2026-12-31T00:00' }] },
  ],
  [
    'contract-ended',
    'weeks ago',
    { contracts: [{ code: 'C', name: 'C', accounts: ['ada'], to: '2026-10-31T00:00' }] },
  ],
  ['list-over', 'a list with an end', { priceLists: [list('l', { schedule: { to: '2026-10-01T00:00' } })] }],
  [
    'passcode-over',
    'a passcode with an end',
    { passcodes: [{ code: 'p', name: 'P', word: 'open-sesame', to: '2026-10-01T00:00' }] },
  ],
  [
    'exemption-over',
    'a certificate with an end',
    {
      accounts: [
        { code: 'ada', name: 'Ada', groups: ['farms'], exemption: 'X 1', exemptUntil: '2026-10-01T00:00' },
      ],
    },
  ],
  [
    'stale-rate',
    'a rate of last year',
    {
      currencies: [{ code: 'GBP', ageLimit: 30 }],
      exchangeRates: [{ id: 'r', currency: 'GBP', per: 'EUR', rate: '0.85', from: '2025-11-25T00:00:00Z' }],
    },
  ],
  ['no-exchange-rate', 'a currency without a rate', { currencies: [{ code: 'GBP' }] }],
  [
    'list-reaches-nobody',
    'a group nobody is',
    { priceLists: [list('l', { audience: { include: [{ kind: 'tag', tag: 'nobody' }], exclude: [] } })] },
  ],
  [
    'line-reaches-nothing',
    'what is not sold any more',
    {
      ...goods(['F1', '10.00', 'frames'], ['F2', '20.00', 'frames', { status: 'archived' }]),
      priceLists: [list('l')],
      priceLines: [line('x', 'l', 'F2', [fixed('9.00')])],
    },
  ],
  [
    'rule-reaches-nothing',
    'a limit for a branch of nothing',
    {
      categories: [...BASE.categories, { code: 'empty', name: 'Empty' }],
      limits: [
        {
          code: 'r',
          name: 'R',
          minimum: '2',
          scope: { include: [{ kind: 'category', category: 'empty', descendants: true }], exclude: [] },
        },
      ],
    },
  ],
  [
    'only-listed',
    'and a contract without an assortment',
    {
      priceLists: [list('l', { onlyListed: true })],
      priceLines: [line('x', 'l', 'F1', [fixed('9.00')])],
      contracts: [{ code: 'C', name: 'C', accounts: ['ada'], lists: ['l'] }],
    },
  ],
  [
    'ending-missed',
    'a price that was typed',
    {
      priceLists: [
        list('l', { rounding: { kind: 'endings', period: '1', endings: ['0.90'], mode: 'nearest' } }),
      ],
      priceLines: [line('x', 'l', 'F1', [fixed('9.50')])],
    },
  ],
  [
    'lists-tie',
    'two lists for the same farms, with a price each',
    {
      priceLists: [list('l'), list('m')],
      priceLines: [line('x', 'l', 'F1', [fixed('9.00')]), line('y', 'm', 'F1', [fixed('8.50')])],
    },
  ],
])('%s: %s', (code, _, sections) => {
  expect(codes(sections)).toContain(code)
})

test('two lists disagree only where nothing but their codes decides', () => {
  const two = (first: object, then: object, amount = '8.50') =>
    codes({
      priceLists: [list('l', first), list('m', then)],
      priceLines: [line('x', 'l', 'F1', [fixed('9.00')]), line('y', 'm', 'F1', [fixed(amount)])],
    })
  expect(two({}, {})).toEqual(['lists-tie'])
  expect(two({}, {}, '9.00')).toEqual([])
  expect(two({}, { rank: 2 })).toEqual([])
  expect(two({}, { schedule: { from: '2026-11-01T00:00' } })).toEqual([])
  expect(two({}, { state: 'off' })).toEqual([])
  expect(two({}, { audience: { include: [{ kind: 'account', account: 'ada' }], exclude: [] } })).toEqual([])

  const [found] = findings({
    priceLists: [list('l'), list('m')],
    priceLines: [line('x', 'l', 'F1', [fixed('9.00')]), line('y', 'm', 'F1', [fixed('8.50')])],
  })
  expect(found).toMatchObject({ cause: { id: 'l' }, facts: { other: 'm', count: '1', rank: '1' } })
  expect(found?.cases.flatMap(({ fix }) => fix)).toMatchObject([{ id: 'm', after: { rank: 2 } }])
})

test('what is put right is found no more', () => {
  const store = writtenStore({
    ...BASE,
    priceLists: [
      list('l', { rounding: { kind: 'endings', period: '1', endings: ['0.90'], mode: 'nearest' } }),
    ],
    priceLines: [line('x', 'l', 'F1', [fixed('5.50')]), line('y', 'l', 'F2', [fixed('25.90')])],
  } as Parameters<typeof writtenStore>[0])
  const prepared = prepare(store)
  const before = worstFirst(atOnce(findFindings({ prepared, at: AT })))
  expect(before.map(({ code }) => code).sort()).toEqual(['above-public', 'below-cost', 'ending-missed'])
  for (const { code, cases } of before) {
    const fix = cases.flatMap((each) => each.fix)
    expect(fix.length).toBeGreaterThan(0)
    const after = refresh(prepared, applyChanges(store, fix), fix)
    const left = worstFirst(atOnce(findFindings({ prepared: after, at: AT }))).map((each) => each.code)
    expect(left).not.toContain(code)
  }
})

test('after an edit only kinds that look at what was edited are asked again, and tell the same as asking all', () => {
  const store = writtenStore(BASE as Parameters<typeof writtenStore>[0])
  const prepared = prepare(store)
  const known = atOnce(findFindings({ prepared, at: AT }))
  const group = store.group.get('farms')!
  const change = {
    kind: 'group',
    id: 'farms',
    before: group,
    after: { ...group, name: 'Bee farms' },
  } as Change
  const after = refresh(prepared, applyChanges(store, [change]), [change])
  const next = atOnce(findFindings({ prepared: after, at: AT }, known))
  const kept = [...next.byKind].filter(([kind, found]) => known.byKind.get(kind) === found)
  expect(kept.length).toBeGreaterThan(4)
  expect(worstFirst(next)).toEqual(worstFirst(atOnce(findFindings({ prepared: after, at: AT }))))
})

test('after any edit the prices of classes it does not reach are kept, and the findings are those of asking all', () => {
  let kept = 0
  fc.assert(
    fc.property(randomStore, randomStore, fc.array(fc.nat(60), { maxLength: 3 }), (store, other, picked) => {
      const changes = someChanges(store, other, (place) => picked.includes(place))
      const next = applyChanges(store, changes)
      fc.pre(checkChanges(next, changes).length === 0)
      const prepared = prepare(store)
      const known = atOnce(findFindings({ prepared, at: AT }))
      const found = atOnce(findFindings({ prepared: refresh(prepared, next, changes), at: AT }, known))
      for (const [key, { cells }] of found.prices.classes)
        if (known.prices.classes.get(key)?.cells === cells) kept += 1
      const told = (all: typeof known) =>
        worstFirst(all).map(({ key, count, cases }) => [key, count, JSON.stringify(cases)])
      expect(told(found)).toEqual(told(atOnce(findFindings({ prepared: prepare(next), at: AT }))))
    }),
    { numRuns: RUNS },
  )
  expect(kept).toBeGreaterThan(RUNS)
})

describe('what hangs on what has happened', () => {
  const facts = (sections: object, past: PastFacts) => {
    const store = writtenStore({ ...BASE, ...sections } as Parameters<typeof writtenStore>[0])
    const found = findFindings({ prepared: prepare(store), at: AT }, null, past)
    return worstFirst(atOnce(found)).map(({ code, cases }) => [code, cases.map(({ variant }) => variant)])
  }
  const NOTHING: PastFacts = { sold: null, priorPrices: new Map() }
  const cheap = {
    ...goods(['F1', '10.00', 'frames', { cost: '12.00' }], ['F2', '20.00', 'frames', { cost: '12.00' }]),
  }

  test('what is offered below cost and not bought even so, where anything was ever sold', () => {
    const codes = (sold: PastFacts['sold']) => facts(cheap, { ...NOTHING, sold }).map(([code]) => code)
    expect(codes(null)).toEqual(['below-cost'])
    expect(codes(new Set(['F1']))).toEqual(['below-cost'])
    expect(codes(new Set(['F2']))).toEqual(['below-cost', 'unsold-at-loss'])
  })

  // Source: Directive 98/6/EC, Article 6a(1): the prior price is the lowest of the 30 days before the reduction.
  test('a base price struck through beside an adjusted one is lawful only where it was the lowest price before', () => {
    const reduced = {
      settings: { ...BASE.settings, comparedWith: 'base' },
      adjustments: [
        {
          code: 'sale',
          name: 'Sale',
          state: 'on',
          target: 'shown',
          audience: { include: [{ kind: 'everyone' }] },
          scope: { include: [{ kind: 'variant', variant: 'F1' }] },
          method: { kind: 'percent', percent: '-20' },
        },
      ],
    }
    const codes = (prior: string | null) =>
      facts(reduced, { ...NOTHING, priorPrices: new Map(prior === null ? [] : [['F1', decimal(prior)]]) })
    // 10.00 less 20 %. Before, it was 10.00; or 9.00 for a while; or 8.00 all the time.
    expect(codes('10')).toEqual([])
    expect(codes('9')).toEqual([['struck-unlawful', ['F1']]])
    expect(codes(null)).toEqual([['struck-unlawful', ['F1']]])
  })
})
