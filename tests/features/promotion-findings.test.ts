import { withChanges } from '@/core/engine/prepare'
import type { Promotion } from '@/core/promotions/promotion'
import { loadClashes } from '@/features/promotions/load-clashes'
import { loadFindings } from '@/features/promotions/load-findings'
import { pricingContextOf, type RequestContext } from '@/server/engine/request-context'
import { decimal } from '@/core/decimal/decimal'
import { lookAs, prepared, store } from '@tests/fixtures/demo-request'

const suits = store.promotion.get('promotion-winter-suits') as Promotion
const tools = store.promotion.get('promotion-tools-three-for-two') as Promotion

/** The demo with a promotion as it would be. */
function lookWith(promotion: Promotion): RequestContext {
  const look = lookAs('guest')
  const before = store.promotion.get(promotion.id) ?? null
  const next = withChanges(prepared, [{ kind: 'promotion', id: promotion.id, before, after: promotion }])
  return { ...look, prepared: next, pricingContext: pricingContextOf(next, look.buyerContext) }
}

async function findings(promotion: Promotion): Promise<readonly string[]> {
  const found = await loadFindings(lookWith(promotion), promotion)
  return found.map(({ text, link }) => [text, link?.name].filter(Boolean).join(' '))
}

test('a promotion that is well has nothing to look at', async () => {
  expect(await findings(suits)).toEqual([])
})

test('what can never hold is said where it is set, and why', async () => {
  const nowhere = { include: [{ kind: 'family' as const, family: 'none' }], exclude: [] }
  expect(await findings({ ...suits, scope: nowhere })).toEqual([
    'It can never hold: nothing that is sold is in it.',
  ])
  expect(
    await findings({
      ...suits,
      conditions: [{ kind: 'first-order' }, { kind: 'orders', from: 2, days: null }],
    }),
  ).toEqual(['It can never hold: a first order comes before any other.'])
  expect(
    await findings({
      ...suits,
      conditions: [
        { kind: 'payment', payment: 'card' },
        { kind: 'payment', payment: 'terms' },
      ],
    }),
  ).toEqual(['It can never hold: an order is paid in one way.'])
  const value: Promotion['value'] = {
    kind: 'set',
    parts: [
      { count: 1, scope: null },
      { count: 1, scope: nowhere },
    ],
    saving: { kind: 'percent', percent: decimal(10) },
  }
  expect(await findings({ ...tools, value })).toContain(
    'It can never hold: nothing that it is for fits part 2 of the set.',
  )
})

test('what is over and still on, sells below cost, or fights with an equal is said', async () => {
  const over = { ...suits.schedule, to: '2026-11-20T00:00' }
  expect(await findings({ ...suits, schedule: over })).toEqual(['It is over, and still switched on.'])
  const half = { kind: 'percent' as const, percent: decimal(60) }
  const cheap = { ...suits, value: { kind: 'item-price' as const, saving: half, closes: false } }
  expect(await findings(cheap)).toEqual([
    expect.stringMatching(/^It sells \d+ variants below cost to guests\.$/),
  ])
  const rival = { ...tools, id: 'rival', code: 'rival', name: 'Rival' }
  expect(await findings(rival)).toEqual([
    expect.stringMatching(/^It has the same priority, on \d+ variants, as Three hive tools for two$/),
  ])
  const [first] = await loadClashes(lookWith(rival))
  expect((await loadClashes(lookWith(rival))).map(({ outcome }) => outcome)).toContain('saves-more')
  expect(first?.count).toBeGreaterThan(0)
})
