import { decimal } from '@/core/decimal/decimal'
import { ask } from '@/core/engine/ask'
import { prepare, refresh } from '@/core/engine/prepare'
import { computeColumn, findPrice } from '@/core/engine/price-column'
import { fromUnits } from '@/core/engine/price-step'
import { applyChanges, type Change, reverseChanges, type Store } from '@/core/store/store'
import { EVERY_BUYER, EVERY_VARIANT, randomStore } from '@tests/fixtures/random-store'
import { referencePrice } from '@tests/reference/reference-price'
import fc from 'fast-check'

/** Every price of a store as the engine gives it, with the deciding list. */
function everyPrice(prepared: ReturnType<typeof prepare>): readonly string[] {
  return EVERY_BUYER.flatMap((buyer) =>
    EVERY_VARIANT.map((variant) => {
      const found = findPrice(prepared, buyer, variant)
      return `${JSON.stringify(buyer)} ${variant} ${found?.units} ${found?.list}`
    }),
  )
}

test('answers, traces and columns agree with the plain reference on random stores', () => {
  fc.assert(
    fc.property(randomStore, (store) => {
      const prepared = prepare(store)
      for (const buyer of EVERY_BUYER) {
        const column = computeColumn(prepared, buyer)
        for (const variant of EVERY_VARIANT) {
          const expected = referencePrice(store, buyer, variant)
          const asked = ask(prepared, { buyer, variant })
          if (!asked.ok) throw new Error(asked.error.code)
          const { unit, trace } = asked.value
          const won = trace.winner.kind === 'list' ? trace.winner.at : { list: null, line: null }
          const losers = trace.losers
            .map(({ at, reason, price }) => `${at.list}/${at.line} ${reason.code} ${price}`)
            .sort()
          expect({ unit, ...won, losers }).toEqual(expected)

          const found = findPrice(prepared, buyer, variant)
          const number = prepared.index.numberOf.get(variant) as number
          const units = column?.prices[number] as number
          expect(found?.list).toBe(expected.list)
          expect(units).toBe(found?.units)
          expect(Number.isNaN(units) ? null : fromUnits(units, 2)).toBe(expected.unit)
          expect(column?.lists[column.sources[number] as number] ?? null).toBe(expected.list)
        }
      }
    }),
    { numRuns: 300 },
  )
})

test('the steps of a trace lead from the base price to the answer', () => {
  fc.assert(
    fc.property(
      randomStore,
      fc.constantFrom(...EVERY_BUYER),
      fc.constantFrom(...EVERY_VARIANT),
      (store, buyer, variant) => {
        const asked = ask(prepare(store), { buyer, variant })
        if (!asked.ok) throw new Error(asked.error.code)
        const { unit, trace } = asked.value
        expect(trace.steps.at(-1)?.amount ?? null).toBe(unit)
        expect(trace.winner.kind === 'none').toBe(unit === null)
      },
    ),
  )
})

test('a refreshed store answers like one prepared from nothing, there and back', () => {
  fc.assert(
    fc.property(
      randomStore,
      randomStore,
      fc.array(fc.nat(), { minLength: 1, maxLength: 4 }),
      (before, other, picks) => {
        const all = differences(before, other)
        const changes = [...new Set(picks)].flatMap((pick) => all[pick % all.length] ?? [])
        const unique = [...new Map(changes.map((change) => [`${change.kind}/${change.id}`, change])).values()]
        // A line without its list, or a list whose lines stay behind, is refused before it reaches the engine.
        const after = applyChanges(before, unique)
        const orphaned = [...after['price-line'].values()].some((line) => !after['price-list'].has(line.list))
        fc.pre(!orphaned)
        const there = refresh(prepare(before), after, unique)
        expect(everyPrice(there)).toEqual(everyPrice(prepare(after)))
        const back = refresh(there, applyChanges(after, reverseChanges(unique)), reverseChanges(unique))
        expect(everyPrice(back)).toEqual(everyPrice(prepare(before)))
      },
    ),
    { numRuns: 200 },
  )
})

/** Everything that would turn one store into another. */
function differences(from: Store, to: Store): readonly Change[] {
  const kinds = ['category', 'product', 'variant', 'group', 'account', 'price-list', 'price-line'] as const
  return kinds.flatMap((kind) =>
    [...new Set([...from[kind].keys(), ...to[kind].keys()])].map(
      (id) => ({ kind, id, before: from[kind].get(id) ?? null, after: to[kind].get(id) ?? null }) as Change,
    ),
  )
}

test('unknown buyers and variants are named, not guessed', () => {
  fc.assert(
    fc.property(randomStore, (store) => {
      const prepared = prepare(store)
      const nobody = { kind: 'account', account: 'nobody' } as const
      expect(ask(prepared, { buyer: nobody, variant: 'p0-s' })).toEqual({
        ok: false,
        error: { code: 'unknown-buyer', buyer: nobody },
      })
      expect(ask(prepared, { buyer: { kind: 'guest' }, variant: 'p9' })).toEqual({
        ok: false,
        error: { code: 'unknown-variant', variant: 'p9' },
      })
    }),
    { numRuns: 5 },
  )
})

test('prices beyond the exact range of doubles are still exact', () => {
  fc.assert(
    fc.property(randomStore, fc.bigInt({ min: 2n ** 44n, max: 2n ** 50n }), (store, units) => {
      const variant = store.variant.get('p0-s')
      if (!variant) throw new Error('no variant')
      const priced = applyChanges(store, [
        {
          kind: 'variant',
          id: variant.id,
          before: variant,
          after: { ...variant, basePrice: decimal((units / 100n).toString()) },
        },
      ])
      const prepared = prepare(priced)
      for (const buyer of EVERY_BUYER) {
        const found = findPrice(prepared, buyer, 'p0-s')?.units as number
        expect(fromUnits(found, 2)).toBe(referencePrice(priced, buyer, 'p0-s').unit)
      }
    }),
  )
})

test('the same options in another order are no reason to number the catalogue anew', () => {
  fc.assert(
    fc.property(randomStore, (store) => {
      const record = store.variant.get('p0-s')
      if (!record) throw new Error('no variant')
      const variant = { ...record, options: { size: 's', colour: 'red' } }
      const before = applyChanges(store, [
        { kind: 'variant', id: variant.id, before: record, after: variant },
      ])
      const after = { ...variant, options: { colour: 'red', size: 's' }, basePrice: decimal(7) }
      const change: Change = { kind: 'variant', id: variant.id, before: variant, after }
      const prepared = prepare(before)
      expect(refresh(prepared, applyChanges(before, [change]), [change]).index).toBe(prepared.index)
    }),
    { numRuns: 5 },
  )
})
