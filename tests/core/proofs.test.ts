import type { Proof } from '@/core/proofs/proof'
import { isInTheWay, prove, proveAll, type Verdict } from '@/core/proving/prove'
import { prepare } from '@/core/engine/prepare'
import { atOnce } from '@/core/steps/steps'
import { goods, refusals, TWO_RATES, writtenStore } from '@tests/fixtures/written-store'

const AT = Date.parse('2026-11-25T10:00:00Z')

const STORE = {
  ...TWO_RATES,
  settings: { taxClass: 'standard' },
  categories: [
    { code: 'frames', name: 'Frames' },
    { code: 'books', name: 'Books' },
  ],
  ...goods(
    [
      'F1',
      '10.00',
      'frames',
      { cost: '8.00', limits: { minimum: null, maximum: null, multiple: '12', first: null, values: null } },
    ],
    ['F2', '20.00', 'frames', { cost: '12.00' }],
    ['B1', '30.00', 'books', { cost: '10.00', taxClass: 'reduced' }],
  ),
  groups: [{ code: 'farms', name: 'Farms', trade: true }],
  accounts: [
    { code: 'ada', name: 'Ada', groups: ['farms'] },
    { code: 'ben', name: 'Ben' },
  ],
  priceLists: [
    {
      code: 'farm-level',
      name: 'Farm level',
      currency: 'EUR',
      audience: { include: [{ kind: 'group', group: 'farms' }], exclude: [] },
      defaultLine: {
        breaks: [{ from: '0', method: { kind: 'percent', percent: '-10', reference: { kind: 'base' } } }],
      },
    },
  ],
  accessRules: [
    {
      code: 'no-books',
      name: 'No books',
      effect: 'hide',
      audience: { include: [{ kind: 'guests' }], exclude: [] },
      scope: { include: [{ kind: 'category', category: 'books', descendants: true }], exclude: [] },
    },
  ],
}

type Who = Record<string, string>
const everything = { include: [{ kind: 'everything' }], exclude: [] }

function judged(who: Who, claim: string, value: string | null, more: object = {}): Verdict {
  const store = writtenStore({
    ...STORE,
    proofs: [
      {
        code: 'it',
        name: 'It',
        audience: { include: [who], exclude: [] },
        scope: everything,
        claim,
        value,
        ...more,
      },
    ],
  })
  return atOnce(proveAll(prepare(store), AT))[0] as Verdict
}

const sku = (variant: string) => ({ scope: { include: [{ kind: 'variant', variant }], exclude: [] } })
const branch = (category: string) => ({
  scope: { include: [{ kind: 'category', category, descendants: true }], exclude: [] },
})
const ADA = { kind: 'account', account: 'ada' }
const GUESTS = { kind: 'guests' }
const FARMS = { kind: 'group', group: 'farms' }

test.each([
  ['the very price', ADA, 'price-is', '9.00', sku('F1'), 'holds'],
  ['another price', ADA, 'price-is', '9.01', sku('F1'), 'broken'],
  ['at most, at the bound', ADA, 'price-at-most', '9.00', sku('F1'), 'holds'],
  ['at most, a cent below', ADA, 'price-at-most', '8.99', sku('F1'), 'broken'],
  ['at least', ADA, 'price-at-least', '9.00', sku('F1'), 'holds'],
  ['10 % below base', FARMS, 'off-base-at-least', '10', {}, 'holds'],
  ['more than 10 % below base', FARMS, 'off-base-at-least', '10.01', {}, 'broken'],
  // F1: (9.00 − 8.00) ÷ 9.00 = 11.1 %.
  ['a margin each leaves', FARMS, 'margin-at-least', '11.1', {}, 'holds'],
  ['a margin one does not leave', FARMS, 'margin-at-least', '11.2', {}, 'broken'],
  // 54.00 − 30.00 of 54.00 = 44.4…%: asked exactly, not of the rounded figure.
  ['a margin of all together', FARMS, 'average-margin-at-least', '44.44', {}, 'holds'],
  ['a margin all together miss', FARMS, 'average-margin-at-least', '44.45', {}, 'broken'],
  ['never above the public price', FARMS, 'not-above-public', null, {}, 'holds'],
  ['what guests never see', GUESTS, 'never-seen', null, branch('books'), 'holds'],
  ['what guests do see', GUESTS, 'never-seen', null, {}, 'broken'],
  ['what farms always see', FARMS, 'always-seen', null, branch('books'), 'holds'],
  ['what farms can buy', FARMS, 'always-bought', null, {}, 'holds'],
  ['multiples', FARMS, 'multiple-is', '12', sku('F1'), 'holds'],
  ['no multiple', FARMS, 'multiple-is', '12', sku('F2'), 'broken'],
  ['a tax', FARMS, 'tax-is', '10', branch('books'), 'holds'],
  ['another tax', FARMS, 'tax-is', '20', branch('books'), 'broken'],
] as const)('a proof of %s', (_, who, claim, value, more, state) => {
  expect(judged(who, claim, value, more).state).toBe(state)
})

