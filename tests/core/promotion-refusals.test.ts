import { money, promotion } from '@tests/fixtures/promoted-cart'
import { goods, refusals } from '@tests/fixtures/written-store'

const percent = (value: string) => ({ kind: 'percent', percent: value })
const each = (saving: object) => ({ kind: 'item-price', saving, closes: false })
const set = (saving: object, parts: readonly object[] = [{ count: 3, scope: null }]) => ({
  kind: 'set',
  parts,
  saving,
})
const at = (amount: string, own: Readonly<Record<string, string>> = {}) => ({
  kind: 'price',
  price: money(amount, own),
})
const free = (brackets: readonly object[], gift: unknown = 'same') => ({
  kind: 'free-goods',
  brackets,
  gift,
  repeats: true,
})
const SHOP = {
  categories: [{ code: 'c', name: 'C' }],
  ...goods(['A', '10', 'c'], ['B', '4', 'c']),
}
const refused = (value: object, more: object = {}, sections: object = {}) =>
  refusals({ ...SHOP, ...sections, promotions: [promotion(value, more)] })

// What is refused in place, as the issues of a record that is saved or a document that is read.
test.each([
  ['nothing off', each(percent('0')), 'not-above-zero'],
  ['less than nothing off', each(percent('-5')), 'not-above-zero'],
  ['more than all of it', each(percent('100.5')), 'too-high'],
  ['an amount of nothing', each({ kind: 'amount', amount: money('0') }), 'not-above-zero'],
  ['a set of nothing', set(at('5'), []), 'empty-set'],
  ['a set of one', set(at('5'), [{ count: 1, scope: null }]), 'empty-set'],
  ['a set price above the parts', set(at('30')), 'above-parts'],
  ['as many free as there are', set({ kind: 'cheapest-free', count: 3 }), 'too-high'],
  ['an own amount in the store’s currency', set(at('20', { EUR: '20' })), 'store-currency'],
  ['an own amount in a currency that is not taken', set(at('20', { USD: '20' })), 'unknown'],
  ['no bracket', free([]), 'no-breaks'],
  [
    'brackets that fall',
    free([
      { from: 12, free: 1 },
      { from: 6, free: 1 },
    ]),
    'unsorted-breaks',
  ],
  ['more free than bought', free([{ from: 2, free: 2 }], 'bought'), 'too-high'],
  ['a gift that is not there', free([{ from: 2, free: 1 }], { variant: 'no-such' }), 'unknown'],
])('%s', (_, value, code) => {
  expect(refused(value)).toEqual([expect.stringMatching(new RegExp(`: ${code}$`))])
})

test('a gift that is archived', () => {
  const { variants } = SHOP
  const archived = variants.map((each) => (each.id === 'B' ? { ...each, status: 'archived' } : each))
  const value = free([{ from: 2, free: 1 }], { variant: 'B' })
  expect(refused(value, {}, { variants: archived })).toEqual(['promotions offer.value: archived'])
})

test.each([
  ['an end before its start', { schedule: { from: '2027-03-01', to: '2027-02-01' } }, 'reversed-window'],
  ['a limit of no use', { uses: { total: 0, perBuyer: null, perOrder: null, perDay: null } }, 'too-low'],
  [
    'what guests ordered before',
    {
      audience: { include: [{ kind: 'guests' }], exclude: [] },
      conditions: [{ kind: 'orders', from: 1, days: null }],
    },
    'never-known',
  ],
  ['an empty code', { conditions: [{ kind: 'code', code: ' ' }] }, 'missing'],
  ['nobody to be for', { audience: { include: [], exclude: [] } }, 'empty-audience'],
])('%s', (_, more, code) => {
  expect(refused(each(percent('5')), more)).toEqual([expect.stringMatching(new RegExp(`: ${code}$`))])
})

test('a code that is another promotion’s, in whatever case', () => {
  const coded = (code: string, word: string) =>
    promotion(each(percent('5')), { code, conditions: [{ kind: 'code', code: word }] })
  const found = refusals({ ...SHOP, promotions: [coded('one', 'SWARM'), coded('two', 'swarm')] })
  expect(found).toEqual(['promotions one.conditions: duplicate', 'promotions two.conditions: duplicate'])
})
