import { decimal } from '@/core/decimal/decimal'
import { ask } from '@/core/engine/ask'
import { findLimits } from '@/core/engine/rules/find-limits'
import { findRights } from '@/core/engine/rules/find-rights'
import { openPricingContext } from '@/core/engine/price/open-pricing-context'
import { prepare, refresh } from '@/core/engine/prepare'
import type { PreparedStore } from '@/core/engine/context/prepared-store'
import type { Question } from '@/core/engine/context/buyer-context'
import { LIMIT_FIELDS } from '@/core/limits/limit'
import { isAllowed, nearestQuantities } from '@/core/limits/nearest-quantities'
import { applyChanges, reverseChanges, type Change } from '@/core/store/store'
import { randomGuardedQuestion, randomGuardedStore } from '@tests/fixtures/random-terms'
import { referencePrice } from '@tests/reference/reference-price'
import { referenceLimits, referenceRights, triedNearest } from '@tests/reference/reference-terms'
import fc from 'fast-check'

const RUNS = Number(process.env['STEPPE_RUNS'] ?? 400)
// The same stores each time: what finds new ones is a run by hand with STEPPE_SEED and more STEPPE_RUNS.
fc.configureGlobal({ seed: Number(process.env['STEPPE_SEED'] ?? 20_261_128) })

function look(prepared: PreparedStore, question: Question) {
  const opened = openPricingContext(prepared, question)
  if (!opened.ok) throw new Error(opened.error.code)
  const number = prepared.index.numberOf.get(question.variant) as number
  return { pricingContext: opened.value, number }
}

function rightsOf(prepared: PreparedStore, question: Question) {
  const { pricingContext, number } = look(prepared, question)
  const { see, seePrice, buy, quote, because } = findRights(prepared, pricingContext, number)
  return {
    may: [see && 'see', seePrice && 'price', buy && 'buy', quote && 'quote'].filter(Boolean).join(' '),
    because: because === null ? '' : because.code === 'rule' ? because.rule : because.code,
  }
}

function limitsOf(prepared: PreparedStore, question: Question) {
  const { pricingContext, number } = look(prepared, question)
  const { limits, setBy } = findLimits(prepared, pricingContext, number)
  return Object.fromEntries(
    LIMIT_FIELDS.map((field) => {
      const source = setBy[field]
      const level = source?.kind === 'rule' ? source.rule : source?.kind
      return [field, level ? `${JSON.stringify(limits[field])} by ${level}` : '']
    }),
  )
}

test('rights and limits agree with the plain reference, and the answer with both', () => {
  fc.assert(
    fc.property(
      randomGuardedStore,
      fc.array(randomGuardedQuestion, { minLength: 6, maxLength: 12 }),
      (store, questions) => {
        const prepared = prepare(store)
        for (const question of questions) {
          const { offered } = referencePrice(store, { ...question, passcode: null })
          const expected = referenceRights(store, question, offered)
          expect(rightsOf(prepared, question)).toEqual(expected)
          expect(limitsOf(prepared, question)).toEqual(referenceLimits(store, question))
          const asked = ask(prepared, { ...question, extras: [] })
          if (!asked.ok) throw new Error(asked.error.code)
          const { see, buy, quote, unit, accessRules, limitRules } = asked.value
          expect(see).toBe(expected.may.startsWith('see'))
          expect(buy).toBe(expected.may.includes('buy') && unit !== null)
          expect(quote).toBe(expected.may.includes('quote'))
          // Every rule of the store is accounted for in the trace, and no more than one decides what is allowed.
          expect(accessRules).toHaveLength(store['access-rule'].size)
          expect(limitRules).toHaveLength(store.limit.size)
          expect(accessRules.filter(({ standing }) => standing === 'decides').length).toBeLessThan(2)
        }
      },
    ),
    { numRuns: RUNS, endOnFailure: true },
  )
})

test('a store refreshed by edits of terms answers as one prepared from nothing', () => {
  fc.assert(
    fc.property(
      randomGuardedStore,
      fc.array(randomGuardedQuestion, { minLength: 4, maxLength: 6 }),
      fc.integer({ min: 0, max: 5 }),
      (store, questions, which) => {
        const prepared = prepare(store)
        for (const question of questions) rightsOf(prepared, question)
        const rules = [...store['access-rule'].values(), ...store.limit.values()]
        const rule = rules[which % Math.max(1, rules.length)]
        if (!rule) return
        const kind = 'effect' in rule ? 'access-rule' : 'limit'
        const changes = [{ kind, id: rule.id, before: rule, after: null }] as readonly Change[]
        const without = applyChanges(store, changes)
        const refreshed = refresh(prepared, without, changes)
        const anew = prepare(without)
        const back = refresh(refreshed, store, reverseChanges(changes))
        for (const question of questions) {
          expect(rightsOf(refreshed, question)).toEqual(rightsOf(anew, question))
          expect(limitsOf(refreshed, question)).toEqual(limitsOf(anew, question))
          expect(rightsOf(back, question)).toEqual(rightsOf(prepared, question))
          expect(limitsOf(back, question)).toEqual(limitsOf(prepared, question))
        }
      },
    ),
    { numRuns: Math.ceil(RUNS / 4), endOnFailure: true },
  )
})

test('the nearest right quantities are those that trying one after the other finds', () => {
  fc.assert(
    fc.property(randomGuardedStore, fc.integer({ min: 1, max: 30 }), (store, quantity) => {
      for (const limits of [
        ...store.limit.values(),
        ...[...store.product.values()].map((each) => each.limits),
      ]) {
        const isRight = (pieces: number) => {
          const { minimum, maximum, multiple, values } = limits
          return (
            (minimum === null || pieces >= Number(minimum)) &&
            (maximum === null || pieces <= Number(maximum)) &&
            (multiple === null || pieces % Number(multiple) === 0) &&
            (values === null || values.some((value) => Number(value.quantity) === pieces))
          )
        }
        expect(nearestQuantities(decimal(quantity), limits)).toEqual(triedNearest(quantity, isRight, 90))
        expect(isAllowed(decimal(quantity), limits)).toBe(isRight(quantity))
      }
    }),
    { numRuns: Math.ceil(RUNS / 2), endOnFailure: true },
  )
})
