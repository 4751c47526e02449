import { applyChanges } from '@/core/store/store'
import { wantedBuyers } from '@/server/engine/find-accounts'
import { demoStore } from '@tests/fixtures/demo-store'

const store = demoStore()
const namesOf = (words: string) =>
  wantedBuyers(store, words).accounts?.map((id) => store.account.get(id)?.name)

test('a list of everybody asks for nobody', () => {
  expect(wantedBuyers(store, '')).toEqual({})
})

test('a buyer is found by a part of the name or by the whole code, and a guest by the same words', () => {
  expect(namesOf('orseback b')).toEqual(['Gorseback Bees'])
  expect(namesOf('fennmoor')).toEqual(['Fennmoor Honey Farm'])
  expect(wantedBuyers(store, 'nobody of that name')).toEqual({ buyer: 'nobody of that name', accounts: [] })
  const [account] = store.account.values()
  if (!account) throw new Error('the demo has no account')
  const coded = applyChanges(store, [
    { kind: 'account', id: account.id, before: account, after: { ...account, code: 'K-7731' } },
  ])
  expect(wantedBuyers(coded, 'k-7731').accounts).toEqual([account.id])
  expect(wantedBuyers(coded, 'k-773').accounts).toEqual([])
})

test('no more than 200 accounts are asked for', () => {
  const [account] = store.account.values()
  if (!account) throw new Error('the demo has no account')
  const many = applyChanges(
    store,
    Array.from({ length: 250 }, (_, at) => ({
      kind: 'account' as const,
      id: `copy-${at}`,
      before: null,
      after: { ...account, id: `copy-${at}`, code: `copy-${at}`, name: `Copy ${at}` },
    })),
  )
  expect(wantedBuyers(many, 'copy').accounts).toHaveLength(200)
})
