import { decimal } from '@/core/decimal/decimal'
import { readWhat } from '@/core/notation/what-text'
import type { What, WhatTerm } from '@/core/predicates/what'
import { histogramOf } from '@/features/pickers/histogram'
import { matchedBy } from '@/features/pickers/matched-scope'
import { findItems, whatChoices } from '@/features/pickers/what-choices'
import { branchMark, itemMark, leaveOutWhat, takeInWhat } from '@/ui/picker/what/what-marks'
import { priceSpanOf, stockOf, withoutPriceSpan, withPriceSpan, withStock } from '@/ui/picker/what/narrowed'
import { withoutLast } from '@/ui/picker/term-sets'
import type { BranchChoice, WhatChoices } from '@/ui/picker/what/what-choices'
import { lookAs, store } from '@tests/fixtures/demo-request'
import fc from 'fast-check'

const guest = lookAs('guest')
const NOTHING: What = { include: [], exclude: [] }
let choices: WhatChoices
beforeAll(async () => {
  choices = await whatChoices(guest, NOTHING)
})
const branch = (name: string) => choices.branches.find((each) => each.name === name) as BranchChoice

test('every choice reads back from its text as its term', async () => {
  const { attributes } = await matchedBy(guest, NOTHING)
  const all = [...choices.branches, ...attributes.flatMap(({ values }) => values), ...choices.others]
  for (const { term, text } of all)
    expect(readWhat(store, text)).toEqual({ ok: true, value: { include: [term], exclude: [] } })
  expect(all.length).toBeGreaterThan(50)
})

test('the foot counts what the rule matches, the lowest margin first', async () => {
  const frames = takeInWhat(NOTHING, branch('Frames').term)
  const matched = await matchedBy(guest, frames)
  expect(matched).toMatchObject({ variants: branch('Frames').variants, products: 6, extras: 0 })
  expect(matched.rows[0]).toMatchObject({ name: 'Brood frames', margin: '32.4 %' })
  expect(await matchedBy(guest, NOTHING)).toMatchObject({ variants: 0, rows: [] })
  const everything = await matchedBy(guest, takeInWhat(frames, { kind: 'everything' }))
  expect(everything.variants).toBe(
    [...store.variant.values()].filter(({ status }) => status === 'active').length,
  )
})

test('branches above and below what is chosen or left out are marked', () => {
  const { branches } = choices
  const mark = (what: What, name: string) => branchMark(branch(name), what, branches)
  const what = leaveOutWhat(
    takeInWhat(NOTHING, branch('Frames and foundation').term),
    branch('Foundation').term,
  )
  expect(mark(what, 'Frames and foundation')).toBe('chosen')
  expect(mark(what, 'Frames')).toBe('through')
  expect(mark(what, 'Foundation')).toBe('out')
  expect(mark(what, 'Hives')).toBe('none')
  const one = takeInWhat(NOTHING, branch('Frames').term)
  expect(mark(one, 'Frames and foundation')).toBe('part')
  const all = leaveOutWhat(takeInWhat(NOTHING, { kind: 'everything' }), branch('Frames').term)
  expect(mark(all, 'Frames and foundation')).toBe('part')
  expect(mark(all, 'Hives')).toBe('through')
})

test('products are found by part of their name, and stand as their branch does', async () => {
  const found = await findItems(guest, 'brood')
  const frames = found.find(({ name }) => name === 'Brood frames')!
  expect(itemMark(frames, NOTHING)).toBe('none')
  const what = takeInWhat(NOTHING, branch('Frames').term)
  expect(itemMark(frames, what)).toBe('through')
  expect(itemMark(frames, leaveOutWhat(what, frames.term))).toBe('out')
  expect(await findItems(guest, ' ')).toEqual([])
})

test('no term is both in and out, and the last word goes first', () => {
  const terms = choices.branches.map(({ term }) => term)
  const key = (term: WhatTerm) => JSON.stringify(term)
  fc.assert(
    fc.property(
      fc.array(fc.tuple(fc.constantFrom(...terms), fc.boolean()), { minLength: 1, maxLength: 6 }),
      (steps) => {
        const what = steps.reduce<What>(
          (now, [term, isIn]) => (isIn ? takeInWhat(now, term) : leaveOutWhat(now, term)),
          NOTHING,
        )
        const out = what.exclude.map(key)
        expect(what.include.map(key).filter((each) => out.includes(each))).toEqual([])
        const count = ({ include, exclude }: What) => include.length + exclude.length
        expect(count(withoutLast(what))).toBe(Math.max(0, count(what) - 1))
      },
    ),
  )
})