test('a broken proof tells for whom, of what and what stands there instead', () => {
  const verdict = judged(FARMS, 'price-at-most', '18.00', branch('frames'))
  expect(verdict).toMatchObject({ state: 'holds', checked: 2 })
  const broken = judged(FARMS, 'price-at-most', '17.00', branch('frames'))
  // The group itself and Ada pay the same: asked once.
  expect(broken).toMatchObject({
    checked: 2,
    held: 1,
    broken: [
      {
        buyer: { kind: 'group', group: 'farms' },
        variant: 'F2',
        found: { kind: 'money', amount: '18', currency: 'EUR' },
      },
    ],
  })
  expect(isInTheWay(broken)).toBe(true)
  expect(isInTheWay({ ...broken, proof: { ...broken.proof, isBlocking: false } as Proof })).toBe(false)
})

test('a proof about nobody, or about nothing that is sold, proves nothing', () => {
  expect(judged({ kind: 'tag', tag: 'nobody-has-it' }, 'price-at-most', '18.00').state).toBe('empty')
  const withOnlyArchived = judged(FARMS, 'price-at-most', '18.00', {
    scope: { include: [{ kind: 'price-range', from: '900', to: null }], exclude: [] },
  })
  expect(withOnlyArchived).toMatchObject({ state: 'empty', checked: 0 })
})

test('a proof is asked while its time is, and not when it is switched off', () => {
  const schedule = { from: '2027-01-01T00:00' }
  const store = writtenStore({
    ...STORE,
    proofs: [
      {
        code: 'later',
        name: 'Later',
        audience: { include: [ADA], exclude: [] },
        scope: everything,
        claim: 'price-at-most',
        value: '1',
        schedule,
      },
    ],
  })
  const prepared = prepare(store)
  const proof = [...store.proof.values()][0] as Proof
  expect(atOnce(prove(prepared, proof, AT)).state).toBe('idle')
  expect(atOnce(prove(prepared, proof, Date.parse('2027-02-01T00:00:00Z'))).state).toBe('broken')
  expect(judged(ADA, 'price-at-most', '1', { state: 'off' }).state).toBe('idle')
})

test('a proof that cannot be asked is refused where it is wrong', () => {
  const proof = { code: 'it', name: 'It', audience: { include: [ADA], exclude: [] }, scope: everything }
  expect(refusals({ ...STORE, proofs: [{ ...proof, claim: 'price-is' }] }).join()).toMatch(/value: missing/)
  expect(refusals({ ...STORE, proofs: [{ ...proof, claim: 'price-is', value: '1.005' }] }).join()).toMatch(
    /value: too-many-digits/,
  )
  expect(
    refusals({ ...STORE, proofs: [{ ...proof, claim: 'margin-at-least', value: '100' }] }).join(),
  ).toMatch(/value: margin-too-high/)
})
