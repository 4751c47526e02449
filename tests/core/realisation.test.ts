import { add, decimal, sum } from '@/core/decimal/decimal'
import { openPricingContextExactly } from '@/core/engine/price/open-pricing-context'
import { prepare } from '@/core/engine/prepare'
import { priceCart } from '@/core/cart/price-cart'
import { makeOrder } from '@/core/order/make-order'
import type { OrderEvent } from '@/core/order/order-event'
import { realisationOf } from '@/core/order/realisation'
import { standingOf } from '@/core/order/standing'
import { groupBy } from '@/core/maps/group-by'
import { orderDocument } from '@tests/fixtures/order-document'
import { EVERY_VARIANT, randomQuestion, randomStore } from '@tests/fixtures/random-store'
import fc from 'fast-check'

const event = (step: OrderEvent['step'], document: number | null = null): OrderEvent => ({
  ...{ step, document, at: 0, author: 'Maeve' },
})

test('a line from base price to what was kept of it, its cost with it', () => {
  const order = orderDocument([{ variant: 'a', quantity: decimal(4) }])
  const [whole] = realisationOf(order, standingOf(order, []).lines)
  // Four at 5.50 are 22.00; they were sold at 10.00 in all, and cost 3.00 each.
  expect(whole).toMatchObject({
    ...{ base: '22', agreed: { by: 'list', amount: '-12' }, promoted: '0', net: '10' },
    ...{ credited: '0', kept: '10', cost: '12' },
  })
  const sent = event({ kind: 'send', parts: [{ line: 0, quantity: decimal(4) }], tracking: '' })
  const back = event({
    ...{ kind: 'return', parts: [{ line: 0, quantity: decimal(1) }], reason: 'one too many', restocks: true },
  })
  const [kept] = realisationOf(order, standingOf(order, [sent, back]).lines)
  expect(kept).toMatchObject({ net: '10', credited: '-2.5', kept: '7.5', cost: '9' })
})

test.each([
  ['a list', {}, 'list'],
  ['a contract', { contract: 'c' }, 'contract'],
  [
    'a quote',
    {
      contract: 'c',
      trace: [
        {
          ...{ kind: 'settled', by: { kind: 'quote', quote: 1 }, currency: 'EUR', basis: 'net' },
          amount: decimal(1),
        },
      ],
    },
    'settled',
  ],
])('what was agreed by %s is told as that', (_what, more, by) => {
  const order = orderDocument([{ variant: 'a', quantity: decimal(1) }])
  const changed = { ...order, lines: order.lines.map((line) => ({ ...line, ...(more as object) })) }
  expect(realisationOf(changed, standingOf(changed, []).lines)[0]?.agreed.by).toBe(by)
})

test('in random orders the steps lead to what was paid, to the last unit', () => {
  const wanted = fc.array(
    fc.record({ variant: fc.constantFrom(...EVERY_VARIANT), quantity: fc.integer({ min: 1, max: 30 }) }),
    { minLength: 1, maxLength: 4 },
  )
  fc.assert(
    fc.property(
      randomStore,
      randomQuestion,
      wanted,
      fc.integer({ min: 0, max: 3 }),
      (store, question, some, gone) => {
        const prepared = prepare(store)
        const lines = some.map(({ variant, quantity }) => ({
          variant,
          quantity: decimal(quantity),
          extras: [],
        }))
        const opened = openPricingContextExactly(prepared, question)
        const priced = priceCart(prepared, { ...question, lines, past: [] })
        if (!opened.ok || !priced.ok) return
        const order = makeOrder(prepared, opened.value, priced.value, {
          ...{ buyer: '', email: '', payment: 'card', reference: '', placedBy: null, changeSet: null },
          address: { name: '', street: '', postcode: '', city: '', state: '', country: 'IE' },
        })
        const [first] = order.lines
        const parts = first ? [{ line: 0, quantity: first.quantity }] : []
        const events =
          gone === 0 || !first
            ? []
            : [
                event({ kind: 'send', parts, tracking: '' }),
                event({ kind: 'return', parts, reason: 'x', restocks: false }),
              ]
        const standing = standingOf(order, events)
        for (const each of realisationOf(order, standing.lines)) {
          expect(each.kept).toBe(add(each.net, each.credited))
          if (each.base !== null)
            expect(sum([each.base, each.agreed.amount, each.promoted, each.credited])).toBe(each.kept)
        }
      },
    ),
    { numRuns: Number(process.env['STEPPE_RUNS'] ?? 40) },
  )
})

test('things under the key of each, in their order', () => {
  expect([...groupBy([3, 1, 4, 1, 5], (each) => each % 2)]).toEqual([
    [1, [3, 1, 1, 5]],
    [0, [4]],
  ])
})
