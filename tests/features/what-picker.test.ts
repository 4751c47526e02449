import { readWhat } from '@/core/notation/what-text'
import type { What, WhatTerm } from '@/core/predicates/what'
import { findItems, matchedBy, whatChoices } from '@/features/pickers/what-choices'
import { branchMark, itemMark, leaveOutWhat, takeInWhat } from '@/ui/picker/what/what-marks'
import { withoutLast } from '@/ui/picker/term-sets'
import type { BranchChoice, WhatChoices } from '@/ui/picker/what/what-choices'
import { lookAs, store } from '@tests/fixtures/demo-outlook'
import fc from 'fast-check'

const guest = lookAs('guest')
const NOTHING: What = { include: [], exclude: [] }
let choices: WhatChoices
beforeAll(async () => {
  choices = await whatChoices(guest, NOTHING)
})
const branch = (name: string) => choices.branches.find((each) => each.name === name) as BranchChoice

test('every choice reads back from its text as its term', () => {
  const all = [...choices.branches, ...choices.attributes.flatMap(({ values }) => values), ...choices.others]
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
