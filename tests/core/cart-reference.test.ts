import type { CartQuestion } from '@/core/cart/cart'
import { priceCart } from '@/core/cart/price-cart'
import { decimal } from '@/core/decimal/decimal'
import { prepare } from '@/core/engine/prepare'
import { EVERY_VARIANT } from '@tests/fixtures/random-store'
import { randomTaxedQuestion, randomTaxedStore } from '@tests/fixtures/random-taxes'
import { referenceCart } from '@tests/reference/reference-cart'
import fc from 'fast-check'

const RUNS = Number(process.env['STEPPE_RUNS'] ?? 400)
// The same stores each time: what finds new ones is a run by hand with STEPPE_SEED and more STEPPE_RUNS.
fc.configureGlobal({ seed: Number(process.env['STEPPE_SEED'] ?? 20_261_128) })

const line = fc.record({
  variant: fc.constantFrom(...EVERY_VARIANT),
  quantity: fc.constantFrom('1', '2', '3', '7', '9', '12.5', '0.333', '50').map(decimal),
  extras: fc.constantFrom([], [], [], ['engraving']),
})

const randomCart: fc.Arbitrary<CartQuestion> = fc
  .tuple(randomTaxedQuestion, fc.array(line, { minLength: 1, maxLength: 5 }))
  .map(([{ buyer, channel, deliverTo, currency, passcode, at }, lines]) => ({
    ...{ buyer, channel, deliverTo, currency, passcode, at },
    lines,
    past: [],
  }))

type Amount = { readonly net: string; readonly tax: string; readonly gross: string }
const told = ({ net, tax, gross }: Amount) => [net, tax, gross]

test('carts agree with the plain reference: mixed bases, brackets over lines, levies upon levies, both roundings', () => {
  fc.assert(
    fc.property(randomTaxedStore, fc.array(randomCart, { minLength: 2, maxLength: 4 }), (store, carts) => {
      const prepared = prepare(store)
      for (const asked of carts) {
        const cart = priceCart(prepared, asked)
        if (!cart.ok) throw new Error(cart.error.code)
        const { lines, delivery, total, taxes, untaxed } = cart.value
        expect({
          lines: lines.map(({ amount }) => amount && told(amount)),
          delivery: told(delivery),
          total: told(total),
          taxes: taxes.map(({ levy, on, amount }) => `${levy.tax.id} ${levy.percent} ${on} ${amount}`).sort(),
          untaxed,
        }).toEqual(referenceCart(store, asked))
      }
    }),
    { numRuns: RUNS, endOnFailure: true },
  )
})
