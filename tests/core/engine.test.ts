import { ask } from '@/core/engine/ask'
import { quantityUnits } from '@/core/engine/lists/compiled-line'
import { findOffer } from '@/core/engine/rules/offer'
import { openPricingContext } from '@/core/engine/price/open-pricing-context'
import { findPrice } from '@/core/engine/price/find-price'
import { prepare, refresh, restocked } from '@/core/engine/prepare'
import type { PreparedStore } from '@/core/engine/context/prepared-store'
import { columnPrice, computeColumn } from '@/core/engine/column/price-column'
import { toPrice } from '@/core/engine/lists/price-step'
import type { Question } from '@/core/engine/context/buyer-context'
import { applyChanges, type Change, reverseChanges, type Store } from '@/core/store/store'
import {
  EVERY_BUYER,
  EVERY_VARIANT,
  INSTANTS,
  randomQuestion,
  randomStore,
} from '@tests/fixtures/random-store'
import { randomTaxedQuestion, randomTaxedStore } from '@tests/fixtures/random-taxes'
import { referencePrice } from '@tests/reference/reference-price'
import fc from 'fast-check'

const RUNS = Number(process.env['STEPPE_RUNS'] ?? 400)
// The same stores each time: what finds new ones is a run by hand with STEPPE_SEED and more STEPPE_RUNS.
fc.configureGlobal({ seed: Number(process.env['STEPPE_SEED'] ?? 20_261_128) })

function pricingContextOf(prepared: PreparedStore, question: Question) {
  const opened = openPricingContext(prepared, question)
  if (!opened.ok) throw new Error(opened.error.code)
  return opened.value
}

/** What the engine says by its three ways, in the words of the reference. */
function answerOf(prepared: PreparedStore, question: Question, extra: string | null) {
  const asked = ask(prepared, question)
  if (!asked.ok) throw new Error(asked.error.code)
  const { trace, currency } = asked.value
  const found = asked.value.extras[0]
  const priced =
    extra === null || !found
      ? { unit: asked.value.item, basis: asked.value.basis, trace }
      : { unit: found.unit?.amount ?? null, basis: found.unit?.basis, trace: found.trace }
  const { winner, losers } = priced.trace
  return {
    currency,
    unit: priced.unit,
    basis: priced.unit === null ? null : priced.basis,
    list: winner.kind === 'list' ? winner.at.list : null,
    line: winner.kind === 'list' ? winner.at.line : null,
    contract: winner.kind === 'list' ? winner.contract : null,
    losers: losers.map(({ at, reason, price }) => `${at.list}/${at.line} ${reason.code} ${price}`).sort(),
  }
}

test.each([
  ['on random stores and questions', randomStore, randomQuestion],
  ['where amounts with and without tax meet', randomTaxedStore, randomTaxedQuestion],
])('answers and traces agree with the plain reference %s', (_, stores, questionsAbout) => {
  fc.assert(
    fc.property(stores, fc.array(questionsAbout, { minLength: 6, maxLength: 12 }), (store, questions) => {
      const prepared = prepare(store)
      for (const question of questions) {
        for (const extra of question.extras.length > 0 ? [null, 'engraving'] : [null]) {
          const {
            offered,
            after,
            basis,
            digits: _digits,
            exact: _exact,
            together: _together,
            ...expected
          } = referencePrice(store, question, extra)
          const answer = answerOf(prepared, question, extra)
          expect(answer).toEqual({ ...expected, basis: expected.unit === null ? null : basis })
          if (extra !== null) continue
          const pricingContext = pricingContextOf(prepared, question)
          const number = prepared.index.numberOf.get(question.variant) as number
          expect(findOffer(pricingContext, number).offered).toBe(offered)
          const asked = ask(prepared, question)
          const kinds = asked.ok ? asked.value.trace.steps.map((step) => step.kind as string) : []
          for (const kind of ['public', 'floor'])
            expect(kinds.includes(kind === 'public' ? 'public-price' : kind)).toBe(after.includes(kind))
        }
      }
    }),
    { numRuns: RUNS, endOnFailure: true },
  )
})

