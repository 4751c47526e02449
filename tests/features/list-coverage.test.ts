import { findByCode } from '@/core/catalogue/find-by-code'
import { prepare } from '@/core/engine/prepare'
import { priceColumn } from '@/core/engine/column/price-column'
import type { PriceList } from '@/core/price/lines/price-list'
import { applyChanges } from '@/core/store/store'
import { listCoverage } from '@/features/price-lists/list-coverage'
import { type RequestContext, toRequestContext } from '@/server/engine/request-context'
import { lookAs, store } from '@tests/fixtures/demo-request'

const guest = lookAs('guest')
const list = (code: string) => findByCode(store['price-list'], code) as PriceList

function coverageOf(code: string, look: RequestContext = guest) {
  return listCoverage(look, look.prepared.store['price-list'].get(list(code).id) as PriceList)
}

test('every list: what it decides and never decides is what it prices', async () => {
  for (const { code } of store['price-list'].values()) {
    const { priced, decided, never, of } = await coverageOf(code)
    expect(decided + never.count).toBe(priced)
    expect(priced).toBeLessThanOrEqual(of)
  }
})

test('a group’s list decides for its members what no contract or own list of theirs decides before', async () => {
  const coverage = await coverageOf('club-level')
  const member = lookAs('group:club')
  const { sources, lists } = priceColumn(member.prepared, member.pricingContext, member.quantity)
  const decided = [...sources].filter((source) => lists[source] === list('club-level').id).length
  expect(decided).toBeGreaterThan(0)
  expect(coverage.decided).toBeGreaterThanOrEqual(decided)
})

test('a list hidden behind another one decides nothing, and the other one is named', async () => {
  const before = list('club-level')
  const copy: PriceList = { ...before, id: 'behind', code: 'behind', name: 'Behind', rank: before.rank + 5 }
  const next = applyChanges(store, [{ kind: 'price-list', id: 'behind', before: null, after: copy }])
  const prepared = prepare(next)
  const look = toRequestContext(
    { ...guest.view, prepared },
    guest.vantage,
    Date.parse('2026-11-25T10:00:00Z'),
  )
  const { priced, decided, never } = await listCoverage(look, copy)
  expect(priced).toBeGreaterThan(0)
  expect(decided).toBe(0)
  expect(never.some[0]?.instead).toBe('Club level')
})
