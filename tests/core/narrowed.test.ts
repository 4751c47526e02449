import { decimal } from '@/core/decimal/decimal'
import { computeColumn } from '@/core/engine/column/price-column'
import { shownAmounts } from '@/core/engine/amounts/amounts'
import { buyerContext } from '@/core/engine/context/buyer-context'
import { narrowed, wholeOf } from '@/core/engine/context/narrowed'
import { stepsWithoutCosts } from '@/core/engine/explain/steps-without-costs'
import type { TraceStep } from '@/core/engine/explain/trace'
import { quantityUnits } from '@/core/engine/lists/compiled-line'
import { openPricingContext } from '@/core/engine/price/open-pricing-context'
import { prepare } from '@/core/engine/prepare'
import { PERMISSIONS, withWhatTheyNeed } from '@/core/staff/permission'
import { changeWithoutCosts, withCostsOf } from '@/core/store/without-costs'
import { demoStore } from '@tests/fixtures/demo-store'
import { EVERY_BUYER, INSTANTS, randomStore } from '@tests/fixtures/random-store'
import fc from 'fast-check'

const BLIND = { hidesCosts: true, accounts: null }

test('whoever is shown no costs is shown the same prices, and not one cost', () => {
  fc.assert(
    fc.property(
      randomStore,
      fc.constantFrom(...EVERY_BUYER),
      fc.constantFrom(...INSTANTS),
      (store, buyer, at) => {
        const whole = prepare(store)
        const blind = narrowed(prepare(store), BLIND)
        const column = (prepared: typeof whole) => {
          const opened = openPricingContext(prepared, buyerContext(buyer, at))
          if (!opened.ok) throw new Error(opened.error.code)
          const { currencyView } = opened.value
          for (const cost of shownAmounts(blind, 'cost', currencyView).values) expect(cost).toBeNaN()
          return computeColumn(prepared, opened.value, quantityUnits(decimal('3'))).prices
        }
        // The one that is blind is asked first, so that nothing of it is kept for the other.
        const prices = column(blind)
        expect(prices).toEqual(column(whole))
        expect(column(wholeOf(blind))).toEqual(prices)
        const { product, variant, extra } = blind.store
        for (const records of [product, variant, extra] as readonly ReadonlyMap<string, object>[])
          expect(JSON.stringify([...records.values()])).not.toMatch(/"cost":"/)
      },
    ),
    { numRuns: 60 },
  )
})

test('a store of some buyers holds their accounts, and the contracts that bind one of them', () => {
  const store = demoStore()
  const [mine] = [...store.account.values()]
  if (!mine) throw new Error('the demo has accounts')
  const shown = narrowed(prepare(store), { hidesCosts: false, accounts: new Set([mine.id]) }).store
  expect([...shown.account.keys()]).toEqual([mine.id])
  for (const { accounts, groups } of shown.contract.values())
    expect(accounts.includes(mine.id) || groups.some((group) => mine.groups.includes(group))).toBe(true)
  expect(shown.contract.size).toBeLessThan(store.contract.size)
  expect(shown.product).toBe(store.product)
})

describe('a record that comes back from somebody who was shown no costs', () => {
  const product = [...demoStore().product.values()].find(({ cost }) => cost !== null)
  if (!product) throw new Error('the demo has costs')

  test.each([
    ['keeps its cost', { ...product, name: 'Other', cost: null }, product.cost],
    ['keeps it where it was sent along', product, product.cost],
  ])('%s', (_, submitted, cost) => {
    expect(withCostsOf(submitted, product)?.cost).toBe(cost)
  })

  test('is refused where it was to cost something else, and has none where it is new', () => {
    expect(withCostsOf({ ...product, cost: decimal('0.01') }, product)).toBeNull()
    expect(withCostsOf({ ...product, cost: decimal('0.01') }, null)).toBeNull()
    expect(withCostsOf({ ...product, cost: null }, null)?.cost).toBeNull()
  })

  test('keeps the costs set in other currencies, even where nothing else is set there', () => {
    const amounts = { basePrice: null, recommendedPrice: null, floor: null }
    const before = { ...product, ownAmounts: { GBP: { ...amounts, cost: decimal('7') } } }
    expect(withCostsOf({ ...product, cost: null, ownAmounts: {} }, before)?.ownAmounts).toEqual(
      before.ownAmounts,
    )
    const lower = { GBP: { ...amounts, cost: decimal('6') } }
    expect(withCostsOf({ ...product, ownAmounts: lower }, before)).toBeNull()
  })

  test('a change of nothing but a cost is none to them', () => {
    const change = { kind: 'product', id: product.id, before: product } as const
    expect(changeWithoutCosts({ ...change, after: { ...product, cost: decimal('1') } })).toBeNull()
    const both = { ...product, cost: decimal('1'), name: 'Other' }
    expect(changeWithoutCosts({ ...change, after: both })?.after).toMatchObject({ cost: null, name: 'Other' })
  })
})

test('a price that started from a cost is explained without it, also within a list it started from', () => {
  const step = (kind: string, rest: object) => ({
    kind,
    amount: decimal('1'),
    currency: 'EUR',
    basis: 'net',
    ...rest,
  })
  const cost = step('reference', { field: 'cost', from: 'product', isOwn: false })
  const base = step('reference', { field: 'basePrice', from: 'product', isOwn: false })
  const steps = [
    step('list-reference', { list: 'a', steps: [cost, base] }),
    cost,
  ] as unknown as readonly TraceStep[]
  expect(stepsWithoutCosts(steps)).toEqual([step('list-reference', { list: 'a', steps: [base] })])
})

test('what a permission needs comes with it, whichever are given', () => {
  fc.assert(
    fc.property(fc.subarray([...PERMISSIONS]), (given) => {
      const all = withWhatTheyNeed(given)
      expect(all).toContain('prices:look')
      for (const each of given) expect(all).toContain(each)
      expect(withWhatTheyNeed(all)).toEqual(all)
      if (all.includes('live:edit') || all.includes('store:export')) expect(all).toContain('costs:see')
    }),
  )
})