test.each([
  ['for every buyer and item', randomStore, randomQuestion],
  ['where amounts with and without tax meet', randomTaxedStore, randomTaxedQuestion],
])('columns and single prices agree with the reference %s', (_, stores, questions) => {
  fc.assert(
    fc.property(stores, questions, (store, question) => {
      const prepared = prepare(store)
      for (const buyer of EVERY_BUYER) {
        const asked = { ...question, buyer, basket: [] }
        const pricingContext = pricingContextOf(prepared, asked)
        const quantity = quantityUnits(question.quantity)
        const column = computeColumn(prepared, pricingContext, quantity)
        const again = computeColumn(prepared, pricingContext, quantity)
        expect(again.prices).toEqual(column.prices)
        for (const variant of EVERY_VARIANT) {
          const expected = referencePrice(store, { ...asked, variant })
          const number = prepared.index.numberOf.get(variant) as number
          const found = findPrice(prepared, pricingContext, number, { own: quantity, counted: null })
          expect(toPrice(found.units, pricingContext.digits)).toBe(expected.unit)
          expect(toPrice(column.prices[number] as number, pricingContext.digits)).toBe(expected.unit)
          if (expected.unit !== null) {
            expect(found.basis).toBe(expected.basis)
            expect(columnPrice(prepared, column, number).basis).toBe(expected.basis)
          }
          if (expected.unit !== null)
            expect(column.lists[column.sources[number] as number] ?? null).toBe(expected.list)
        }
      }
    }),
    { numRuns: Math.ceil(RUNS / 4), endOnFailure: true },
  )
})

test('the steps of a trace lead to the answer', () => {
  fc.assert(
    fc.property(randomStore, randomQuestion, (store, question) => {
      const asked = ask(prepare(store), question)
      if (!asked.ok) throw new Error(asked.error.code)
      const { item, trace } = asked.value
      if (item !== null) expect(trace.steps.at(-1)?.amount).toBe(item)
      if (trace.winner.kind === 'none') expect(item).toBeNull()
    }),
    { numRuns: RUNS, endOnFailure: true },
  )
})

test('a pricingContext kept for one instant answers like a fresh one at any other', () => {
  fc.assert(
    fc.property(
      randomStore,
      randomQuestion,
      fc.array(fc.constantFrom(...INSTANTS), { minLength: 2, maxLength: 5 }),
      fc.integer({ min: -40, max: 40 }),
      (store, question, instants, hours) => {
        const prepared = prepare(store)
        for (const instant of instants) {
          const at = instant + hours * 3_600_000
          const kept = answerOf(prepared, { ...question, at }, null)
          const quantity = quantityUnits(question.quantity)
          const pricingContext = pricingContextOf(prepared, { ...question, at })
          const column = computeColumn(prepared, pricingContext, quantity)
          const fresh = prepare(store)
          expect(kept).toEqual(answerOf(fresh, { ...question, at }, null))
          expect(column.prices).toEqual(
            computeColumn(fresh, pricingContextOf(fresh, { ...question, at }), quantity).prices,
          )
        }
      },
    ),
    { numRuns: Math.ceil(RUNS / 2), endOnFailure: true },
  )
})

test('a refreshed store answers like one prepared from nothing, there and back', () => {
  fc.assert(
    fc.property(
      randomStore,
      randomStore,
      fc.array(fc.nat(), { minLength: 1, maxLength: 4 }),
      fc.array(randomQuestion, { minLength: 3, maxLength: 6 }),
      (before, other, picks, questions) => {
        const all = differences(before, other)
        if (all.length === 0) return
        const changes = [...new Set(picks)].flatMap((pick) => all[pick % all.length] ?? [])
        const unique = [...new Map(changes.map((change) => [`${change.kind}/${change.id}`, change])).values()]
        const after = applyChanges(before, unique)
        const prepared = prepare(before)
        const answers = (store: PreparedStore) => questions.map((question) => everything(store, question))
        const first = answers(prepared)
        const refreshed = refresh(prepared, after, unique)
        expect(answers(refreshed)).toEqual(answers(prepare(after)))
        expect(answers(refresh(refreshed, before, reverseChanges(unique)))).toEqual(first)
      },
    ),
    { numRuns: Math.ceil(RUNS / 2), endOnFailure: true },
  )
})