test('what is matched is counted by branch and by attribute, and its values are all there is to choose', async () => {
  const frames = takeInWhat(NOTHING, branch('Frames').term)
  const { variants, branches, attributes } = await matchedBy(guest, frames)
  expect(branches[branch('Frames').id]).toBe(variants)
  expect(branches[branch('Frames and foundation').id]).toBe(variants)
  expect(branches[branch('Hives').id]).toBeUndefined()
  const supplied = attributes.find(({ name }) => name === 'Supplied')!
  const counted = [...store.variant.values()].filter(
    ({ product, options }) =>
      store.product
        .get(product)
        ?.categories.some((id) => store.category.get(id)?.parent === branch('Frames').id) &&
      options['Supplied'] === 'flat-packed',
  ).length
  expect(counted).toBeGreaterThan(0)
  expect(supplied.values.find(({ value }) => value === 'flat-packed')).toMatchObject({ matched: counted })
  const all = (await matchedBy(guest, NOTHING)).attributes
  expect(all.length).toBeGreaterThan(attributes.length)
})

const CASES: readonly (readonly [string, What])[] = [
  ['nothing', NOTHING],
  ['a branch', { include: [{ kind: 'attribute', name: 'Timber', value: 'Pine' }], exclude: [] }],
  ['a span alone', { include: [{ kind: 'price-range', from: decimal('3'), to: null }], exclude: [] }],
  [
    'several, with some left out',
    {
      include: [{ kind: 'everything' }, { kind: 'stock', state: 'in-stock' }],
      exclude: [{ kind: 'attribute', name: 'Timber', value: 'Pine' }],
    },
  ],
]

test.each(CASES)('narrowing %s to a span of prices or a state of stock is read back', (_name, what) => {
  const side = fc.option(fc.integer({ min: 1, max: 500 }).map((cents) => decimal(cents)))
  fc.assert(
    fc.property(side, side, (from, to) => {
      const narrowed = withPriceSpan(what, { from, to })
      expect(priceSpanOf(narrowed)).toEqual({ from, to })
      expect(withPriceSpan(narrowed, { from: null, to: null })).toEqual(withoutPriceSpan(what))
    }),
  )
  for (const stock of ['any', 'in-stock', 'out-of-stock'] as const)
    expect(stockOf(withStock(what, stock))).toBe(stock)
})

test('a scope narrowed to a span holds just what it held before and what lies inside', async () => {
  const frames = takeInWhat(NOTHING, branch('Frames and foundation').term)
  const before = await matchedBy(guest, frames)
  const span = { from: decimal('10'), to: decimal('40') }
  const after = await matchedBy(guest, withPriceSpan(frames, span))
  const inside = [...store.variant.values()].filter((variant) => {
    const product = store.product.get(variant.product)!
    const price = Number(variant.basePrice ?? product.basePrice)
    const isIn = before.branches[branch('Frames and foundation').id]
    return isIn && price >= 10 && price < 40 && reaches(product.categories, 'Frames and foundation')
  })
  expect(after.variants).toBe(inside.length)
  // The histogram still shows what there is to widen it to.
  expect(after.prices).toEqual(before.prices)
})

function reaches(categories: readonly string[], name: string): boolean {
  return categories.some((id) => {
    for (let at = store.category.get(id); at; at = store.category.get(at.parent ?? ''))
      if (at.name === name) return true
    return false
  })
}

test('every value falls between two edges of its histogram', () => {
  fc.assert(
    fc.property(
      fc.array(fc.integer({ min: -5000, max: 500_000 }), { minLength: 1, maxLength: 40 }),
      fc.constantFrom('even' as const, 'by-ratio' as const),
      (cents, scale) => {
        const values = cents.map((each) => each / 100)
        const { edges, counts } = histogramOf(values, scale)!
        const numbers = edges.map(Number)
        expect(numbers).toEqual([...new Set(numbers)].sort((left, right) => left - right))
        expect(Math.min(...values)).toBeGreaterThanOrEqual(numbers[0]!)
        expect(Math.max(...values)).toBeLessThan(numbers.at(-1)!)
        expect(counts).toEqual(
          numbers
            .slice(0, -1)
            .map((edge, at) => values.filter((value) => value >= edge && value < numbers[at + 1]!).length),
        )
        expect(counts.length).toBeLessThan(20)
      },
    ),
    { examples: [[[117_600, 117_730], 'even']] },
  )
})
