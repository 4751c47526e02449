import { codeFromName } from '@/core/store/code-from-name'
import { applyChanges, type Change } from '@/core/store/store'
import { copiedLines, copiedLists } from '@/sheet/record/copy-record'
import { beginning } from '@/sheet/record/new-record'
import { store } from '@tests/fixtures/demo-request'

const linesOf = (from: typeof store, list: string) =>
  [...from['price-line'].values()].filter((line) => line.list === list)
const without = (line: object) => ({ ...line, id: '', list: '' })

test('a copy of a list has its lines', () => {
  const [list] = [...store['price-list'].values()].filter(({ id }) => linesOf(store, id).length > 1)
  const copied = copiedLines(store, list!.id, 'copy')
  expect(copied.map(({ after }) => without(after as object))).toEqual(linesOf(store, list!.id).map(without))
  expect(copied.every(({ after }) => (after as { list: string }).list === 'copy')).toBe(true)
})

test('a copy of a contract has lists of its own, but for those it shares with others', () => {
  const contract = [...store.contract.values()].find(({ lists }) =>
    lists.some((id) => store['price-list'].get(id)?.audience.include.length === 0),
  )!
  const { lists, requests } = copiedLists(store, contract.id, contract.lists, 'renewed')
  const next = applyChanges(
    store,
    requests.map(({ kind, id, after }) => ({ kind, id, before: null, after }) as Change),
  )
  expect(lists).toHaveLength(contract.lists.length)
  contract.lists.forEach((id, at) => {
    const isOwn = store['price-list'].get(id)?.audience.include.length === 0
    expect(lists[at] !== id).toBe(isOwn)
    expect(linesOf(next, lists[at]!).map(without)).toEqual(linesOf(store, id).map(without))
  })
  const codes = [...next['price-list'].values()].map(({ code }) => code.toLowerCase())
  expect(new Set(codes).size).toBe(codes.length)
})

test('a new currency begins with the fields a currency has', () => {
  expect(beginning(store, 'currency')).not.toHaveProperty('name')
})

test.each([
  ['Bee farms', [], 'bee-farms'],
  ['Bee farms', ['bee-farms', 'bee-farms-2'], 'bee-farms-3'],
  ['Rucher de la Bruyère, “Été”', [], 'rucher-de-la-bruyere-ete'],
  ['Beekeepers’ day', [], 'beekeepers-day'],
  ['Straße & Øst', [], 'strasse-ost'],
  ['Пасека', [], 'пасека'],
  ['%%%', [], 'group'],
])('the code for “%s” beside %j is %s', (name, taken, code) => {
  expect(codeFromName(name, (each) => (taken as string[]).includes(each), 'group')).toBe(code)
})