test('edits of figures, one upon another, answer like a store prepared from nothing', () => {
  fc.assert(
    fc.property(
      randomStore,
      fc.array(fc.tuple(fc.nat(), fc.nat()), { minLength: 1, maxLength: 14 }),
      fc.array(randomQuestion, { minLength: 2, maxLength: 4 }),
      (before, picks, questions) => {
        const lines = [...before['price-line'].values()]
        if (lines.length === 0) return
        let store = before
        let prepared = prepare(store)
        for (const [pick, like] of picks) {
          for (const question of questions) everything(prepared, question)
          const { id } = lines[pick % lines.length]!
          const line = store['price-line'].get(id)!
          const { breaks, counting, pricing, rounding } = lines[like % lines.length]!
          // What a list starts from may not go round in a circle, so references stay where they were.
          if (JSON.stringify([line.breaks, breaks]).includes('"list"')) continue
          const after = { ...line, breaks, counting, pricing, rounding }
          const change: Change = { kind: 'price-line', id, before: line, after }
          store = applyChanges(store, [change])
          prepared = refresh(prepared, store, [change])
        }
        for (const question of questions)
          expect(everything(prepared, question)).toEqual(everything(prepare(store), question))
      },
    ),
    { numRuns: Math.ceil(RUNS / 4), endOnFailure: true },
  )
})

test('what runs out and comes in, one upon another, answers like a store prepared from nothing', () => {
  fc.assert(
    fc.property(
      randomStore,
      fc.array(fc.subarray([...EVERY_VARIANT]), { minLength: 1, maxLength: 5 }),
      fc.array(randomQuestion, { minLength: 2, maxLength: 4 }),
      (store, states, questions) => {
        let prepared = prepare(store)
        for (const out of states) {
          for (const question of questions) everything(prepared, question)
          prepared = restocked(prepared, new Set(out))
          const fresh = prepare({ ...store, outOfStock: new Set(out) })
          for (const question of questions)
            expect(everything(prepared, question)).toEqual(everything(fresh, question))
        }
      },
    ),
    { numRuns: Math.ceil(RUNS / 4), endOnFailure: true },
  )
})

function everything(prepared: PreparedStore, question: Question) {
  const pricingContext = pricingContextOf(prepared, question)
  const column = computeColumn(prepared, pricingContext, quantityUnits(question.quantity))
  const prices = EVERY_VARIANT.map((id) => column.prices[prepared.index.numberOf.get(id) as number])
  const own = quantityUnits(question.quantity)
  const look = () =>
    EVERY_VARIANT.map((id) => {
      const number = prepared.index.numberOf.get(id) as number
      return findPrice(prepared, pricingContext, number, { own, counted: null }).units
    })
  expect(look()).toEqual(prices)
  // Asked again it is remembered, and the same.
  expect(look()).toEqual(prices)
  return { answer: answerOf(prepared, question, null), prices }
}

/** Changes that lead part of the way from one store to another, leaving no line without its list. */
function differences(from: Store, to: Store): readonly Change[] {
  return (
    ['product', 'variant', 'price-list', 'price-line', 'account', 'contract', 'adjustment'] as const
  ).flatMap((kind) =>
    [...new Set([...from[kind].keys(), ...to[kind].keys()])].flatMap((id) => {
      const before = from[kind].get(id) ?? null
      const after = to[kind].get(id) ?? null
      return JSON.stringify(before) === JSON.stringify(after) ? [] : [{ kind, id, before, after } as Change]
    }),
  )
}

test('what does not exist is named', () => {
  const [store] = fc.sample(randomStore, 1) as [Store]
  const prepared = prepare(store)
  const [question] = fc.sample(randomQuestion, { numRuns: 1, seed: 7 }) as [Question]
  const codeOf = (changed: Partial<Question>) => {
    const asked = ask(prepared, { ...question, ...changed })
    return asked.ok ? null : asked.error.code
  }
  expect(codeOf({ buyer: { kind: 'account', account: 'nobody' } })).toBe('unknown-buyer')
  // A passcode makes nobody of one who does not exist.
  expect(codeOf({ buyer: { kind: 'account', account: 'nobody' }, passcode: 'any' })).toBe('unknown-buyer')
  expect(codeOf({ variant: 'nothing' })).toBe('unknown-variant')
  expect(codeOf({ variant: 'engraving' })).toBe('unknown-variant')
  expect(codeOf({ channel: 'moon' })).toBe('unknown-channel')
  expect(codeOf({ currency: 'USD' })).toBe('unknown-currency')
  expect(codeOf({ extras: ['gift wrap'] })).toBe('unknown-extra')
  expect(codeOf({ quantity: '0' as Question['quantity'] })).toBe('quantity-not-positive')
})
