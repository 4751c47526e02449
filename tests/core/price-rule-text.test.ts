import { readPriceRule, writePriceRule } from '@/core/notation/price-rule-text'
import { demoStore } from '@tests/fixtures/demo-store'
import { randomStore } from '@tests/fixtures/random-store'
import fc from 'fast-check'

const store = demoStore()
const club = [...store['price-list'].values()].find(({ code }) => code === 'club-level')!.id
const BASE = { kind: 'base' } as const
const any = (method: unknown) => ({
  breaks: [{ from: '0', method }],
  counting: 'variant',
  pricing: 'all-units',
})

test.each<readonly [string, unknown]>([
  ['15 % off base', any({ kind: 'percent', percent: '-15', reference: BASE })],
  ['15% off', any({ kind: 'percent', percent: '-15', reference: BASE })],
  ['4,5 % on base', any({ kind: 'percent', percent: '4.5', reference: BASE })],
  ['12 % off Club level', any({ kind: 'percent', percent: '-12', reference: { kind: 'list', list: club } })],
  ['-12% @Club level', any({ kind: 'percent', percent: '-12', reference: { kind: 'list', list: club } })],
  ['-12% @club-level', any({ kind: 'percent', percent: '-12', reference: { kind: 'list', list: club } })],
  ['5 % off recommended price', any({ kind: 'percent', percent: '-5', reference: { kind: 'recommended' } })],
  ['fixed 17,60', any({ kind: 'fixed', amount: '17.6' })],
  ['17.60', any({ kind: 'fixed', amount: '17.6' })],
  ['0.60 off base', any({ kind: 'amount', amount: '-0.6', reference: BASE })],
  ['cost plus 40 %', any({ kind: 'markup', percent: '40' })],
  ['margin 35 %', any({ kind: 'margin', percent: '35' })],
  ['m35', any({ kind: 'margin', percent: '35' })],
  [
    '15 % off base; from 10: 18 %; from 25: 20 %; counting all variants',
    {
      breaks: [
        { from: '0', method: { kind: 'percent', percent: '-15', reference: BASE } },
        { from: '10', method: { kind: 'percent', percent: '-18', reference: BASE } },
        { from: '25', method: { kind: 'percent', percent: '-20', reference: BASE } },
      ],
      counting: 'product',
      pricing: 'all-units',
    },
  ],
  [
    '-15%; 10: -18% [together] [each bracket]',
    {
      breaks: [
        { from: '0', method: { kind: 'percent', percent: '-15', reference: BASE } },
        { from: '10', method: { kind: 'percent', percent: '-18', reference: BASE } },
      ],
      counting: 'line',
      pricing: 'graduated',
    },
  ],
])('“%s” is understood', (text, value) => {
  expect(readPriceRule(store, text)).toEqual({ ok: true, value })
})

test.each<readonly [string, string, string | null]>([
  ['15 %', '15 %', null],
  ['cheap', 'cheap', null],
  ['15 % off base; fifty: 20 %', 'fifty: 20 %', null],
  ['10 % off Clubb level', '10 % off Clubb level', 'Clubb level'],
  ['-10% @clubb', '-10% @clubb', 'clubb'],
])('“%s” is not, and the part is named', (text, part, list) => {
  expect(readPriceRule(store, text)).toEqual({ ok: false, part, list })
})

test('every rule of the demo and of random stores is read back from its words', () => {
  fc.assert(
    fc.property(randomStore, (from) => {
      for (const line of from['price-line'].values()) {
        const { breaks, counting, pricing } = line
        expect(readPriceRule(from, writePriceRule(from, line))).toEqual({
          ok: true,
          value: { breaks, counting, pricing },
        })
      }
    }),
    { numRuns: 60 },
  )
  for (const { breaks, counting, pricing } of store['price-line'].values())
    expect(readPriceRule(store, writePriceRule(store, { breaks, counting, pricing }))).toEqual({
      ok: true,
      value: { breaks, counting, pricing },
    })
})
